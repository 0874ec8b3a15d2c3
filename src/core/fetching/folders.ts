import { hash } from "../desk/queueOrder";

/** Signs that some system does not allow in a name, or reads as a way to another folder. */
const NOT_ALLOWED = /[\p{Cc}\p{Cf}\\/:*?"<>|]/gu;
/** Names that Windows keeps for devices (Microsoft, "Naming Files, Paths, and Namespaces"; from memory). */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;
const MOST = 80;

/**
 * A name that every system can unpack: no separators, no signs that are not seen, no dot or space at its end, not too
 * long; what remains of it is kept in its own writing.
 *
 * @example safeName('a/b: "c".txt', "file") // "a b c.txt"
 */
export function safeName(name: string, otherwise: string): string {
  const plain = name.normalize("NFC").replace(NOT_ALLOWED, " ").replace(/\s+/g, " ");
  const trimmed = plain.replace(/^[\s.]+|[\s.]+$/g, "");
  const ending = /\.[\p{L}\p{N}]{1,8}$/u.exec(trimmed)?.[0] ?? "";
  const stem = [...trimmed.slice(0, trimmed.length - ending.length)].slice(0, MOST).join("").trim();
  const whole = stem === "" ? `${otherwise}${ending}` : stem + ending;
  return RESERVED.test(whole) ? `_${whole}` : whole;
}

/**
 * The code that stands in the name of a piece's folder and files, by which they are known again when they come back:
 * six signs without look-alikes (Crockford's base 32), of two hashes of its id.
 */
export function codeOf(pieceId: string): string {
  const signs = "0123456789abcdefghjkmnpqrstvwxyz";
  let rest = hash(pieceId) ^ (hash(`${pieceId} again`) >>> 7);
  let code = "";
  for (let n = 0; n < 6; n += 1) {
    code += signs[(rest >>> 0) % 32];
    rest = (rest >>> 5) ^ hash(`${pieceId} ${n}`);
  }
  return code;
}

/**
 * A folder for each piece, with names that sort as a register does and cannot clash: each ends with its piece's code.
 *
 * @example foldersFor([{ pieceId, sortName: "Brekke, Aino" }]).get(pieceId) // "Brekke, Aino (4k9x2m)"
 */
export function foldersFor(
  pieces: readonly { pieceId: string; sortName: string }[],
): Map<string, { folder: string; code: string }> {
  const taken = new Set<string>();
  return new Map(
    pieces.map(({ pieceId, sortName }) => {
      let code = codeOf(pieceId);
      // Two codes that are alike are of two pieces in thousands of millions; then one is longer.
      for (let n = 2; taken.has(code); n += 1) code = `${codeOf(pieceId)}${n}`;
      taken.add(code);
      return [pieceId, { folder: `${safeName(sortName, "student")} (${code})`, code }];
    }),
  );
}

/** Names of files in one folder, told apart where two would be one on a system that does not mind capitals. */
export function fileNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const safe = safeName(name, "file");
    const dot = safe.lastIndexOf(".");
    const [stem, ending] = dot > 0 ? [safe.slice(0, dot), safe.slice(dot)] : [safe, ""];
    let own = safe;
    for (let n = 2; taken.has(own.toLowerCase()); n += 1) own = `${stem} ${n}${ending}`;
    taken.add(own.toLowerCase());
    return own;
  });
}
