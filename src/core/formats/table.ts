import Papa from "papaparse";

/** A row with the line number a person would look for in the file. */
export type TableRow = { number: number; cells: string[] };
export type Table = { rows: TableRow[]; separator: string; faults: string[] };

export const TABLE_LIMITS = { rows: 200_000, columns: 200 } as const;

/**
 * Reads delimited text: commas, semicolons or tabs (found from the text), quoted cells with line ends
 * and doubled quotes inside, as RFC 4180 writes them.
 *
 * Rows are numbered as they stand in the file (the first is 1); empty rows are left out but counted.
 */
export function parseTable(text: string): Table {
  const faults: string[] = [];
  const rows: TableRow[] = [];
  const clean = text.replace(/^\uFEFF/, "");
  const separator = separatorOf(clean);
  let number = 0;
  Papa.parse<string[]>(clean, {
    delimiter: separator,
    skipEmptyLines: false,
    step: ({ data, errors }, parser) => {
      number += 1;
      for (const error of errors)
        if (error.type === "Quotes") faults.push(`Row ${number}: a quotation mark is not closed.`);
      if (data.length > TABLE_LIMITS.columns || rows.length >= TABLE_LIMITS.rows) {
        faults.push(
          `Row ${number} is more than Almanac reads: ${TABLE_LIMITS.rows.toLocaleString("en")} rows of ${TABLE_LIMITS.columns} columns at most.`,
        );
        parser.abort();
      } else if (data.some((cell) => cell.trim() !== ""))
        rows.push({ number, cells: data.map(asWritten) });
    },
  });
  return { rows, separator, faults };
}

/**
 * The separator that stands most often in the first line with anything in it, outside of quotes; a comma when none does.
 * A tab is never part of a name, as the comma of "Sørby, Ines" is: where there is one, it parts the cells.
 */
function separatorOf(text: string): string {
  const lines = text.slice(0, 100_000).split(/\r\n|[\r\n]/);
  const line = lines.find((one) => one.trim() !== "")?.replace(/"[^"]*"/g, "") ?? "";
  if (line.includes("\t")) return "\t";
  const counts = [",", ";"].map((sign) => ({ sign, count: line.split(sign).length - 1 }));
  return counts.reduce((best, next) => (next.count > best.count ? next : best)).sign;
}

/** What a spreadsheet would take for a formula and carry out (OWASP's list of first signs, from memory). */
const FORMULA = /^'*[=+\-@\t\r]/;

/** A cell as text for a spreadsheet too: what begins like a formula, apostrophes before it or none, gets one more. */
const defused = (cell: string): string => (FORMULA.test(cell) ? `'${cell}` : cell);

/** The same cell as it was: one apostrophe goes where such a sign follows, and nowhere else. */
const asWritten = (cell: string): string =>
  cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;

/** Writes rows as RFC 4180 does: commas, CRLF, quotes where needed; no cell is a formula when it is opened. */
export function writeTable(rows: readonly (readonly (string | number | null)[])[]): string {
  return (
    Papa.unparse(
      rows.map((row) => row.map((cell) => (cell === null ? "" : defused(String(cell))))),
      { newline: "\r\n" },
    ) + "\r\n"
  );
}

/** Bytes 80 to 9F (WHATWG Encoding Standard, index windows-1252). */
const WINDOWS_1252 = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";

export type DecodedText =
  { text: string; encoding: "UTF-8" | "UTF-16" | "Windows-1252" } | { fault: string };

/**
 * Bytes as text. A byte order mark decides; otherwise valid UTF-8 is UTF-8, and anything else is read
 * as Windows-1252, which is what spreadsheets write in western Europe. Text with NUL is no text.
 */
export function decodeText(bytes: Uint8Array): DecodedText {
  const mark = [...bytes.subarray(0, 3)];
  if (mark[0] === 0xff && mark[1] === 0xfe)
    return checked(new TextDecoder("utf-16le").decode(bytes), "UTF-16");
  if (mark[0] === 0xfe && mark[1] === 0xff)
    return checked(new TextDecoder("utf-16be").decode(bytes), "UTF-16");
  try {
    return checked(new TextDecoder("utf-8", { fatal: true }).decode(bytes), "UTF-8");
  } catch {
    // By hand: some versions of Node read "windows-1252" as ISO 8859-1, which has no signs from 80 to 9F.
    return checked(
      Array.from(bytes, (byte) => String.fromCharCode(byte))
        .join("")
        .replace(/[\u0080-\u009f]/g, (sign) => WINDOWS_1252[sign.charCodeAt(0) - 0x80]!),
      "Windows-1252",
    );
  }
}

function checked(text: string, encoding: "UTF-8" | "UTF-16" | "Windows-1252"): DecodedText {
  return text.includes("\u0000") ? { fault: "This is not a text file." } : { text, encoding };
}
