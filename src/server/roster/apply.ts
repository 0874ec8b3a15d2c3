import type { RosterPlan } from "@/core/roster/rosterPlan";
import { dayOf, type Day } from "@/core/time/zone";
import type { Call } from "../call";
import { syncPieces } from "../handouts/pieces";
import { recordEvent } from "../life/queries";

type Progress = (words: string) => Promise<void>;
/** Rows per statement: large enough to be quick, small enough to say how far it is. */
const BATCH = 1000;

/** Writes a plan, all of it in the caller's transaction. @param progress is told how far it is, outside of that */
export async function applyPlan(
  call: Call,
  plan: RosterPlan,
  name: string,
  progress: Progress,
): Promise<void> {
  const ids = {
    people: new Map(plan.known.people),
    sections: new Map(plan.known.sections),
    terms: new Map(plan.known.terms),
  };
  await applyTerms(call, plan, ids.terms);
  await applyPeople(call, plan, ids.people, progress);
  await applySections(call, plan, ids);
  await applyTeachers(call, plan, ids);
  const touched = await applyEnrolments(call, plan, ids, progress);
  await inBatches(plan.guardians, async (batch) => {
    const rows = batch.map((g) => ({
      guardianId: ids.people.get(g.guardianRef)!,
      studentId: ids.people.get(g.studentRef)!,
    }));
    await call.tx`insert into guardianship ${call.tx(rows)} on conflict do nothing`;
  });
  await progress("Giving those who joined what they owe");
  // Only sections that have work handed out have pieces to bring into line.
  const busy = await call.tx<
    { sectionId: string }[]
  >`select distinct section_id from hand_out where section_id = any(${[...touched]})`;
  for (const { sectionId } of busy) await syncPieces(call, sectionId);
  await recordEvent(call, {
    handOutId: null,
    pieceId: null,
    kind: "roster brought in",
    detail: { name, changes: plan.lines.length },
  });
}

type Ids = {
  people: Map<string, string>;
  sections: Map<string, string>;
  terms: Map<string, string>;
};

async function inBatches<T>(
  rows: readonly T[],
  run: (batch: T[], done: number) => Promise<void>,
): Promise<void> {
  for (let start = 0; start < rows.length; start += BATCH)
    await run(rows.slice(start, start + BATCH), Math.min(start + BATCH, rows.length));
}

async function applyTerms(
  { tx, who, newId }: Call,
  plan: RosterPlan,
  ids: Map<string, string>,
): Promise<void> {
  for (const { id, term } of plan.terms) {
    const row = {
      sourceId: term.sourceId,
      name: term.name,
      startsOn: term.startsOn,
      endsOn: term.endsOn,
    };
    if (id) await tx`update term set ${tx(row)} where id = ${id}`;
    else {
      ids.set(term.ref, newId());
      await tx`insert into term ${tx({ id: ids.get(term.ref)!, schoolId: who.schoolId, ...row })}`;
    }
  }
}

async function applyPeople(
  { tx, who, newId }: Call,
  plan: RosterPlan,
  ids: Map<string, string>,
  progress: Progress,
): Promise<void> {
  const rows = (list: RosterPlan["people"]) =>
    list.map(({ id, person: { ref, ...person } }) => ({
      id: id ?? (ids.set(ref, newId()), ids.get(ref)!),
      schoolId: who.schoolId,
      ...person,
    }));
  const changed = plan.people.filter((p) => p.id);
  // Two people can swap addresses: both are set free first.
  if (changed.length > 0)
    await tx`update person set email = null, school_name = id::text where id = any(${changed.map((p) => p.id!)})`;
  await inBatches(changed, async (batch) => {
    await tx`
      update person
      set source_id = given.source_id, name = given.name, called = given.called, sort_name = given.sort_name, email = given.email, school_name = given.school_name
      from jsonb_to_recordset(${tx.json(batch.map(({ id, person: p }) => ({ id, source_id: p.sourceId, name: p.name, called: p.called, sort_name: p.sortName, email: p.email, school_name: p.schoolName })) as never)})
        as given(id uuid, source_id text, name text, called text, sort_name text, email text, school_name text)
      where person.id = given.id`;
  });
  const fresh = plan.people.filter((p) => !p.id);
  await inBatches(fresh, async (batch, done) => {
    await tx`insert into person ${tx(rows(batch), "id", "schoolId", "sourceId", "kind", "name", "called", "sortName", "email", "schoolName")}`;
    await progress(
      `${done.toLocaleString("en")} of ${fresh.length.toLocaleString("en")} new people`,
    );
  });
}

