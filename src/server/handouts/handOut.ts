import { studentsFor } from "@/core/handouts/audience";
import type { HandOutDates } from "@/core/handouts/checkDates";
import { expectsOf, latePolicyOf, type Plan, type PlanRow } from "@/core/handouts/plan";
import { isScored } from "@/core/scores/scales";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { Invalid, NotFound } from "@/core/refusals";
import { readRichDoc } from "@/core/text/richDoc";
import { dayOf, wallToInstant } from "@/core/time/zone";
import { requireOnSection } from "../access/standing";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";
import { mayUseSets } from "../questions/sets";
import { mayUseRubric } from "../rubrics/rubrics";
import { mayUseUploads } from "../uploads/uploads";
import { readMembers, syncPieces } from "./pieces";
import { checkPlan, type Faults } from "@/core/handouts/checkPlan";
import { toDecimal } from "@/core/scores/decimal";
import { cleanPolicy, readDates, uploadsOf } from "./readPlan";
import { ownClip } from "../speech/clips";

export type GivenHandOut = {
  plan: Plan;
  /** The draft this was; it is used up, unless it is kept on the Shelf. */ draftId: string | null;
  /** Due in the past, and that is meant. */ pastIsMeant: boolean;
};
export type HandedOut = {
  handOuts: {
    id: string;
    sectionId: string;
    section: string;
    students: number;
    opens: "now" | "later";
  }[];
};

/**
 * Hands work out: one assignment for each course among the sections, a hand-out for each section, and a
 * piece for each student it is meant for; all in one transaction, or nothing.
 *
 * Handing out on a date is nothing special: until it opens, students do not see it, and who has joined
 * by then has it too.
 *
 * @throws Invalid with every fault by its field: `work.title`, `rows[1].due`, `counting.points` …
 */
export async function handOut(
  call: Call,
  { plan, draftId, pastIsMeant }: GivenHandOut,
): Promise<HandedOut> {
  const { tx, who, now } = call;
  for (const row of plan.rows) await requireOnSection(tx, who, row.sectionId, "section.handOut");
  const read = plan.rows.map((row, n) =>
    readDates(row, { at: `rows[${n}]`, pastIsMeant }, now, who.zone),
  );
  const dates = read.map((r) => r.dates);
  const faults: Faults = Object.assign(checkPlan(plan), ...read.map((r) => r.faults));
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  await requireOwnThings(call, plan);
  const sections = await tx<
    { id: string; name: string; courseId: string; latePolicy: LatePolicy }[]
  >`
    select id, name, course_id, late_policy
    from section
    where id = any(${plan.rows.map((r) => r.sectionId)})
    order by id`;
  const handOuts: HandedOut["handOuts"] = [];
  for (const courseId of new Set(sections.map((s) => s.courseId))) {
    const assignment = await storeAssignment(call, plan, courseId);
    for (const [n, row] of plan.rows.entries()) {
      const section = sections.find((s) => s.id === row.sectionId)!;
      if (section.courseId !== courseId) continue;
      const { id, students } = await storeHandOut(call, plan, {
        row,
        dates: dates[n]!,
        assignment,
        sectionLate: section.latePolicy,
      });
      handOuts.push({
        id,
        sectionId: section.id,
        section: section.name,
        students,
        opens: dates[n]!.opensAt > now ? "later" : "now",
      });
    }
  }
  if (draftId)
    await tx`delete from hand_out_draft where id = ${draftId} and owner_id = ${who.id} and not kept`;
  return { handOuts };
}

/** Files can be given by those who may see them; a rubric by its owner, or where it is in use already. */
export async function requireOwnThings(call: Call, plan: Plan): Promise<void> {
  if (
    !(await mayUseUploads(
      call,
      uploadsOf(plan).map((u) => u.uploadId),
    ))
  )
    throw new NotFound();
  if (
    !(await mayUseSets(
      call,
      plan.work.parts.flatMap((p) => p.setId ?? []),
    ))
  )
    throw new NotFound();
  if (plan.counting.rubricId && !(await mayUseRubric(call, plan.counting.rubricId)))
    throw new NotFound();
}

