import { moveDates, type Timetable } from "@/core/handouts/moveDates";
import { emptyPlan, type Plan, type PlanRow } from "@/core/handouts/plan";
import { suggestedDates } from "@/core/handouts/dueChoices";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { termOn } from "@/core/time/term";
import { instantToWall } from "@/core/time/zone";
import { requireKind, requireOnHandOut, requireOnSection } from "../access/standing";
import { readCalendar, readMeetings } from "../calendar/calendar";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { planOf } from "./planOf";

export type DraftRow = {
  id: string;
  plan: Plan;
  kept: boolean;
  revision: number;
  title: string;
  changedAt: Date;
};

/** A draft belongs to one teacher; to everyone else it does not exist. */
export async function readDraft({ db, who }: ReadCall, draftId: string): Promise<DraftRow> {
  requireKind(who, "teacher");
  const [row] = await db<
    DraftRow[]
  >`select id, plan, kept, revision, title, changed_at from hand_out_draft where id = ${draftId} and owner_id = ${who.id}`;
  if (!row) throw new NotFound();
  return row;
}

export async function listDrafts({
  db,
  who,
}: ReadCall): Promise<(Omit<DraftRow, "plan"> & { sections: string[] })[]> {
  requireKind(who, "teacher");
  return db<(Omit<DraftRow, "plan"> & { sections: string[] })[]>`
    select
      draft.id, draft.kept, draft.revision, draft.title, draft.changed_at,
      coalesce((
        select array_agg(section.name order by section.name)
        from jsonb_array_elements(draft.plan -> 'rows') as row
        join section on section.id::text = row ->> 'sectionId'
      ), '{}') as sections
    from hand_out_draft draft
    where draft.owner_id = ${who.id}
    order by draft.changed_at desc
    limit 200`;
}

const MOST = 2_000_000;

/** Begins a draft. Its plan may be as incomplete as it is; it is checked when it is handed out. */
export async function beginDraft(
  call: Call,
  given: { id: string; plan: object; kept: boolean },
): Promise<{ id: string; revision: number }> {
  const { tx, who, now } = call;
  requireKind(who, "teacher");
  const plan = readPlanShape(given.plan);
  await tx`
    insert into hand_out_draft (id, owner_id, title, plan, kept, created_at, changed_at)
    values (${given.id}, ${who.id}, ${titleOf(plan)}, ${tx.json(plan as never)}, ${given.kept}, ${now}, ${now})
    on conflict (id) do nothing`;
  const { revision } = await readDraft(call, given.id);
  return { id: given.id, revision };
}

export async function saveDraft(
  call: Call,
  draftId: string,
  given: { plan: object; kept: boolean },
  revision: number,
): Promise<{ revision: number }> {
  const { tx, who, now } = call;
  const stored = await readDraft(call, draftId);
  if (stored.revision !== revision)
    throw new Conflict("This draft was changed in another window. What you typed is still here.", {
      plan: stored.plan,
      kept: stored.kept,
      revision: stored.revision,
    });
  const plan = readPlanShape(given.plan);
  await tx`
    update hand_out_draft
    set plan = ${tx.json(plan as never)}, title = ${titleOf(plan)}, kept = ${given.kept}, revision = revision + 1, changed_at = ${now}
    where id = ${draftId} and owner_id = ${who.id}`;
  return { revision: revision + 1 };
}

export async function deleteDraft(call: Call, draftId: string): Promise<{ deleted: true }> {
  await readDraft(call, draftId);
  await call.tx`delete from hand_out_draft where id = ${draftId} and owner_id = ${call.who.id}`;
  return { deleted: true };
}

function readPlanShape(input: object): Plan {
  if (JSON.stringify(input).length > MOST)
    throw new Invalid({ plan: "This draft is too large to be kept." });
  const { work, rows, counting } = input as Partial<Plan>;
  if (typeof work !== "object" || !Array.isArray(rows) || typeof counting !== "object")
    throw new Invalid({ plan: "This is not a draft of a hand-out." });
  const empty = emptyPlan();
  return { work: { ...empty.work, ...work }, rows, counting: { ...empty.counting, ...counting } };
}

const titleOf = (plan: Plan) => String(plan.work.title ?? "").slice(0, 200);

/**
 * Copies a hand-out as a new draft: to the sections named (its own, when none), with dates moved from
 * the lesson it was due in to the corresponding lesson there.
 */
export async function copyHandOut(
  call: Call,
  handOutId: string,
  sectionIds: readonly string[],
): Promise<{ draftId: string }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "handOut.see");
  const { assignmentId: _, number, ...plan } = await planOf(call, handOutId);
  const source = plan.rows[0]!;
  const targets = sectionIds.length > 0 ? sectionIds : [source.sectionId];
  for (const id of targets) await requireOnSection(tx, who, id, "section.handOut");
  const timetables = await readTimetables(
    tx,
    who.schoolId,
    [source.sectionId, ...targets],
    source.due.slice(0, 10),
  );
  const from = timetables.get(source.sectionId)!;
  const wallNow = instantToWall(now, who.zone);
  const rows = targets.map((sectionId): PlanRow => {
    const to = timetables.get(sectionId)!;
    const own = sectionId === source.sectionId;
    // Another section has other students: whom it is for is chosen anew.
    return {
      sectionId,
      ...moveDates(source, from, to, wallNow),
      audience: own ? source.audience : { kind: "section" },
      exceptions: [],
    };
  });
  const draftId = call.newId();
  await beginDraft(call, {
    id: draftId,
    plan: { ...plan, rows, work: { ...plan.work, numbered: number !== null } },
    kept: false,
  });
  return { draftId };
}

/** A section's lessons with the term its own course is in; the source's term is the one the work was due in. */
async function readTimetables(
  db: Db,
  schoolId: string,
  sectionIds: readonly string[],
  sourceDay: string,
): Promise<Map<string, Timetable>> {
  const [{ calendar }, meetings, terms] = await Promise.all([
    readCalendar(db, schoolId),
    readMeetings(db, sectionIds),
    db<{ id: string; name: string; startsOn: string; endsOn: string }[]>`
      select section.id, term.name, term.starts_on, term.ends_on
      from section
      join course on course.id = section.course_id
      join term on term.id = course.term_id
      where section.id = any(${sectionIds as string[]})`,
  ]);
  return new Map(
    sectionIds.map((id, n) => {
      const own = terms.find((t) => t.id === id) ?? null;
      return [
        id,
        {
          meetings: meetings.get(id) ?? [],
          calendar,
          term: n === 0 ? (termOn(sourceDay, calendar.terms) ?? own) : own,
        },
      ];
    }),
  );
}

/** A new page "Hand out": empty, for the sections named, with dates right for each of them. */
export async function newPlan(
  { db, who, now }: ReadCall,
  sectionIds: readonly string[],
): Promise<Plan> {
  const [{ calendar, dayEnds }, meetings] = await Promise.all([
    readCalendar(db, who.schoolId),
    readMeetings(db, sectionIds),
  ]);
  const wallNow = instantToWall(now, who.zone);
  return emptyPlan(
    sectionIds.map((sectionId): PlanRow => ({
      sectionId,
      opens: null,
      closes: null,
      ...suggestedDates(wallNow, { meetings: meetings.get(sectionId)!, calendar, dayEnds }),
      audience: { kind: "section" },
      exceptions: [],
    })),
  );
}
