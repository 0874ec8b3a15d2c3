import type { ExtraTime } from "@/core/handouts/extraTime";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { dayOf, type Day } from "@/core/time/zone";
import { requireKind, requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { syncPieces } from "../handouts/pieces";

/** People of the school by a part of their name or address: students to add, teachers to name. At most 20. */
export async function findPeople(
  { db, who }: ReadCall,
  given: { text: string; kind: "student" | "teacher" },
): Promise<{ id: string; name: string; detail: string }[]> {
  requireKind(who, "teacher");
  const text = `%${given.text.trim().replace(/[%_\\]/g, "\\$&")}%`;
  if (given.text.trim().length < 2) return [];
  return db<{ id: string; name: string; detail: string }[]>`
    select id, name, coalesce(email, school_name, '') as detail
    from person
    where school_id = ${who.schoolId} and kind = ${given.kind} and (name ilike ${text} or email ilike ${text} or school_name ilike ${text})
    order by sort_name, id
    limit 20`;
}

/**
 * Puts a student of the school into the section, or sets from when to when they are in it. What they
 * owe starts when they join and ends when they leave; what they did stays.
 */
export async function setMember(
  call: Call,
  sectionId: string,
  studentId: string,
  given: { joinedOn: Day | null; leftOn: Day | null; readAloud?: boolean },
): Promise<{ joinedOn: Day; leftOn: Day | null }> {
  const { tx, who, now } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const [student] =
    await tx`select id from person where id = ${studentId} and school_id = ${who.schoolId} and kind = 'student'`;
  if (!student) throw new NotFound();
  const [known] = await tx<
    { joinedOn: Day }[]
  >`select joined_on from enrolment where section_id = ${sectionId} and student_id = ${studentId}`;
  const joinedOn = given.joinedOn ?? known?.joinedOn ?? dayOf(now, who.zone);
  if (given.leftOn !== null && given.leftOn < joinedOn)
    throw new Invalid({ leftOn: "Nobody leaves before they have joined." });
  await tx`
    insert into enrolment (section_id, student_id, joined_on, left_on, read_aloud)
    values (${sectionId}, ${studentId}, ${joinedOn}, ${given.leftOn}, ${given.readAloud ?? false})
    on conflict (section_id, student_id) do update
    set joined_on = excluded.joined_on, left_on = excluded.left_on, read_aloud = ${given.readAloud === undefined ? tx`enrolment.read_aloud` : given.readAloud}`;
  await syncPieces(call, sectionId);
  return { joinedOn, leftOn: given.leftOn };
}

export type GivenGroup = { name: string; extra: ExtraTime | null; students: string[] };

/** A group is a named set of students of a section; extra time it has is applied to all they are given. */
export async function makeGroup(
  call: Call,
  sectionId: string,
  given: GivenGroup,
): Promise<{ groupId: string; revision: number }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  await requireFreeName(call, sectionId, given.name, null);
  const groupId = call.newId();
  await tx`insert into section_group (id, section_id, name, extra_amount, extra_unit) values (${groupId}, ${sectionId}, ${given.name.trim()}, ${given.extra?.amount ?? null}, ${given.extra?.unit ?? null})`;
  await setStudents(call, sectionId, groupId, given.students);
  return { groupId, revision: 1 };
}

export async function changeGroup(
  call: Call,
  groupId: string,
  given: GivenGroup,
  revision: number,
): Promise<{ revision: number }> {
  const { tx } = call;
  const sectionId = await requireGroup(call, groupId);
  await requireFreeName(call, sectionId, given.name, groupId);
  const [changed] = await tx`
    update section_group
    set name = ${given.name.trim()}, extra_amount = ${given.extra?.amount ?? null}, extra_unit = ${given.extra?.unit ?? null}, revision = revision + 1
    where id = ${groupId} and revision = ${revision}
    returning id`;
  if (!changed)
    throw new Conflict(
      "This group was changed in another window. Load the page again to see it.",
      null,
    );
  await setStudents(call, sectionId, groupId, given.students);
  return { revision: revision + 1 };
}

/** A group that goes takes its extra time with it; what was given to its members stays theirs. */
export async function deleteGroup(call: Call, groupId: string): Promise<{ deleted: true }> {
  const sectionId = await requireGroup(call, groupId);
  await call.tx`delete from section_group where id = ${groupId}`;
  await syncPieces(call, sectionId);
  return { deleted: true };
}

async function requireGroup({ tx, who }: Call, groupId: string): Promise<string> {
  const [group] = await tx<
    { sectionId: string }[]
  >`select section_id from section_group where id = ${groupId}`;
  if (!group) throw new NotFound();
  await requireOnSection(tx, who, group.sectionId, "section.setUp");
  return group.sectionId;
}

async function requireFreeName(
  { tx }: Call,
  sectionId: string,
  name: string,
  groupId: string | null,
): Promise<void> {
  const [taken] =
    await tx`select id from section_group where section_id = ${sectionId} and lower(name) = ${name.trim().toLowerCase()} and id is distinct from ${groupId}`;
  if (taken)
    throw new Invalid({ name: `There is a group “${name.trim()}” in this section already.` });
}

async function setStudents(
  call: Call,
  sectionId: string,
  groupId: string,
  students: readonly string[],
): Promise<void> {
  const { tx } = call;
  const [own] = await tx<
    { n: number }[]
  >`select count(*)::int as n from enrolment where section_id = ${sectionId} and student_id = any(${students as string[]})`;
  if (own!.n < new Set(students).size) throw new NotFound();
  await tx`delete from group_member where group_id = ${groupId}`;
  if (students.length > 0)
    await tx`insert into group_member ${tx([...new Set(students)].map((studentId) => ({ groupId, studentId })))}`;
  await syncPieces(call, sectionId);
}