type StoredAssignment = {
  id: string;
  /** From the ids of the plan to those of the rows. */ versions: Map<string, string>;
};

async function storeAssignment(
  call: Call,
  plan: Plan,
  courseId: string,
): Promise<StoredAssignment> {
  const { tx, who, now, newId } = call;
  const { work, counting } = plan;
  const id = newId();
  // The course's row is locked, so that two hand-outs at once cannot take the same number.
  await tx`select id from course where id = ${courseId} for update`;
  await tx`
    insert into assignment (
      id, course_id, title, number, emoji, instructions, expects, self_assessment, words_least, words_most, open_before, may_take_back,
      parts, points_possible, score_kind, rubric_id, counts, extra_credit, rounds_most, rounds_until, final_score, win_back_percent, clip_id, created_by, created_at
    )
    values (
      ${id}, ${courseId}, ${work.title.trim()}, ${work.numbered ? tx`(select coalesce(max(number), 0) + 1 from assignment where course_id = ${courseId})` : null}, ${work.emoji || null},
      ${tx.json(readRichDoc(work.instructions, "task") as never)}, ${expectsOf(work.parts)}, ${work.selfAssessment ? tx.json(work.selfAssessment as never) : null},
      ${Number(work.wordsLeast) || null}, ${Number(work.wordsMost) || null}, ${work.openBefore}, ${work.mayTakeBack},
      ${tx.json(work.parts as never)}, ${isScored(counting.kind) ? toDecimal(counting.points) : null}, ${counting.kind}, ${counting.rubricId}, ${counting.counts}, ${counting.extraCredit},
      ${Number(counting.roundsMost) || null}, ${counting.roundsUntil ? wallToInstant(counting.roundsUntil, who.zone).at : null}, ${counting.final}, ${toDecimal(counting.winBackPercent) || "50"}, ${await ownClip(call, work.clipId)}, ${who.id}, ${now}
    )`;
  for (const part of work.parts)
    if (part.setId)
      await tx`insert into assignment_questions (assignment_id, part_id, set_id) values (${id}, ${part.id}, ${part.setId})`;
  const versions = await storeVersions(call, plan, id);
  return { id, versions };
}

/** Versions, materials and pictures of an assignment, from the plan; those in `known` are there already. */
export async function storeVersions(
  { tx, newId }: Call,
  plan: Plan,
  assignmentId: string,
  known: ReadonlySet<string> = new Set(),
): Promise<Map<string, string>> {
  const versions = new Map<string, string>();
  for (const version of plan.work.versions.filter((v) => !known.has(v.id))) {
    versions.set(version.id, newId());
    await tx`
      insert into assignment_version (id, assignment_id, name, instructions)
      values (${versions.get(version.id)!}, ${assignmentId}, ${version.name.trim()}, ${tx.json(readRichDoc(version.instructions, "task") as never)})`;
  }
  for (const [position, material] of plan.work.materials.entries()) {
    if (known.has(material.id)) continue;
    await tx`
      insert into material (id, assignment_id, position, kind, use, title, href, upload_id, doc)
      values (
        ${newId()}, ${assignmentId}, ${position}, ${material.kind}, ${material.kind === "link" ? "look" : material.use}, ${material.title.trim()},
        ${material.kind === "link" ? material.href : null}, ${material.kind === "file" ? material.uploadId : null}, ${material.kind === "text" ? tx.json(readRichDoc(material.doc) as never) : null}
      )`;
  }
  for (const { uploadId, versionId } of uploadsOf(plan).filter((u) => u.picture)) {
    await tx`
      insert into assignment_picture (assignment_id, upload_id, version_id)
      values (${assignmentId}, ${uploadId}, ${versionId && (versions.get(versionId) ?? versionId)})
      on conflict do nothing`;
  }
  return versions;
}

