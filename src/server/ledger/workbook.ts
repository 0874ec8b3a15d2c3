import { Workbook } from "exceljs";
import { outTable, type OutTable } from "@/core/ledger/outTable";
import type { ReadCall } from "../call";
import { writtenBeside } from "./notes";
import { fileOf, ledgerWithGrades } from "./out";

const TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

/**
 * The Ledger as a workbook (ECMA-376): numbers are numbers, the head and the names stay in sight, and a note on a cell
 * says what its sign says here, and what is written beside it. Text is stored as text, so that no name becomes a formula.
 */
export async function ledgerWorkbook(
  call: ReadCall,
  sectionId: string,
  term: string | null,
): Promise<Response> {
  const view = await ledgerWithGrades(call, sectionId, term);
  const notes = await writtenBeside(call, sectionId);
  const bytes = await writeWorkbook(view.section.name, outTable(view, notes));
  return fileOf(new Uint8Array(bytes), { view, ending: "xlsx", type: TYPE });
}

/** What a sheet's name cannot hold (ECMA-376, 18.2.19), and how long it can be. */
const NOT_IN_NAMES = /[\\/?*[\]:']/g;
const LONGEST_NAME = 31;

async function writeWorkbook(name: string, { head, rows }: OutTable): Promise<ArrayBuffer> {
  const book = new Workbook();
  const sheet = book.addWorksheet(
    name.replace(NOT_IN_NAMES, " ").trim().slice(0, LONGEST_NAME) || "Ledger",
    { views: [{ state: "frozen", xSplit: 1, ySplit: 1 }] },
  );
  sheet.addRow(head).font = { bold: true };
  for (const cells of rows) {
    const row = sheet.addRow(cells.map(({ words, number }) => (number ? Number(words) : words)));
    for (const [n, { note }] of cells.entries()) if (note) row.getCell(n + 1).note = note;
  }
  sheet.getColumn(1).width = 28;
  return book.xlsx.writeBuffer();
}
