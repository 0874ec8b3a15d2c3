import { LONGEST_ASKED, pairsOf, search, type Findable } from "@/core/search/search";
import type { FoundView } from "@/core/views/overviewViews";
import { mayUse } from "../access/sharing";
import type { ReadCall } from "../call";
import { hiddenNow } from "../names/names";

/** So many of each kind are shown. */
const MOST = 6;
/** So many pairs of a student and a hand-out are looked for. */
const MOST_PAIRS = 60;

type Named = { id: string; words: string; about: string };

/**
 * What answers to a few letters, of what this person may see: a teacher their students, sections, hand-outs, pieces and
 * comments; a student their own work; who keeps the school its people. Slips are forgiven (core/search). A piece that
 * is read without its name is not found by it.
 */
export async function find(call: ReadCall, typed: string): Promise<FoundView[]> {
  const sources = {
    teacher: findForTeacher,
    student: findForStudent,
    office: async () => [],
    guardian: async () => [],
  };
  const { who } = call;
  const own = sources[who.kind](call, typed);
  const people = who.kind === "office" || who.keepsSchool ? readPeople(call) : [];
  const [found, all] = await Promise.all([own, people]);
  return [...found, ...search(all, typed, MOST)];
}

async function findForTeacher(call: ReadCall, typed: string): Promise<Findable[]> {
  const [students, sections, handOuts, comments] = await Promise.all([
    readStudents(call),
    readSections(call),
    readHandOuts(call),
    readComments(call),
  ]);
  const as =
    (kind: Findable["kind"], href: (id: string) => string) =>
    (row: Named): Findable => ({ ...row, kind, href: href(row.id) });
  const found = search(
    [
      ...students.map(as("student", (id) => `/students/${id}`)),
      ...sections.map(as("section", (id) => `/sections/${id}`)),
      ...handOuts.map(as("handOut", (id) => `/hand-outs/${id}`)),
      ...comments.map((row): Findable => ({
        ...{ ...row, kind: "comment" },
        href: `/shelf/comments?find=${encodeURIComponent(row.words.slice(0, LONGEST_ASKED))}`,
      })),
    ],
    typed,
    MOST,
  );
  const pairs = pairsOf(students, handOuts, { typed, most: MOST_PAIRS });
  return pairs.length === 0 ? found : [...(await readPieces(call, pairs)), ...found];
}

/** Indexes: section_teacher_person, enrolment's primary key. */
const readStudents = ({ db, who }: ReadCall) => db<Named[]>`
  select person.id, person.name as words, string_agg(distinct section.name, ', ') as about
  from section_teacher
  join section on section.id = section_teacher.section_id
  join enrolment on enrolment.section_id = section.id
  join person on person.id = enrolment.student_id
  where section_teacher.person_id = ${who.id}
  group by person.id
  order by person.sort_name`;

const readSections = ({ db, who }: ReadCall) => db<Named[]>`
  select section.id, section.name as words, course.name as about
  from section_teacher
  join section on section.id = section_teacher.section_id
  join course on course.id = section.course_id
  where section_teacher.person_id = ${who.id}
  order by section.name`;

/** The newest first. Index: hand_out_section. */
const readHandOuts = ({ db, who }: ReadCall) => db<Named[]>`
  select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as words, section.name as about
  from section_teacher
  join section on section.id = section_teacher.section_id
  join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
  join assignment on assignment.id = hand_out.assignment_id
  where section_teacher.person_id = ${who.id}
  order by hand_out.due_at desc
  limit 1000`;

/** Indexes: comment_shorthand, comment_shared. */
const readComments = ({ db, who }: ReadCall) => db<Named[]>`
  select comment.id, comment.text as words, coalesce(';' || comment.shorthand, '') as about
  from comment
  where ${mayUse(db, who)}
  order by comment.used_count desc
  limit 3000`;

type Found = { one: Named; other: Named };

/** Indexes: piece_student. */
async function readPieces({ db }: ReadCall, pairs: readonly Found[]): Promise<Findable[]> {
  const rows = await db<{ id: string; studentId: string; handOutId: string }[]>`
    select piece.id, piece.student_id, piece.hand_out_id
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.student_id = any(${[...new Set(pairs.map(({ one }) => one.id))]})
      and piece.hand_out_id = any(${[...new Set(pairs.map(({ other }) => other.id))]})
      and piece.removed_at is null and not ${hiddenNow(db, db`piece.id`)}`;
  const known = new Map(rows.map((row) => [`${row.studentId} ${row.handOutId}`, row]));
  return pairs
    .flatMap(({ one, other }) => {
      const piece = known.get(`${one.id} ${other.id}`);
      return piece ? [pieceOf(piece, { one, other })] : [];
    })
    .slice(0, MOST);
}

const pieceOf = (
  { id, handOutId }: { id: string; handOutId: string },
  { one, other }: Found,
): Findable => ({
  ...{ kind: "piece", id, words: one.words, about: `${other.words} · ${other.about}` },
  href: `/desk?pile=all&handOut=${handOutId}&piece=${id}`,
});

/** A student's own work that was given, the newest first. Index: piece_student. */
async function findForStudent({ db, who, now }: ReadCall, typed: string): Promise<Findable[]> {
  const rows = await db<Named[]>`
    select piece.id, full_title(assignment.emoji, assignment.number, assignment.title) as words, course.name as about
    from piece
    join hand_out on hand_out.id = piece.hand_out_id and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now}
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    where piece.student_id = ${who.id} and piece.removed_at is null
    order by hand_out.due_at desc
    limit 1000`;
  return search(
    rows.map((row) => ({ ...row, kind: "piece" as const, href: `/work/${row.id}` })),
    typed,
    MOST,
  );
}

/** In the order of bytes: the rules of a language take twenty times as long over a school. Index: person_school. */
async function readPeople({ db, who }: ReadCall): Promise<Findable[]> {
  const rows = await db<Named[]>`
    select id, name as words, concat_ws(' · ', kind, coalesce(school_name, email)) as about
    from person
    where school_id = ${who.schoolId}
    order by sort_name collate "C"
    limit 10000`;
  return rows.map((row) => ({
    ...row,
    kind: "person",
    href: `/office/people?name=${encodeURIComponent(row.words)}`,
  }));
}
