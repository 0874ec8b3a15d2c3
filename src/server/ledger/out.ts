import { writeTable } from "@/core/formats/table";
import { cleanFileName } from "@/core/items/kinds";
import { may } from "@/core/access/access";
import { dayOf } from "@/core/time/zone";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { ledgerView } from "./view";
import { readCells } from "../grades/cells";
import { sectionGrades } from "../grades/grades";

/** The Ledger of a section with the grades of its students. @throws NotFound */
export async function ledgerWithGrades(
  call: ReadCall,
  sectionId: string,
): Promise<LedgerWithGrades> {
  const standing = await requireOnSection(call.db, call.who, sectionId, "ledger.see");
  // Both are made of the same cells, which are many.
  const cells = readCells(call, sectionId);
  const [view, { term, categories, grades }] = await Promise.all([
    ledgerView(call, sectionId, cells),
    sectionGrades(call, sectionId, { cells }),
  ]);
  return {
    ...view,
    ...{ term, grades, categories },
    may: {
      handOut: may(standing, "section.handOut"),
      except: may(standing, "piece.except"),
      handBack: may(standing, "feedback.handBack"),
    },
    today: dayOf(call.now, call.who.zone),
  };
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
    ...cells.map((cell) => cell?.draft ?? cell?.score ?? ""),
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
