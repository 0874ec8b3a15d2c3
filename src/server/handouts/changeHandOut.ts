import {
  describeChange,
  factsOf,
  noticeFor,
  type HandOutFacts,
  type Touched,
} from "@/core/handouts/describeChange";
import { checkDates } from "@/core/handouts/checkDates";
import { latePolicyOf, type Plan } from "@/core/handouts/plan";
import { Conflict, Invalid, Refused } from "@/core/refusals";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { isScored } from "@/core/scores/scales";
import { readRichDoc } from "@/core/text/richDoc";
import { sameDistance } from "@/core/time/term";
import { instantToWall, wallToInstant, type Day } from "@/core/time/zone";
import { requireOnHandOut } from "../access/standing";
import { readCalendar } from "../calendar/calendar";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";
import { categoryOf, requireOwnThings, storeVersions } from "./handOut";
import { syncPieces } from "./pieces";
import { planOf } from "./planOf";
import { checkPlan, type Faults } from "@/core/handouts/checkPlan";
import { toDecimal } from "@/core/scores/decimal";
import { cleanPolicy, readDates } from "./readPlan";
import { ownClip } from "../speech/clips";

export type GivenChange = {
  plan: Plan;
  /** Say it to the students, where it matters to them. */ tell: boolean;
};

type Stored = HandOutFacts & {
  assignmentId: string;
  sectionId: string;
  revision: number;
  scored: number;
  plan: Plan;
};

/**
 * Changes a hand-out after it was handed out: its dates, its task, and how it counts. The task and the
 * counting belong to the assignment, so they change for the other sections that have it too.
 *
 * @throws Conflict when someone else changed it since `revision`
 */
export async function changeHandOut(
  call: Call,
  handOutId: string,
  given: GivenChange,
  revision: number,
): Promise<{ revision: number; words: string[]; told: number }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const before = await lockHandOut(call, handOutId);
  if (before.revision !== revision)
    throw new Conflict(
      "This hand-out was changed in another window since you opened it. What you typed is still here; load the page again to see the other.",
      { revision: before.revision },
    );
  const { plan } = given;
  const old = before.plan;
  if (plan.rows.length !== 1) throw new Invalid({ rows: "A change is of one section's hand-out." });
  const row = { ...plan.rows[0]!, sectionId: before.sectionId };
  // A hand-out that is due already may stay so; only a due time that is newly set must lie ahead.
  const read = readDates(row, { at: "rows[0]", pastIsMeant: true }, now, who.zone);
  const { dates } = read;
  const faults: Faults = { ...checkPlan({ ...plan, rows: [row] }), ...read.faults };
  // The form knows minutes only: what was not touched stays to the second.
  if (row.opens === null || row.opens === old.rows[0]!.opens) dates.opensAt = before.opensAt;
  if (Object.keys(faults).length === 0 && dates.dueAt.getTime() !== before.dueAt.getTime())
    for (const [field, words] of Object.entries(checkDates(dates, now)))
      faults[`rows[0].${field}`] = words;
  if (before.scored > 0 && old.counting.kind !== plan.counting.kind)
    faults["counting.kind"] =
      `${sayScores(before.scored)} handed back already; the kind of score stays as it is.`;
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  await requireOwnThings(call, plan);
  await storeTask(call, before, plan, old);
  const [section] = await tx<
    { late: LatePolicy }[]
  >`select late_policy as late from section where id = ${before.sectionId}`;
  const late = cleanPolicy(latePolicyOf(plan.counting.late, section!.late));
  const owned = await readOwnDues(call, handOutId);
  await tx`
    update hand_out
    set opens_at = ${dates.opensAt}, due_at = ${dates.dueAt}, closes_at = ${dates.closesAt}, promised_at = ${dates.promisedAt},
        grace_minutes = ${plan.counting.graceMinutes}, late_policy = ${tx.json(late as never)}, category_id = ${await categoryOf(call, before.sectionId, plan.counting.category)},
        archive_days = ${plan.counting.archiveDays === "" ? null : Number(plan.counting.archiveDays)}, put_away_at = null, revision = revision + 1
    where id = ${handOutId}`;
  await syncPieces(call, before.sectionId, handOutId);
  const after = await lockHandOut(call, handOutId);
  const said = await tell(call, handOutId, { before, after, owned }, given.tell);
  return { revision: after.revision, ...said };
}

