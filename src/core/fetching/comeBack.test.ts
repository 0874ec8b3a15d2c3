import { describe, expect, test } from "@jest/globals";
import { crc32, matchFiles, type Known } from "./comeBack";

const piece = (n: number, code: string, folder: string): Known => ({
  ...{ pieceId: `p${n}`, code, student: `Student ${n}` },
  folder: `${folder} (${code})`,
});
const KNOWN = [
  piece(1, "4k9x2m", "Brekke, Aino"),
  piece(2, "aaaaaa", "Haddad, Noor"),
  piece(3, "bbbbbb", "Haddad, Noor"),
];
const match = (path: string, crc = 1, contents = {}) =>
  matchFiles([{ path, crc }], KNOWN, contents)[0];

describe("files that come back find their piece", () => {
  test.each([
    ["Letter, Gannet/Brekke, Aino (4k9x2m)/letter.docx", "p1", "code"],
    ["letter marked 4K9X2M.pdf", "p1", "code"],
    ["anything/Haddad, Noor (bbbbbb)/x.pdf", "p3", "code"],
    ["Letter/brekke, aino/x.pdf", "p1", "name"],
    ["Letter/Brekke, Aino (4k9x2m) copy/deep/er/x.pdf", "p1", "code"],
    // Two of one name: without the code nobody is guessed.
    ["Letter/Haddad, Noor/x.pdf", null, null],
    ["Letter/nobody/x.pdf", null, null],
  ])("%s", (path, pieceId, by) => expect(match(path)).toMatchObject({ pieceId, by }));

  test("what is as it was fetched is said, and what nobody made is not in the list", () => {
    const path = "L/Brekke, Aino (4k9x2m)/rain.txt";
    expect(match(path, 7, { [path]: 7 })!.unchanged).toBe(true);
    expect(match(path, 8, { [path]: 7 })!.unchanged).toBe(false);
    expect(match(path, 8)!.unchanged).toBe(false);
    for (const none of [
      ...["L/", "L/who is who.csv", "L/contents.json", "__MACOSX/L/._rain.txt"],
      ...["L/.DS_Store", "L/Brekke, Aino (4k9x2m)/Thumbs.db", "L/~$letter.docx"],
    ])
      expect(match(none)).toBeUndefined();
  });

  test("CRC-32: the check value of the catalogue of parametrised CRC algorithms (from memory), whole or in parts", () => {
    const bytes = new TextEncoder().encode("123456789");
    expect(crc32(bytes)).toBe(0xcb_f4_39_26);
    expect(crc32(bytes.subarray(4), crc32(bytes.subarray(0, 4)))).toBe(0xcb_f4_39_26);
  });
});
