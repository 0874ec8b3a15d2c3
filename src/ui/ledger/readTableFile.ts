import { parseTable } from "@/core/formats/table";

/** A table is read in the page itself; a larger file is no Ledger. */
export const LARGEST_FILE = 2_000_000;

/**
 * The first sheet of a workbook (ECMA-376), or a table as text with commas, semicolons or tabs, as rows of texts.
 *
 * @throws Error with a sentence for the person; nothing was changed then
 */
export async function readTableFile(file: File): Promise<string[][]> {
  if (file.size > LARGEST_FILE)
    throw new Error(`${file.name} is larger than 2 MB, which no Ledger is. Nothing was changed.`);
  const bytes = await file.arrayBuffer();
  const start = new Uint8Array(bytes.slice(0, 2));
  // A workbook is a zip (APPNOTE 4.3.7), whatever it is called.
  if (start[0] === 0x50 && start[1] === 0x4b) return readWorkbook(file.name, bytes);
  const { rows, faults } = parseTable(new TextDecoder().decode(bytes));
  if (rows.length === 0 || faults.length > 0)
    throw new Error(
      `${file.name} cannot be read as a table${faults[0] ? `: ${faults[0]}` : "."} Nothing was changed.`,
    );
  return rows.map(({ cells }) => cells);
}

async function readWorkbook(name: string, bytes: ArrayBuffer): Promise<string[][]> {
  const { readSheet } = await import("read-excel-file/universal");
  const rows = await readSheet(bytes).catch(() => {
    throw new Error(`${name} cannot be read as a workbook. Nothing was changed.`);
  });
  return rows.map((row) => row.map(textOf));
}

/** Numbers and words; what else a sheet can hold (dates, yes and no) is no score. */
const textOf = (value: unknown): string =>
  typeof value === "number" || typeof value === "string" ? String(value) : "";