type RowToStore = {
  row: PlanRow;
  dates: HandOutDates;
  assignment: StoredAssignment;
  sectionLate: LatePolicy;
};

async function storeHandOut(
  call: Call,
  plan: Plan,
  { row, dates, assignment, sectionLate }: RowToStore,
): Promise<{ id: string; students: number }> {
  const { tx, who, now, newId } = call;
  const { counting } = plan;
  const id = newId();
  const late = cleanPolicy(latePolicyOf(counting.late, sectionLate));
  await tx`
    insert into hand_out (id, assignment_id, section_id, opens_at, due_at, closes_at, promised_at, grace_minutes, audience, category_id, late_policy, archive_days, created_by, created_at)
    values (
      ${id}, ${assignment.id}, ${row.sectionId}, ${dates.opensAt}, ${dates.dueAt}, ${dates.closesAt}, ${dates.promisedAt}, ${counting.graceMinutes}, ${row.audience.kind},
      ${await categoryOf(call, row.sectionId, counting.category)}, ${tx.json(late as never)}, ${counting.archiveDays === "" ? null : Number(counting.archiveDays)}, ${who.id}, ${now}
    )`;
  const today = dayOf(now, who.zone);
  const members = await readMembers(tx, row.sectionId);
  const groups = new Set(members.flatMap((m) => m.groups));
  if (row.audience.kind === "chosen") {
    const meant = row.audience.groups.filter((group) => groups.has(group));
    if (meant.length > 0)
      await tx`insert into hand_out_group ${tx(meant.map((groupId) => ({ handOutId: id, groupId })))}`;
  }
  // Due before today (work done on paper): whoever is in the section now has it.
  const students = studentsFor(
    row.audience,
    members,
    today,
    dates.dueAt < now ? today : dayOf(dates.dueAt, who.zone),
  );
  if (students.length === 0)
    throw new Invalid({
      [`rows[${plan.rows.indexOf(row)}].audience`]:
        "Nobody would get it: choose groups or students, or the whole section.",
    });
  const pieces = students.map((studentId) => ({
    id: newId(),
    handOutId: id,
    studentId,
    ...exceptionOf(call, row, studentId, assignment),
  }));
  await tx`insert into piece ${tx(pieces, "id", "handOutId", "studentId", "ownDueAt", "ownDueFrom", "excused", "versionId")}`;
  await syncPieces(call, row.sectionId, id);
  await recordEvent(call, {
    handOutId: id,
    pieceId: null,
    kind: dates.opensAt > now ? "handed out, to open later" : "handed out",
    detail: { students: students.length },
  });
  return { id, students: students.length };
}

function exceptionOf(
  { who }: Call,
  row: PlanRow,
  studentId: string,
  { versions }: StoredAssignment,
) {
  const own = row.exceptions.find((e) => e.studentId === studentId);
  const ownDueAt = own?.due ? wallToInstant(own.due, who.zone).at : null;
  return {
    ownDueAt,
    ownDueFrom: ownDueAt ? "teacher" : null,
    excused: own?.excused ?? false,
    versionId: (own?.versionId && versions.get(own.versionId)) || null,
  };
}

/** A category by its name; one the section does not have yet is made there, weighing nothing until its owner says. */
export async function categoryOf(
  { tx, newId }: Call,
  sectionId: string,
  name: string,
): Promise<string | null> {
  if (!name.trim()) return null;
  await tx`
    insert into category (id, section_id, name, weight, position)
    select ${newId()}, ${sectionId}, ${name.trim()}, 0, coalesce(max(position), 0) + 1
    from category
    where section_id = ${sectionId}
    on conflict do nothing`;
  const [found] = await tx<
    { id: string }[]
  >`select id from category where section_id = ${sectionId} and lower(name) = ${name.trim().toLowerCase()}`;
  return found!.id;
}