const sayScores = (n: number) => (n === 1 ? "A score was" : `${n} scores were`);

/**
 * Moves the due time to another day, at the same time of day; closes and promised back keep their
 * distance in school days. For the calendar, where a due date is dragged.
 */
export async function moveDue(
  call: Call,
  handOutId: string,
  { day, tell: telling }: { day: Day; tell: boolean },
): Promise<{ words: string[]; told: number; was: Day }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const before = await lockHandOut(call, handOutId);
  const { calendar } = await readCalendar(tx, who.schoolId);
  const wall = instantToWall(before.dueAt, who.zone);
  const was = wall.slice(0, 10);
  const shift = (at: Date | null): Date | null => {
    if (!at) return null;
    const [old, clock] = [
      instantToWall(at, who.zone).slice(0, 10),
      instantToWall(at, who.zone).slice(10),
    ];
    return wallToInstant(`${sameDistance(was, old, day, { calendar })}${clock}`, who.zone).at;
  };
  const later = (at: Date | null, than: Date) => (at && at < than ? than : at);
  const dueAt = wallToInstant(`${day}${wall.slice(10)}`, who.zone).at;
  const dates = {
    opensAt: before.opensAt,
    dueAt,
    closesAt: later(shift(before.closesAt), dueAt),
    promisedAt: later(shift(before.promisedAt), dueAt),
  };
  const faults = checkDates(dates, now);
  const [fault] = Object.values(faults);
  if (fault)
    throw new Refused(
      `${before.title} stays where it was: ${fault.charAt(0).toLowerCase()}${fault.slice(1)}`,
    );
  const owned = await readOwnDues(call, handOutId);
  await tx`
    update hand_out
    set due_at = ${dates.dueAt}, closes_at = ${dates.closesAt}, promised_at = ${dates.promisedAt}, put_away_at = null, revision = revision + 1
    where id = ${handOutId}`;
  await syncPieces(call, before.sectionId, handOutId);
  const after = await lockHandOut(call, handOutId);
  return { ...(await tell(call, handOutId, { before, after, owned }, telling)), was };
}

/**
 * Promises the work back at another time. Students see it where the work stands; the change is in the history.
 *
 * @throws Refused for a time before the due time
 */
export async function movePromise(
  call: Call,
  handOutId: string,
  { promised }: { promised: string },
): Promise<{ words: string[] }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const before = await lockHandOut(call, handOutId);
  const { opensAt, dueAt, closesAt } = before;
  const promisedAt = wallToInstant(promised, who.zone).at;
  const faults = checkDates({ opensAt, dueAt, closesAt, promisedAt }, now);
  if (faults.promised) throw new Refused(faults.promised);
  const owned = await readOwnDues(call, handOutId);
  await tx`update hand_out set promised_at = ${promisedAt}, revision = revision + 1 where id = ${handOutId}`;
  const after = await lockHandOut(call, handOutId);
  return { words: (await tell(call, handOutId, { before, after, owned }, false)).words };
}

async function lockHandOut(call: Call, handOutId: string): Promise<Stored> {
  const [row] = await call.tx<
    {
      assignmentId: string;
      sectionId: string;
      revision: number;
      opensAt: Date;
      dueAt: Date;
      scored: number;
    }[]
  >`
    select
      hand_out.assignment_id, hand_out.section_id, hand_out.revision, hand_out.opens_at, hand_out.due_at,
      (select count(*)::int from score join piece on piece.id = score.piece_id where piece.hand_out_id = hand_out.id) as scored
    from hand_out
    where hand_out.id = ${handOutId}
    for update of hand_out`;
  const { assignmentId: _, number: __, ...plan } = await planOf(call, handOutId);
  // The plan counts in minutes; the instants are the stored ones.
  const facts = factsOf(plan, row!.dueAt, call.who.zone);
  return { ...facts, ...row!, plan };
}

async function readTouched({ tx }: Call, handOutId: string): Promise<Touched> {
  const [row] = await tx<Touched[]>`
    select
      count(*)::int as students,
      count(*) filter (where own_due_from = 'teacher')::int as own_due,
      count(*) filter (where state <> 'not_opened')::int as begun,
      count(*) filter (where state = 'handed_in')::int as handed_in
    from piece
    where hand_out_id = ${handOutId} and removed_at is null`;
  return row!;
}

