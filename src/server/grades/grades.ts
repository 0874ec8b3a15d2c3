import { gradeOf } from "@/core/grades/grade";
import { checkScale, MOST_STEPS, type GradeRules } from "@/core/grades/rules";
import { toDecimal } from "@/core/scores/decimal";
import { Invalid, NotFound } from "@/core/refusals";
import type { GradeSource, GradeTerms } from "@/core/views/gradeViews";
import type { LedgerGrades } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Cells } from "./cells";
import { readGradeBook, type GradeBook } from "./read";

/** One student's grade for a teacher of the section, with the sum that makes it. @throws NotFound */
export async function studentGrade(
  call: ReadCall,
  { sectionId, studentId, term }: { sectionId: string; studentId: string; term: string | null },
): Promise<GradeSource & GradeTerms> {
  const { db, who } = call;
  await requireOnSection(db, who, sectionId, "ledger.see");
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
  return { ...sourceOf(book, student), terms: book.terms };
}

/** The grades of a section's students, all or some of them, as the Ledger shows them, by student. Who may see them was decided before. */
export async function sectionGrades(
  call: ReadCall,
  sectionId: string,
  {
    studentIds = null,
    cells,
  }: { studentIds?: readonly string[] | null; cells?: Promise<Cells> } = {},
): Promise<{ term: string | null; categories: string[]; grades: LedgerGrades }> {
  const book = await readGradeBook(call, {
    ...{ sectionId, studentIds, cells, term: null, toldOnly: false },
  });
  const { rules, categories, columns } = book;
  const grades = [...book.entries].map(([id, entries]) => {
    const { percent, name } = gradeOf(rules, categories, columns, entries);
    return [id, { percent, name }] as const;
  });
  return {
    term: book.term,
    categories: categories.map((category) => category.name),
    grades: Object.fromEntries(grades),
  };
}

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
  return Promise.all(
    rows.map(async ({ sectionId, ...student }) => {
      const asked = { sectionId, studentIds: [student.id], term: null, toldOnly: true };
      return sourceOf(await readGradeBook(call, asked), student);
    }),
  );
}

function sourceOf(book: GradeBook, student: { id: string; name: string }): GradeSource {
  const { section, rules, categories, columns, term } = book;
  return {
    ...{ sectionId: section.id, section: section.name, course: section.course, term },
    ...{ rules, categories, columns, student },
    entries: book.entries.get(student.id) ?? [],
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
