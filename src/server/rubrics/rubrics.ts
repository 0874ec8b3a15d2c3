import {
  carryPicks,
  faultsOfRubric,
  possibleOf,
  scoreOf,
  type Picks,
  type Rubric,
} from "@/core/rubrics/rubric";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import type { RubricView } from "@/core/views/handOutViews";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";

type Row = {
  id: string;
  lineId: string;
  name: string;
  version: number;
  content: Rubric;
  revision: number;
  usedIn: number;
  scoredWith: number;
};

/** A teacher's rubrics, of each the newest version. `scoredWith`: pieces on which its levels were chosen. */
export async function listRubrics({ db, who }: ReadCall): Promise<RubricView[]> {
  requireKind(who, "teacher");
  const rows = await db<Row[]>`
    select distinct on (rubric.line_id)
      rubric.id, rubric.line_id, rubric.name, rubric.version, rubric.content, rubric.revision,
      (select count(*)::int from assignment join rubric other on other.id = assignment.rubric_id where other.line_id = rubric.line_id) as used_in,
      (
        select count(*)::int
        from assignment
        join hand_out on hand_out.assignment_id = assignment.id
        join piece on piece.hand_out_id = hand_out.id
        join feedback on feedback.piece_id = piece.id
        where assignment.rubric_id = rubric.id and feedback.picks <> '{}'
      ) as scored_with
    from rubric
    where rubric.owner_id = ${who.id} and rubric.deleted_at is null
    order by rubric.line_id, rubric.version desc`;
  return rows.map(view).sort((a, b) => a.name.localeCompare(b.name));
}

const view = ({ content, lineId: _, ...row }: Row): RubricView => ({
  ...row,
  rubric: content,
  possible: possibleOf(content),
});

async function one(call: Call, rubricId: string): Promise<RubricView & { lineId: string }> {
  const [line] = await call.tx<
    { lineId: string }[]
  >`select line_id from rubric where id = ${rubricId} and owner_id = ${call.who.id} and deleted_at is null for update`;
  if (!line) throw new NotFound();
  const found = (await listRubrics(call)).find((r) => r.id === rubricId);
  // Not the newest version any more: someone changed it since.
  if (!found)
    throw new Conflict(
      "This rubric was changed in another window. What you typed is still here.",
      null,
    );
  return { ...found, lineId: line.lineId };
}

export type GivenRubric = { name: string; rubric: Rubric };

export async function addRubric(call: Call, given: GivenRubric): Promise<RubricView> {
  const { tx, who, now, newId } = call;
  requireKind(who, "teacher");
  check(given.rubric);
  const id = newId();
  await tx`
    insert into rubric (id, owner_id, name, line_id, version, content, created_at)
    values (${id}, ${who.id}, ${given.name.trim()}, ${id}, 1, ${tx.json(given.rubric as never)}, ${now})`;
  return one(call, id);
}

function check(rubric: Rubric): void {
  const [fault] = faultsOfRubric(rubric);
  if (fault) throw new Invalid({ rubric: fault });
}

/**
 * Changes a rubric. One that was scored with is never changed: a new version is made, and `scores` says
 * what becomes of the work it is in use for: "keep" leaves that work with the old version; "carry" gives
 * it the new one, and takes over the levels chosen in drafts as far as they are still there. Scores that
 * were handed back stay as they were until they are handed back again.
 */
export async function changeRubric(
  call: Call,
  rubricId: string,
  given: GivenRubric & { scores: "keep" | "carry" | null },
  revision: number,
): Promise<RubricView & { carried: number; lost: number }> {
  const { tx, who, now, newId } = call;
  const stored = await one(call, rubricId);
  if (stored.revision !== revision)
    throw new Conflict(
      "This rubric was changed in another window. What you typed is still here.",
      stored,
    );
  check(given.rubric);
  const same = canonicalJson(stored.rubric) === canonicalJson(given.rubric);
  if (same || stored.scoredWith === 0) {
    await tx`update rubric set name = ${given.name.trim()}, content = ${tx.json(given.rubric as never)}, revision = revision + 1 where id = ${rubricId}`;
    return { ...(await one(call, rubricId)), carried: 0, lost: 0 };
  }
  if (given.scores === null)
    throw new Invalid({
      scores: `${stored.scoredWith === 1 ? "A piece was" : `${stored.scoredWith} pieces were`} scored with this rubric. Say what becomes of them.`,
    });
  const id = newId();
  await tx`
    insert into rubric (id, owner_id, name, line_id, version, content, created_at)
    values (${id}, ${who.id}, ${given.name.trim()}, ${stored.lineId}, ${stored.version + 1}, ${tx.json(given.rubric as never)}, ${now})`;
  const outcome =
    given.scores === "carry"
      ? await carry(call, rubricId, id, given.rubric)
      : { carried: 0, lost: 0 };
  return { ...(await one(call, id)), ...outcome };
}

async function carry(
  call: Call,
  from: string,
  to: string,
  rubric: Rubric,
): Promise<{ carried: number; lost: number }> {
  const { tx } = call;
  const drafts = await tx<
    {
      pieceId: string;
      roundNumber: number;
      handOutId: string;
      picks: Picks;
      possible: string | null;
    }[]
  >`
    select feedback.piece_id, feedback.round_number, piece.hand_out_id, feedback.picks, assignment.points_possible as possible
    from feedback
    join piece on piece.id = feedback.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where assignment.rubric_id = ${from} and feedback.picks <> '{}'
    for update of feedback`;
  let lost = 0;
  for (const draft of drafts) {
    const carried = carryPicks(draft.picks, rubric);
    lost += carried.lost;
    const points = draft.possible === null ? null : scoreOf(rubric, carried.kept, draft.possible);
    await tx`
      update feedback
      set picks = ${tx.json(carried.kept as never)}, points = coalesce(${points}, points), score_typed = coalesce(${points}, score_typed), revision = revision + 1
      where piece_id = ${draft.pieceId} and round_number = ${draft.roundNumber}`;
  }
  const changed = await tx<
    { id: string }[]
  >`update assignment set rubric_id = ${to}, revision = revision + 1 where rubric_id = ${from} returning id`;
  for (const handOutId of new Set(drafts.map((d) => d.handOutId)))
    await recordEvent(call, {
      handOutId,
      pieceId: null,
      kind: "rubric changed",
      detail: { assignments: changed.length, lost },
    });
  return { carried: drafts.length, lost };
}

export async function deleteRubric(call: Call, rubricId: string): Promise<{ deleted: true }> {
  const { lineId } = await one(call, rubricId);
  await call.tx`update rubric set deleted_at = ${call.now} where line_id = ${lineId}`;
  return { deleted: true };
}

/** A rubric can be given by its owner, and stays with work that a fellow teacher's section has. */
export async function mayUseRubric({ tx, who }: Call, rubricId: string): Promise<boolean> {
  const [found] = await tx`
    select id
    from rubric
    where id = ${rubricId}
      and (owner_id = ${who.id} or exists (
        select
        from assignment
        join hand_out on hand_out.assignment_id = assignment.id
        join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
        where assignment.rubric_id = rubric.id
      ))`;
  return found !== undefined;
}
