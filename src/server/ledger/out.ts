import { outTable } from "@/core/ledger/outTable";
import { writeTable } from "@/core/formats/table";
import { cleanFileName } from "@/core/items/kinds";
import { may } from "@/core/access/access";
import { dayOf } from "@/core/time/zone";
import type { Term } from "@/core/time/term";
import type { LedgerView, LedgerWithGrades } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { ledgerView } from "./view";
import { readCells } from "../grades/cells";
import { sectionGrades } from "../grades/grades";

/** The Ledger of a section with the grades of its students. @throws NotFound */
export async function ledgerWithGrades(
  call: ReadCall,
  sectionId: string,
  wanted: string | null = null,
): Promise<LedgerWithGrades> {
  const standing = await requireOnSection(call.db, call.who, sectionId, "ledger.see");
  // Both are made of the same cells, which are many.
  const cells = readCells(call, sectionId);
  const [view, { term, terms, spans, categories, grades, frozen, opened }] = await Promise.all([
    ledgerView(call, sectionId, cells),
    sectionGrades(call, sectionId, { cells, term: wanted }),
  ]);
  return {
    ...withoutOthers(view, spans, term),
    ...{ term, terms, grades, categories, frozen, opened },
    may: {
      handOut: may(standing, "section.handOut"),
      except: may(standing, "piece.except"),
      handBack: may(standing, "feedback.handBack"),
      setUp: may(standing, "section.setUp"),
    },
    today: dayOf(call.now, call.who.zone),
  };
}

/** Without the columns that are due in another term; what is due in none stands in each. */
function withoutOthers(view: LedgerView, spans: readonly Term[], term: string | null): LedgerView {
  const dueIn = (day: string) =>
    spans.filter(({ startsOn, endsOn }) => startsOn <= day && day <= endsOn);
  const kept = view.columns.map(({ dueOn }) => {
    const terms = dueIn(dueOn);
    return terms.length === 0 || terms.some(({ name }) => name === term);
  });
  const keep = <T>(all: readonly T[]): T[] => all.filter((_, n) => kept[n]);
  return {
    ...view,
    columns: keep(view.columns),
    rows: view.rows.map((row) => ({
      ...row,
      takenOff: keep(row.takenOff),
      cells: keep(row.cells),
    })),
  };
}

/** The Ledger as a table for a spreadsheet (RFC 4180): a row for each student, the grade at the end. */
export async function ledgerOut(
  call: ReadCall,
  sectionId: string,
  term: string | null = null,
): Promise<Response> {
  const view = await ledgerWithGrades(call, sectionId, term);
  const { head, rows } = outTable(view);
  const text = writeTable([head, ...rows.map((cells) => cells.map(({ words }) => words))]);
  return fileOf(`\ufeff${text}`, {
    ...{ view, ending: "csv", type: "text/csv; charset=utf-8; header=present" },
  });
}

/** The answer that carries a Ledger away as a file, named by section and term. */
export function fileOf(
  body: string | Uint8Array<ArrayBuffer>,
  { view, ending, type }: { view: LedgerWithGrades; ending: string; type: string },
): Response {
  const term = view.term ? ` ${view.term}` : "";
  const name = cleanFileName(`Ledger ${view.section.name}${term}.${ending}`);
  return new Response(body, {
    headers: {
      "content-type": type,
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      "cache-control": "no-store",
    },
  });
}
