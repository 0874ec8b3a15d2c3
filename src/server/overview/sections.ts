import { may } from "@/core/access/access";
import { dayOf } from "@/core/time/zone";
import { sayTime } from "@/core/time/words";
import type { SectionSummary, SectionView } from "@/core/views/overviewViews";
import { requireKind, requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { moonOf, type StandingRow } from "../life/standings";
import { hiddenNow, unlinked } from "../names/names";
import type { MoonView } from "@/core/views/views";

/** A teacher's sections. Index: section_teacher_person. */
export async function sectionList({ db, who }: ReadCall): Promise<SectionSummary[]> {
  requireKind(who, "teacher");
  return db<SectionSummary[]>`
    select
      section.id, section.name, course.name as course, section_teacher.role,
      (select count(*)::int from enrolment where section_id = section.id and left_on is null) as students,
      (select count(*)::int from hand_out where section_id = section.id and withdrawn_at is null) as hand_outs
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    where section_teacher.person_id = ${who.id}
    order by course.name, section.name`;
}

/** The terms a new section can be in: those not over yet, the present one marked. */
export async function termList({
  db,
  who,
  now,
}: ReadCall): Promise<{ id: string; name: string; now: boolean }[]> {
  if (who.kind !== "office") requireKind(who, "teacher");
  const today = dayOf(now, who.zone);
  return db<{ id: string; name: string; now: boolean }[]>`
    select id, name, ${today}::date between starts_on and ends_on as now
    from term
    where school_id = ${who.schoolId} and ends_on >= ${today}::date
    order by starts_on`;
}

/** Hand-outs of one's own by their ids, to say where work went that was just handed out to several sections. */
export async function handedOutNow(
  { db, who, now }: ReadCall,
  ids: readonly string[],
): Promise<{ id: string; title: string; section: string; students: number; due: string }[]> {
  requireKind(who, "teacher");
  const rows = await db<
    { id: string; title: string; section: string; students: number; dueAt: Date }[]
  >`
    select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, hand_out.due_at,
      (select count(*)::int from piece where hand_out_id = hand_out.id and removed_at is null) as students
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.id = any(${[...ids]})
    join assignment on assignment.id = hand_out.assignment_id
    where section_teacher.person_id = ${who.id}
    order by section.name`;
  return rows.map(({ dueAt, ...row }) => ({ ...row, due: sayTime(dueAt, now, who.zone) }));
}

/** Teachers of the school, for the office, who makes sections for them. */
export async function teacherList({ db, who }: ReadCall): Promise<{ id: string; name: string }[]> {
  requireKind(who, "office");
  return db<{ id: string; name: string }[]>`
    select person.id, shown_name(person) as name
    from person
    where school_id = ${who.schoolId} and kind = 'teacher'
    order by sort_name, id
    limit 1000`;
}

/** A section by its name and course. */
export async function readAbout({ db }: ReadCall, sectionId: string) {
  const [row] = await db<{ id: string; name: string; course: string }[]>`
    select section.id, section.name, course.name as course
    from section
    join course on course.id = section.course_id
    where section.id = ${sectionId}`;
  return row!;
}

type ListedPiece = StandingRow & {
  title: string;
  pointsPossible: string | null;
  hidden: boolean;
};

const readStandings = ({ db }: ReadCall, sectionId: string) =>
  db<ListedPiece[]>`
    select standing.*, ${hiddenNow(db, db`standing.id`)} as hidden
    from hand_out
    join piece_standing standing on standing.hand_out_id = hand_out.id
    where hand_out.section_id = ${sectionId}`;

/** Who was taken off what: another thing than never having been given it. */
export async function readTakenOff({ db }: ReadCall, sectionId: string): Promise<Set<string>> {
  const rows = await db<{ studentId: string; handOutId: string }[]>`
    select piece.student_id, piece.hand_out_id
    from hand_out
    join piece on piece.hand_out_id = hand_out.id
    where hand_out.section_id = ${sectionId} and piece.removed_at is not null`;
  return new Set(rows.map((row) => `${row.studentId} ${row.handOutId}`));
}

/** Everybody on the roster, those who left too. Index: enrolment's key. */
export const readStudents = ({ db, who, now }: ReadCall, sectionId: string) =>
  db<{ id: string; name: string; sortName: string; leftOn: string | null }[]>`
    select person.id, shown_name(person) as name, person.sort_name, case when enrolment.left_on <= (${now}::timestamptz at time zone ${who.zone})::date then enrolment.left_on end as left_on
    from enrolment
    join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId}
    order by person.sort_name, person.id`;

/** A section's page: its teachers, and the roster with a moon per current hand-out. */
export async function sectionView(call: ReadCall, sectionId: string): Promise<SectionView> {
  const { db, who, now } = call;
  const standing = await requireOnSection(db, who, sectionId, "section.see");
  const [about, teachers, handOuts, students, pieces, takenOff] = await Promise.all([
    readAbout(call, sectionId),
    db<{ name: string; role: string }[]>`
      select person.name, section_teacher.role
      from section_teacher
      join person on person.id = section_teacher.person_id
      where section_teacher.section_id = ${sectionId}
      order by section_teacher.role desc, person.sort_name`,
    db<{ id: string; title: string; dueAt: Date; expects: string }[]>`
      select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.due_at
      from hand_out
      join assignment on assignment.id = hand_out.assignment_id
      where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null and hand_out.put_away_at is null
      order by hand_out.due_at desc
      limit 12`,
    readStudents(call, sectionId),
    readStandings(call, sectionId),
    readTakenOff(call, sectionId),
  ]);
  const found = new Map(pieces.map((piece) => [`${piece.studentId} ${piece.handOutId}`, piece]));
  // The board is the teachers': to the office a section is its people, not their work.
  const board = may(standing, "handOut.see") ? handOuts : [];
  return {
    ...about,
    teachers,
    mayHandOut: may(standing, "section.handOut"),
    handOuts: board.map(({ id, title, dueAt }) => ({
      id,
      title,
      due: sayTime(dueAt, now, who.zone),
    })),
    roster: students
      .filter((s) => s.leftOn === null)
      .map(({ id, name }) => ({
        studentId: id,
        name,
        moons: board.map((handOut) => {
          const piece = found.get(`${id} ${handOut.id}`);
          if (piece) return listed(piece, now);
          return { pieceId: null, moon: null, takenOff: takenOff.has(`${id} ${handOut.id}`) };
        }),
      })),
  };
}

/** A piece in a list by names; one that is read without its name is not to be found from there. */
function listed(piece: ListedPiece, now: Date): { pieceId: string | null; moon: MoonView } {
  const moon = moonOf(piece, now);
  return piece.hidden ? { pieceId: null, moon: unlinked(moon) } : { pieceId: piece.id, moon };
}