async function storeTask(call: Call, stored: Stored, plan: Plan, old: Plan): Promise<void> {
  const { tx, who } = call;
  const { work, counting } = plan;
  await tx`
    update assignment
    set title = ${work.title.trim()}, emoji = ${work.emoji || null}, instructions = ${tx.json(readRichDoc(work.instructions, "task") as never)},
        self_assessment = ${work.selfAssessment ? tx.json(work.selfAssessment as never) : null}, words_least = ${Number(work.wordsLeast) || null}, words_most = ${Number(work.wordsMost) || null},
        open_before = ${work.openBefore}, may_take_back = ${work.mayTakeBack},
        points_possible = ${isScored(counting.kind) ? toDecimal(counting.points) : null}, score_kind = ${counting.kind}, rubric_id = ${counting.rubricId},
        counts = ${counting.counts}, extra_credit = ${counting.extraCredit}, rounds_most = ${Number(counting.roundsMost) || null},
        rounds_until = ${counting.roundsUntil ? wallToInstant(counting.roundsUntil, who.zone).at : null}, final_score = ${counting.final}, win_back_percent = ${toDecimal(counting.winBackPercent) || "50"}, clip_id = ${await ownClip(call, work.clipId)}, revision = revision + 1
    where id = ${stored.assignmentId}`;
  // Materials and versions that students have written in or were given cannot be taken apart; new ones can be added.
  const known = new Set([
    ...old.work.versions.map((v) => v.id),
    ...old.work.materials.map((m) => m.id),
  ]);
  for (const version of work.versions.filter((v) => known.has(v.id))) {
    await tx`update assignment_version set name = ${version.name.trim()}, instructions = ${tx.json(readRichDoc(version.instructions, "task") as never)} where id = ${version.id} and assignment_id = ${stored.assignmentId}`;
  }
  const kept = work.materials.filter((m) => known.has(m.id)).map((m) => m.id);
  for (const [position, material] of work.materials.entries()) {
    if (!known.has(material.id)) continue;
    // What it is and whose copy it is stays; what it says and where it stands can change.
    await tx`
      update material
      set position = ${position}, title = ${material.title.trim()}, href = ${material.kind === "link" ? material.href : null}, doc = ${material.kind === "text" ? tx.json(readRichDoc(material.doc) as never) : null}
      where id = ${material.id} and assignment_id = ${stored.assignmentId} and kind = ${material.kind}`;
  }
  await tx`
    delete from material
    where assignment_id = ${stored.assignmentId} and not (id = any(${kept}))
      and not exists (select from piece_copy where material_id = material.id)`;
  await storeVersions(call, plan, stored.assignmentId, known);
}

/** The line of history, and the word to the students who still have something to do with it. */
async function tell(
  call: Call,
  handOutId: string,
  { before, after, owned }: { before: Stored; after: Stored; owned: OwnDues },
  telling: boolean,
): Promise<{ words: string[]; told: number }> {
  const { tx, who, now, newId } = call;
  const clock = { now, zone: who.zone };
  const change = describeChange(before, after, await readTouched(call, handOutId), clock);
  const { words } = change;
  if (words.length === 0) return { words, told: 0 };
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: "changed",
    detail: { words, told: telling && change.notice !== null },
  });
  if (!telling) return { words, told: 0 };
  const pieces = await tx<{ id: string; ownDueAt: Date | null; revising: boolean }[]>`
    select piece.id, own_due_at, round > 1 or state = 'to_revise' as revising
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where hand_out.id = ${handOutId} and hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null
      and removed_at is null and left_at is null and not excused and state in ('not_opened', 'started', 'to_revise', 'reworking', 'handed_in')`;
  const notices = pieces.flatMap(({ id, ownDueAt, revising }) => {
    const own = { before: owned.get(id) ?? null, after: ownDueAt, revising };
    const said = noticeFor(before, after, own, clock);
    return said ? [{ id: newId(), pieceId: id, words: said, at: now }] : [];
  });
  if (notices.length > 0) await tx`insert into piece_notice ${tx(notices)}`;
  return { words, told: notices.length };
}

type OwnDues = ReadonlyMap<string, Date>;

/** Which pieces have a due time of their own, before anything moves. */
async function readOwnDues({ tx }: Call, handOutId: string): Promise<OwnDues> {
  const rows = await tx<{ id: string; due: Date }[]>`
    select id, own_due_at as due from piece where hand_out_id = ${handOutId} and own_due_at is not null`;
  return new Map(rows.map((row) => [row.id, row.due]));
}
