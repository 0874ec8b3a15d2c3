import type { CategoryShows } from "@/core/ledger/shows";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import type { ClassAnswers } from "@/core/sectionNotes/sectionNote";
import type { Meeting } from "@/core/time/lessons";
import { requireKind, requireOnSection } from "../access/standing";
import type { Call } from "../call";
import { toDecimal } from "@/core/scores/decimal";
import { cleanPolicy } from "../handouts/readPlan";

/**
 * A teacher's new section; its course is made where the term has none of that name of theirs. The office makes one
 * for a teacher it names.
 */
export async function makeSection(
  call: Call,
  given: { course: string; name: string; termId: string; ownerId?: string | null },
): Promise<{ sectionId: string }> {
  const { tx, who, newId } = call;
  const ownerId = await ownerOf(call, given.ownerId ?? null);
  const [term] =
    await tx`select id from term where id = ${given.termId} and school_id = ${who.schoolId}`;
  if (!term) throw new NotFound();
  const [own] = await tx<{ id: string }[]>`
    select course.id
    from course
    join section on section.course_id = course.id
    join section_teacher on section_teacher.section_id = section.id and section_teacher.person_id = ${ownerId} and section_teacher.role = 'owner'
    where course.term_id = ${given.termId} and lower(course.name) = ${given.course.toLowerCase()}
    limit 1`;
  const courseId = own?.id ?? newId();
  if (!own)
    await tx`insert into course (id, school_id, term_id, name) values (${courseId}, ${who.schoolId}, ${given.termId}, ${given.course})`;
  const [taken] =
    await tx`select id from section where course_id = ${courseId} and lower(name) = ${given.name.toLowerCase()}`;
  if (taken)
    throw new Invalid({ name: `There is a section “${given.name}” in ${given.course} already.` });
  const sectionId = newId();
  await tx`insert into section (id, course_id, name, created_by) values (${sectionId}, ${courseId}, ${given.name}, ${who.id})`;
  await tx`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${sectionId}, ${ownerId}, 'owner', true)`;
  return { sectionId };
}

/** Whose a new section is: the teacher's own who makes it, or a teacher of the school whom the office names. */
async function ownerOf({ tx, who }: Call, named: string | null): Promise<string> {
  if (named === null || named === who.id) {
    if (who.kind === "office") throw new Invalid({ ownerId: "Choose the teacher." });
    requireKind(who, "teacher");
    return who.id;
  }
  requireKind(who, "office");
  const [teacher] =
    await tx`select id from person where id = ${named} and school_id = ${who.schoolId} and kind = 'teacher'`;
  if (!teacher) throw new NotFound();
  return named;
}

/** When the section meets in the week; due-time choices and "the corresponding lesson" follow from it. */
export async function setMeetings(
  call: Call,
  sectionId: string,
  meetings: readonly Meeting[],
): Promise<{ meetings: number }> {
  const { tx, who, newId } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  meetings.forEach((m, n) => {
    if (m.ends <= m.starts)
      throw new Invalid({ [`meetings[${n}].ends`]: "A lesson ends after it starts." });
    if (
      meetings.some(
        (other, k) =>
          k < n && other.weekday === m.weekday && other.starts < m.ends && m.starts < other.ends,
      )
    )
      throw new Invalid({ [`meetings[${n}].starts`]: "Two lessons of this section overlap." });
  });
  await tx`delete from meeting where section_id = ${sectionId}`;
  if (meetings.length > 0)
    await tx`insert into meeting ${tx(meetings.map((m) => ({ id: newId(), sectionId, weekday: m.weekday, starts: m.starts, ends: m.ends })))}`;
  return { meetings: meetings.length };
}

type VoiceRule = { voiceSeconds: number; replySeconds: number; classAnswers: ClassAnswers };

/** How long a voice note of a teacher, and a reply of a student, may be in this section, in seconds; and whether students answer to the class. */
export async function setVoice(
  { tx, who }: Call,
  sectionId: string,
  given: VoiceRule,
): Promise<VoiceRule> {
  await requireOnSection(tx, who, sectionId, "section.setUp");
  await tx`update section set ${tx(given, "voiceSeconds", "replySeconds", "classAnswers")} where id = ${sectionId}`;
  return given;
}

/** Makes a teacher of the school co-teacher, and says whether they may hand back: the owner's choice. */
export async function setCoTeacher(
  call: Call,
  sectionId: string,
  personId: string,
  mayHandBack: boolean,
): Promise<{ mayHandBack: boolean }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const [teacher] = await tx<
    { kind: string }[]
  >`select kind from person where id = ${personId} and school_id = ${who.schoolId} and kind = 'teacher'`;
  if (!teacher) throw new NotFound();
  if (personId === who.id) throw new Refused("You own this section.");
  await tx`
    insert into section_teacher (section_id, person_id, role, may_hand_back)
    values (${sectionId}, ${personId}, 'co-teacher', ${mayHandBack})
    on conflict (section_id, person_id) do update
    set may_hand_back = excluded.may_hand_back
    where section_teacher.role = 'co-teacher'`;
  return { mayHandBack };
}

export async function removeCoTeacher(
  call: Call,
  sectionId: string,
  personId: string,
): Promise<{ removed: true }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  await tx`delete from section_teacher where section_id = ${sectionId} and person_id = ${personId} and role = 'co-teacher'`;
  return { removed: true };
}

export type GivenCounting = {
  late: LatePolicy;
  categories: {
    id: string | null;
    name: string;
    weight: string;
    drop: number;
    shows: CategoryShows;
  }[];
};

/** The section's default late policy, and its categories with their weights. Hand-outs of a category that goes have none. */
export async function setCounting(
  call: Call,
  sectionId: string,
  given: GivenCounting,
): Promise<{ categories: number }> {
  const { tx, who, newId } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const names = given.categories.map((c) => c.name.trim().toLowerCase());
  names.forEach((name, n) => {
    if (names.indexOf(name) !== n)
      throw new Invalid({ [`categories[${n}].name`]: "Two categories have this name." });
    if (!/^\d{1,4}([.,]\d{1,3})?$/.test(given.categories[n]!.weight.trim()))
      throw new Invalid({ [`categories[${n}].weight`]: "A weight is a number such as 30." });
  });
  await tx`update section set late_policy = ${tx.json(cleanPolicy(given.late) as never)} where id = ${sectionId}`;
  const kept = given.categories.flatMap((c) => c.id ?? []);
  await tx`delete from category where section_id = ${sectionId} and not (id = any(${kept}))`;
  // Two steps, so that two categories can swap their names.
  await tx`update category set name = id::text where section_id = ${sectionId}`;
  for (const [position, category] of given.categories.entries()) {
    const { name, weight } = { name: category.name.trim(), weight: toDecimal(category.weight) };
    const { drop, shows } = category;
    const [known] = category.id
      ? await tx`update category set name = ${name}, weight = ${weight}, drop_lowest = ${drop}, shows = ${shows}, position = ${position} where id = ${category.id} and section_id = ${sectionId} returning id`
      : [];
    if (!known)
      await tx`insert into category (id, section_id, name, weight, drop_lowest, shows, position) values (${newId()}, ${sectionId}, ${name}, ${weight}, ${drop}, ${shows}, ${position})`;
  }
  return { categories: given.categories.length };
}
