import { contract } from "@/core/api/contract";
import { gradesIn } from "@/core/ledger/sideBySide";
import type { LedgerWithGrades, SavedCells } from "@/core/views/ledgerViews";
import { call } from "../client";
import type { SentCell } from "./LedgerStore";

/**
 * Sends cells to their sections: one request for each section that has some. Where one of several has no answer, all are
 * said to have none and go once more; what is saved already is taken as it stands.
 *
 * @param sectionOf whose a cell is; null: of the section that stands alone
 */
export async function sendCells(
  { section, term, parts }: Pick<LedgerWithGrades, "section" | "term" | "parts">,
  cells: readonly SentCell[],
  sectionOf: (pieceId: string) => string | null,
): Promise<SavedCells> {
  const groups = new Map<string, SentCell[]>();
  for (const cell of cells) {
    const id = sectionOf(cell.pieceId) ?? section.id;
    groups.set(id, [...(groups.get(id) ?? []), cell]);
  }
  const answers = await Promise.all(
    [...groups].map(async ([sectionId, own]) => {
      const saved = await call(contract.saveCells, {
        params: { sectionId },
        body: { cells: own, term },
      });
      return parts ? { ...saved, grades: gradesIn(sectionId, saved.grades) } : saved;
    }),
  );
  return {
    cells: answers.flatMap((saved) => saved.cells),
    grades: Object.assign({}, ...answers.map((saved) => saved.grades)),
  };
}
