import type { Part } from "@/core/handouts/parts";
import type { Exception, Plan, PlanMaterial, PlanRow } from "@/core/handouts/plan";
import type { LatePolicy } from "@/core/scores/latePolicy";
import type { ScoreKind } from "@/core/scores/scales";
import type { FinalScore } from "@/core/rounds/roundsRule";
import { NotFound } from "@/core/refusals";
import type { RichDoc } from "@/core/text/richDoc";
import { instantToWall } from "@/core/time/zone";
import type { ReadCall } from "../call";

type Row = {
  assignmentId: string;
  sectionId: string;
  title: string;
  number: number | null;
  emoji: string | null;
  instructions: RichDoc;
  parts: Part[];
  selfAssessment: Plan["work"]["selfAssessment"];
  wordsLeast: number | null;
  wordsMost: number | null;
  openBefore: boolean;
  mayTakeBack: boolean;
  pointsPossible: string | null;
  scoreKind: ScoreKind;
  rubricId: string | null;
  counts: boolean;
  extraCredit: boolean;
  roundsMost: number | null;
  roundsUntil: Date | null;
  finalScore: FinalScore;
  winBackPercent: string;
  clipId: string | null;
  opensAt: Date;
  dueAt: Date;
  closesAt: Date | null;
  promisedAt: Date | null;
  graceMinutes: number;
  audience: "section" | "chosen";
  category: string | null;
  latePolicy: LatePolicy;
  archiveDays: number | null;
  groups: string[];
};

const text = (value: number | string | null): string =>
  value === null ? "" : String(Number(value));

/** A hand-out as the page "Hand out" would have it: to change it, to copy it, to keep it on the Shelf. The caller has asked whose it is. */
export async function planOf(
  { db, who }: ReadCall,
  handOutId: string,
): Promise<Plan & { assignmentId: string; number: number | null }> {
  const [row] = await db<Row[]>`
    select
      assignment.id as assignment_id, hand_out.section_id, assignment.title, assignment.number, assignment.emoji, assignment.instructions, assignment.parts, assignment.self_assessment,
      assignment.words_least, assignment.words_most, assignment.open_before, assignment.may_take_back, assignment.points_possible, assignment.score_kind, assignment.rubric_id,
      assignment.counts, assignment.extra_credit, assignment.rounds_most, assignment.rounds_until, assignment.final_score, assignment.win_back_percent, assignment.clip_id,
      hand_out.opens_at, hand_out.due_at, hand_out.closes_at, hand_out.promised_at, hand_out.grace_minutes, hand_out.audience, category.name as category, hand_out.late_policy, hand_out.archive_days,
      coalesce((select array_agg(group_id::text) from hand_out_group where hand_out_id = hand_out.id), '{}') as groups
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    left join category on category.id = hand_out.category_id
    where hand_out.id = ${handOutId}`;
  if (!row) throw new NotFound();
  const [versions, materials, pieces] = await Promise.all([
    db<
      { id: string; name: string; instructions: RichDoc }[]
    >`select id, name, instructions from assignment_version where assignment_id = ${row.assignmentId} order by name`,
    db<
      {
        id: string;
        kind: string;
        use: "look" | "copy";
        title: string;
        href: string | null;
        uploadId: string | null;
        doc: RichDoc | null;
      }[]
    >`select id, kind, use, title, href, upload_id, doc from material where assignment_id = ${row.assignmentId} order by position`,
    db<
      {
        studentId: string;
        ownDueAt: Date | null;
        ownDueFrom: string | null;
        excused: boolean;
        versionId: string | null;
      }[]
    >`
      select student_id, own_due_at, own_due_from, excused, version_id
      from piece
      where hand_out_id = ${handOutId} and removed_at is null
      order by student_id`,
  ]);
  const wall = (at: Date | null) => at && instantToWall(at, who.zone);
  const exceptions = pieces
    .map((p): Exception => ({
      studentId: p.studentId,
      due: p.ownDueFrom === "teacher" ? wall(p.ownDueAt) : null,
      excused: p.excused,
      versionId: p.versionId,
    }))
    .filter((e) => e.due || e.excused || e.versionId);
  const audience: PlanRow["audience"] =
    row.audience === "section"
      ? { kind: "section" }
      : { kind: "chosen", groups: row.groups, students: pieces.map((p) => p.studentId) };
  return {
    assignmentId: row.assignmentId,
    number: row.number,
    work: {
      title: row.title,
      numbered: row.number !== null,
      emoji: row.emoji ?? "",
      instructions: row.instructions,
      parts: row.parts,
      materials: materials.map(materialOf),
      versions: [...versions],
      selfAssessment: row.selfAssessment,
      mayTakeBack: row.mayTakeBack,
      openBefore: row.openBefore,
      wordsLeast: text(row.wordsLeast),
      wordsMost: text(row.wordsMost),
      clipId: row.clipId,
    },
    rows: [
      {
        sectionId: row.sectionId,
        opens: wall(row.opensAt),
        due: wall(row.dueAt)!,
        closes: wall(row.closesAt),
        promised: wall(row.promisedAt),
        audience,
        exceptions,
      },
    ],
    counting: {
      kind: row.scoreKind,
      points: text(row.pointsPossible),
      category: row.category ?? "",
      counts: row.counts,
      extraCredit: row.extraCredit,
      graceMinutes: row.graceMinutes,
      late: row.latePolicy,
      roundsMost: text(row.roundsMost),
      roundsUntil: wall(row.roundsUntil),
      final: row.finalScore,
      winBackPercent: text(row.winBackPercent),
      rubricId: row.rubricId,
      archiveDays: text(row.archiveDays),
    },
  };
}

function materialOf(row: {
  id: string;
  kind: string;
  use: "look" | "copy";
  title: string;
  href: string | null;
  uploadId: string | null;
  doc: RichDoc | null;
}): PlanMaterial {
  const { id, use, title } = row;
  if (row.kind === "link") return { id, use, title, kind: "link", href: row.href! };
  return row.kind === "file"
    ? { id, use, title, kind: "file", uploadId: row.uploadId! }
    : { id, use, title, kind: "text", doc: row.doc! };
}
