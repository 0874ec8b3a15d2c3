import { fold } from "../text/finding";

/** A file of a zip that comes back, by its path in it. */
export type Came = { path: string; crc: number };
/** A piece as its folder names it. */
export type Known = { pieceId: string; code: string; folder: string; student: string };
/** What was in the zip when it was fetched: CRC-32 of each file by its path. */
export type Contents = Readonly<Record<string, number>>;

export type Matched = Came & {
  pieceId: string | null;
  student: string | null;
  /** By its code, or by the name of its folder alone. */
  by: "code" | "name" | null;
  /** It is as it was fetched: nothing of it goes back. */
  unchanged: boolean;
};

/** The names of what a zip holds beside the students' folders. */
export const TABLE_NAME = "who is who.csv";
export const CONTENTS_NAME = "contents.json";

/** Left behind by systems that unpack and pack; nobody made them. */
const LEFT_BEHIND = /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|~\$|\._)/i;

/**
 * Which piece each file of a zip that comes back belongs to: by the code in its path, wherever it stands; else by the
 * name of its folder, where only one has it. Folders, the table and what systems leave behind are not in the list.
 *
 * @param contents what was fetched, where the zip still says so
 */
export function matchFiles(
  came: readonly Came[],
  known: readonly Known[],
  contents: Contents,
): Matched[] {
  const byCode = new Map(known.map((piece) => [piece.code, piece]));
  return came
    .filter(({ path }) => isWork(path))
    .map((file) => {
      const code = codesIn(file.path).find((one) => byCode.has(one));
      const named = code === undefined ? byFolder(file.path, known) : null;
      const piece = code === undefined ? named : byCode.get(code)!;
      const by = named ? "name" : "code";
      return {
        ...file,
        pieceId: piece?.pieceId ?? null,
        student: piece?.student ?? null,
        by: piece ? by : null,
        unchanged: contents[file.path] === file.crc,
      };
    });
}

const isWork = (path: string): boolean =>
  !path.endsWith("/") &&
  !LEFT_BEHIND.test(path) &&
  ![TABLE_NAME, CONTENTS_NAME].includes(path.split("/").at(-1)!);

/** Codes in a path, those nearest to the file first: "Brekke, Aino (4k9x2m)/letter.docx". */
const codesIn = (path: string): string[] =>
  [...path.toLowerCase().matchAll(/(?<![0-9a-z])([0-9a-z]{6}\d?)(?![0-9a-z])/g)]
    .map((found) => found[1]!)
    .reverse();

function byFolder(path: string, known: readonly Known[]): Known | null {
  // What stands in brackets may be the code, or a copy's number.
  const plain = (text: string) =>
    fold(text)
      .replace(/\s*\(.*$/, "")
      .trim();
  const folders = path.split("/").slice(0, -1).map(plain);
  const found = known.filter((piece) => folders.includes(plain(piece.folder)));
  return found.length === 1 ? found[0]! : null;
}

const TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let bit = 0; bit < 8; bit += 1) c = c & 1 ? 0xed_b8_83_20 ^ (c >>> 1) : c >>> 1;
  return c;
});

/** CRC-32 as zips have it (ISO 3309; APPNOTE 4.4.7). @example crc32(utf8("123456789")) // 0xcbf43926 */
export function crc32(bytes: Uint8Array, before = 0): number {
  let crc = ~before;
  for (const byte of bytes) crc = TABLE[(crc ^ byte) & 0xff]! ^ (crc >>> 8);
  return ~crc >>> 0;
}