async function applySections(
  { tx, who, now, newId }: Call,
  plan: RosterPlan,
  ids: Ids,
): Promise<void> {
  const courses = new Map<string, string>();
  const today = dayOf(now, who.zone);
  const [current] = await tx<
    { id: string }[]
  >`select id from term where school_id = ${who.schoolId} order by (${today}::date between starts_on and ends_on) desc, starts_on desc limit 1`;
  for (const { id, section } of plan.sections) {
    const termId = (section.termRef && ids.terms.get(section.termRef)) || current!.id;
    const key = `${termId} ${section.courseSourceId ?? section.course}`;
    if (!courses.has(key)) {
      const [known] = await tx<{ id: string }[]>`
        select id
        from course
        where term_id = ${termId}
          and case when ${section.courseSourceId}::text is null then lower(name) = lower(${section.course})
            else source_id = ${section.courseSourceId} or (source_id is null and id::text = ${section.courseSourceId})
          end
        order by id
        limit 1`;
      courses.set(key, known?.id ?? newId());
      if (known) await tx`update course set name = ${section.course} where id = ${known.id}`;
      else
        await tx`insert into course (id, school_id, term_id, name, source_id) values (${courses.get(key)!}, ${who.schoolId}, ${termId}, ${section.course}, ${section.courseSourceId})`;
    }
    if (id)
      await tx`update section set name = ${section.name}, course_id = ${courses.get(key)!} where id = ${id}`;
    else {
      ids.sections.set(section.ref, newId());
      await tx`insert into section (id, course_id, name, source_id) values (${ids.sections.get(section.ref)!}, ${courses.get(key)!}, ${section.name}, ${section.sourceId})`;
    }
  }
}

async function applyTeachers({ tx }: Call, plan: RosterPlan, ids: Ids): Promise<void> {
  for (const { sectionRef, personRef, owner } of plan.teachers.add) {
    const [sectionId, personId] = [ids.sections.get(sectionRef)!, ids.people.get(personRef)!];
    // The first owner named stays; who owns a section that has one is not the file's to change.
    await tx`
      insert into section_teacher (section_id, person_id, role, may_hand_back)
      select ${sectionId}, ${personId}, case when ${owner} and not taken.owned then 'owner' else 'co-teacher' end, ${owner} and not taken.owned
      from (select exists (select from section_teacher where section_id = ${sectionId} and role = 'owner') as owned) taken`;
  }
  for (const { sectionId, personId } of plan.teachers.remove)
    await tx`delete from section_teacher where section_id = ${sectionId} and person_id = ${personId} and role = 'co-teacher'`;
}

async function applyEnrolments(
  { tx, who, now }: Call,
  plan: RosterPlan,
  ids: Ids,
  progress: Progress,
): Promise<Set<string>> {
  const { add, change, end } = plan.enrolments;
  const touched = new Set<string>();
  const today: Day = dayOf(now, who.zone);
  const rows = [
    ...add.map((e) => ({
      sectionId: ids.sections.get(e.sectionRef)!,
      studentId: ids.people.get(e.personRef)!,
      joinedOn: e.joinedOn ?? today,
      leftOn: e.leftOn,
    })),
    ...change.map((e) => ({
      sectionId: e.sectionId,
      studentId: e.personId,
      joinedOn: e.joinedOn ?? today,
      leftOn: e.leftOn,
    })),
  ];
  await inBatches(rows, async (batch, done) => {
    await tx`
      insert into enrolment ${tx(batch)}
      on conflict (section_id, student_id) do update
      set joined_on = excluded.joined_on, left_on = excluded.left_on`;
    await progress(
      `${done.toLocaleString("en")} of ${rows.length.toLocaleString("en")} enrolments`,
    );
  });
  for (const row of rows) touched.add(row.sectionId);
  for (const { sectionId, personId } of end) {
    touched.add(sectionId);
    await tx`update enrolment set left_on = greatest(joined_on, ${today}::date) where section_id = ${sectionId} and student_id = ${personId}`;
  }
  return touched;
}
