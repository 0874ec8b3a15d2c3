import { may } from "@/core/access/access";
import { gradeOf } from "@/core/grades/grade";
import { checkScale, MOST_STEPS, type GradeRules } from "@/core/grades/rules";
import { toDecimal } from "@/core/scores/decimal";
import { Invalid, NotFound } from "@/core/refusals";
import type { GradeSource, GradeTerms } from "@/core/views/gradeViews";
import { sayGrade } from "@/core/grades/sayGrade";
import type { Term } from "@/core/time/term";
import { sayTime } from "@/core/time/words";
import type { LedgerGrade, LedgerGrades, LedgerWithGrades } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Cells } from "./cells";
import { readFreeze, readFrozenTerms, readOpened, type Freeze } from "./frozen";
import { readGradeBook, type GradeBook } from "./read";

/** One student's grade for a teacher of the section, with the sum that makes it. @throws NotFound */
export async function studentGrade(
  call: ReadCall,
  { sectionId, studentId, term }: { sectionId: string; studentId: string; term: string | null },
): Promise<GradeSource & GradeTerms & { mayCorrect: boolean }> {
  const { db, who } = call;
  const standing = await requireOnSection(db, who, sectionId, "ledger.see");
  const mayCorrect = may(standing, "section.setUp");
  const [student] = await db<{ id: string; name: string }[]>`
    select person.id, shown_name(person) as name
    from enrolment join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId} and enrolment.student_id = ${studentId}`;
  if (!student) throw new NotFound();
  const book = await readGradeBook(call, {
    sectionId,
    studentIds: [studentId],
    term,
    toldOnly: false,
  });
  const freeze = await readFreeze(call, {
    ...{ sectionId, term: book.term },
    studentIds: [studentId],
  });
  if (!freeze) return { ...sourceOf(book, student), terms: book.terms, mayCorrect };
  const told = await readGradeBook(call, {
    ...{ sectionId, studentIds: [studentId], term: book.term, toldOnly: true },
  });
  const now = gradeFrom(told, studentId);
  const source = frozenSource(call, { book: told, student, freeze, now });
  return { ...source, terms: book.terms, mayCorrect };
}

/** The grades of a section's students, all or some of them, as the Ledger shows them, by student. Who may see them was decided before. */
export async function sectionGrades(
  call: ReadCall,
  sectionId: string,
  {
    studentIds = null,
    cells,
    term = null,
  }: { studentIds?: readonly string[] | null; cells?: Promise<Cells>; term?: string | null } = {},
): Promise<{
  term: string | null;
  terms: string[];
  spans: Term[];
  categories: string[];
  frozen: LedgerWithGrades["frozen"];
  opened: LedgerWithGrades["opened"];
  grades: LedgerGrades;
}> {
  const asked = { sectionId, studentIds, term };
  const book = await readGradeBook(call, { ...asked, cells, toldOnly: false });
  const about = {
    ...{ term: book.term, terms: book.terms, spans: book.spans },
    categories: book.categories.map(({ name }) => name),
  };
  const [freeze, opened] = await Promise.all([
    readFreeze(call, { ...asked, term: book.term }),
    readOpened(call, { sectionId, term: book.term }),
  ]);
  // Frozen grades are of what students were told; so is what they are held against.
  const made = freeze ? await readGradeBook(call, { ...asked, toldOnly: true }) : book;
  const grades = [...made.entries.keys()].map((id) => {
    const now = gradeFrom(made, id);
    const stood = freeze?.grades.get(id)?.[0]?.sum;
    return [id, stood ? frozenGrade(stood, now) : now] as const;
  });
  return {
    ...about,
    frozen: freeze && { by: freeze.by, on: sayTime(freeze.at, call.now, call.who.zone) },
    opened,
    grades: Object.fromEntries(grades),
  };
}

type Shown = { percent: string | null; name: string | null };

function gradeFrom({ rules, categories, columns, entries }: GradeBook, studentId: string): Shown {
  const { percent, name } = gradeOf(rules, categories, columns, entries.get(studentId) ?? []);
  return { percent, name };
}

const frozenGrade = ({ percent, name }: Shown, now: Shown): LedgerGrade => ({
  ...{ percent, name },
  frozen: { now: percent === now.percent && name === now.name ? null : sayGrade(now) },
});

