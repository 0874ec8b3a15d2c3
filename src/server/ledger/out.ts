import { writeTable } from "@/core/formats/table";
import { cleanFileName } from "@/core/items/kinds";
import type { LedgerWithGrades } from "@/core/views/overviewViews";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { ledgerView } from "../overview/sections";
import { sectionGrades } from "./grades";

/** The Ledger of a section with the grades of its students. @throws NotFound */
export async function ledgerWithGrades(
  call: ReadCall,
  sectionId: string,
): Promise<LedgerWithGrades> {
  await requireOnSection(call.db, call.who, sectionId, "ledger.see");
  const [view, { term, grades }] = await Promise.all([
    ledgerView(call, sectionId),
    sectionGrades(call, sectionId),
  ]);
  const said = [...grades].map(([id, { percent, name }]) => [id, { percent, name }] as const);
  return { ...view, term, grades: Object.fromEntries(said) };
}

/** The Ledger as a table for a spreadsheet: a row for each student, scores as they are shown, the grade at the end. */
export async function ledgerOut(call: ReadCall, sectionId: string): Promise<Response> {
  const view = await ledgerWithGrades(call, sectionId);
  const head = [
    "student",
    ...view.columns.map(({ title, possible }) => (possible ? `${title} (of ${possible})` : title)),
    "grade in percent",
    "grade",
  ];
  const rows = view.rows.map(({ studentId, student, cells }) => [
    student,
    ...cells.map((cell) => cell?.score ?? ""),
    view.grades[studentId]?.percent ?? "",
    view.grades[studentId]?.name ?? "",
  ]);
  const name = cleanFileName(`Ledger ${view.section.name}.csv`);
  return new Response(`\ufeff${writeTable([head, ...rows])}`, {
    headers: {
      "content-type": "text/csv; charset=utf-8; header=present",
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      "cache-control": "no-store",
    },
  });
}
