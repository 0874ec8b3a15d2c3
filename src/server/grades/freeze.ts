import { gradeOf } from "@/core/grades/grade";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { requireOnSection } from "../access/standing";
import type { Call } from "../call";
import type { FrozenSum } from "./frozen";
import { readGradeBook, type GradeBook } from "./read";

/**
 * Freezes the grades of a section's term, as its students were told their scores: from now on they are what is shown,
 * whatever is scored later. The owner's to do. Rows of the section are locked, so that two do not do it at once.
 *
 * @throws Refused where it is frozen already, or the term holds no work
 */
export async function freezeTerm(
  call: Call,
  sectionId: string,
  { term }: { term: string },
): Promise<{ frozen: number }> {
  const { tx, who, now } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  await tx`select from section where id = ${sectionId} for update`;
  const termId = await requireTerm(call, term);
  if (await inForce(call, sectionId, termId))
    throw new Refused("These grades are frozen already. Open the page again to see them.");
  const book = await readTold(call, { sectionId, term, studentIds: null });
  if (book.entries.size === 0)
    throw new Refused("There is nothing to freeze: no work of this term was given here.");
  const id = call.newId();
  await tx`
    insert into grade_freeze (id, section_id, term_id, frozen_by, frozen_at)
    values (${id}, ${sectionId}, ${termId}, ${who.id}, ${now})`;
  const rows = [...book.entries.keys()].map((studentId) => ({
    freezeId: id,
    studentId,
    number: 1,
    sum: tx.json(sumOf(book, studentId) as never),
    reason: null,
    setBy: who.id,
    setAt: now,
  }));
  await tx`insert into frozen_grade ${tx(rows)}`;
  return { frozen: rows.length };
}

/** Opens frozen grades again: scores move them as before. The freeze stays in the history with the reason. */
export async function openTerm(
  call: Call,
  sectionId: string,
  { term, reason }: { term: string; reason: string },
): Promise<{ opened: true }> {
  const { tx, who, now } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const termId = await requireTerm(call, term);
  const rows = await tx`
    update grade_freeze set opened_by = ${who.id}, opened_at = ${now}, opened_reason = ${reason}
    where section_id = ${sectionId} and term_id = ${termId} and opened_at is null
    returning id`;
  if (rows.length === 0) throw new Refused("These grades are not frozen. Nothing was changed.");
  return { opened: true };
}

/**
 * Takes what was scored since into one student's frozen grade, for a reason; what it was stays in the list.
 *
 * @throws Refused where they are not frozen; Invalid where the grade would stay as it is
 */
export async function correctGrade(
  call: Call,
  { sectionId, studentId }: { sectionId: string; studentId: string },
  { term, reason }: { term: string; reason: string },
): Promise<{ grade: string | null }> {
  const { tx, who, now } = call;
  await requireOnSection(tx, who, sectionId, "section.setUp");
  const termId = await requireTerm(call, term);
  const freezeId = await inForce(call, sectionId, termId);
  if (!freezeId) throw new Refused("These grades are not frozen: scores move them by themselves.");
  const book = await readTold(call, { sectionId, term, studentIds: [studentId] });
  if (!book.entries.has(studentId)) throw new NotFound();
  const [last] = await tx<{ number: number; sum: FrozenSum }[]>`
    select number, sum from frozen_grade
    where freeze_id = ${freezeId} and student_id = ${studentId}
    order by number desc
    limit 1`;
  const sum = sumOf(book, studentId);
  if (last && last.sum.percent === sum.percent && last.sum.name === sum.name)
    throw new Invalid({ reason: "The scores make the same grade: there is nothing to correct." });
  await tx`
    insert into frozen_grade (freeze_id, student_id, number, sum, reason, set_by, set_at)
    values (${freezeId}, ${studentId}, ${(last?.number ?? 0) + 1}, ${tx.json(sum as never)}, ${reason}, ${who.id}, ${now})`;
  return { grade: sum.percent };
}

const readTold = (
  call: Call,
  asked: { sectionId: string; term: string; studentIds: readonly string[] | null },
): Promise<GradeBook> => readGradeBook(call, { ...asked, toldOnly: true });

function sumOf({ rules, categories, columns, entries }: GradeBook, studentId: string): FrozenSum {
  const own = entries.get(studentId) ?? [];
  const { percent, name } = gradeOf(rules, categories, columns, own);
  return { rules, categories, columns, entries: own, percent, name };
}

/** @throws Invalid for a term the school does not have */
async function requireTerm({ tx, who }: Call, name: string): Promise<string> {
  const [term] = await tx<{ id: string }[]>`
    select id from term where school_id = ${who.schoolId} and name = ${name} order by starts_on limit 1`;
  if (!term) throw new Invalid({ term: "The school has no such term." });
  return term.id;
}

async function inForce({ tx }: Call, sectionId: string, termId: string): Promise<string | null> {
  const [freeze] = await tx<{ id: string }[]>`
    select id from grade_freeze
    where section_id = ${sectionId} and term_id = ${termId} and opened_at is null`;
  return freeze?.id ?? null;
}