/**
 * The grades of a student in all sections whose teacher shows them, for the student or a guardian of theirs: made of what
 * the student was told alone. @throws NotFound
 */
export async function ownGrades(call: ReadCall): Promise<GradeSource[]> {
  const { db, who, now } = call;
  if (who.kind !== "student" && who.kind !== "guardian") throw new NotFound();
  const rows = await db<{ sectionId: string; id: string; name: string }[]>`
    select enrolment.section_id, student.id, student.name
    from person student
    join enrolment on enrolment.student_id = student.id
      and (enrolment.left_on is null or enrolment.left_on > (${now}::timestamptz at time zone ${who.zone})::date)
    join section on section.id = enrolment.section_id and (section.grade_rules->>'shown')::boolean
    join course on course.id = section.course_id
    where student.id = ${who.id}
      or exists (select from guardianship where guardian_id = ${who.id} and student_id = student.id)
    order by student.sort_name, student.id, course.name, section.name`;
  const all = await Promise.all(
    rows.map(async ({ sectionId, ...student }) => {
      const present = await ownGrade(call, { sectionId, student, term: null });
      const frozen = await readFrozenTerms(db, sectionId);
      const earlier = frozen.filter((term) => term !== present.term);
      return [
        present,
        ...(await Promise.all(earlier.map((term) => ownGrade(call, { sectionId, student, term })))),
      ];
    }),
  );
  return all.flat();
}

/** A student's grade in a term as they are told it: frozen, or of their scores. */
async function ownGrade(
  call: ReadCall,
  {
    sectionId,
    student,
    term,
  }: { sectionId: string; student: { id: string; name: string }; term: string | null },
): Promise<GradeSource> {
  const studentIds = [student.id];
  const book = await readGradeBook(call, { sectionId, studentIds, term, toldOnly: true });
  const freeze = await readFreeze(call, { sectionId, term: book.term, studentIds });
  return freeze
    ? frozenSource(call, { book, student, freeze, now: null })
    : sourceOf(book, student);
}

/** `now`: what the scores would make, for teachers. A student who came after the freeze has none, and theirs is computed. */
function frozenSource(
  { now: moment, who }: ReadCall,
  {
    book,
    student,
    freeze,
    now,
  }: {
    book: GradeBook;
    student: { id: string; name: string };
    freeze: Freeze;
    now: Shown | null;
  },
): GradeSource {
  const grades = freeze.grades.get(student.id);
  const source = sourceOf(book, student);
  if (!grades) return source;
  const say = (at: Date) => sayTime(at, moment, who.zone);
  const { rules, categories, columns, entries, ...stood } = grades[0]!.sum;
  const corrections = grades.slice(0, -1).map(({ sum, reason, by, at }, n) => ({
    ...{ from: sayGrade(grades[n + 1]!.sum), to: sayGrade(sum) },
    ...{ reason: reason ?? "", by, on: say(at) },
  }));
  return {
    ...source,
    ...{ rules, categories, columns, entries },
    frozen: {
      ...{ by: freeze.by, on: say(freeze.at), corrections },
      now: now && (frozenGrade(stood, now).frozen?.now ?? null),
    },
  };
}

function sourceOf(book: GradeBook, student: { id: string; name: string }): GradeSource {
  const { section, rules, categories, columns, term } = book;
  return {
    ...{ sectionId: section.id, section: section.name, course: section.course, term },
    ...{ rules, categories, columns, student },
    entries: book.entries.get(student.id) ?? [],
    frozen: null,
  };
}

/** How the section's grade comes about. The owner's to set. @throws Invalid by the number of a step */
export async function setGradeRules(
  call: Call,
  sectionId: string,
  given: GradeRules,
): Promise<{ rules: GradeRules }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const scale = given.scale
    .slice(0, MOST_STEPS)
    .map(({ from, name }) => ({ from: toDecimal(from), name: name.trim() }));
  const wrong = Object.entries(checkScale(scale));
  if (wrong.length > 0)
    throw new Invalid(Object.fromEntries(wrong.map(([n, words]) => [`scale[${n}]`, words])));
  const rules = { ...given, scale };
  await tx`update section set grade_rules = ${tx.json(rules as never)} where id = ${sectionId}`;
  return { rules };
}
