import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { codeOf, fileNames, foldersFor, safeName } from "./folders";

describe("names that every system can unpack", () => {
  test.each([
    ['a/b: "c".txt', "a b c.txt"],
    ["../../etc/passwd", "etc passwd"],
    ["con.txt", "_con.txt"],
    ["  .hidden. ", "hidden"],
    ["\u202Egnp.exe", "gnp.exe"],
    ["Þórsdóttir, Ingrid", "Þórsdóttir, Ingrid"],
    ["...", "file"],
    ["C:\\x\\y.png", "C x y.png"],
  ])("%j", (name, safe) => expect(safeName(name, "file")).toBe(safe));

  test("whatever it is called, it stays in its folder and is not empty", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 300 }), (name) => {
        const safe = safeName(name, "file");
        expect(safe).not.toMatch(/[\\/:*?"<>|\p{Cc}]|^\.|[. ]$|^$/u);
        expect([...safe].length).toBeLessThanOrEqual(100);
      }),
    );
  });

  test("files of one folder never clash, on systems that do not mind capitals either", () => {
    expect(fileNames(["map.png", "Map.png", "map 2.png", "map.png"])).toEqual([
      "map.png",
      "Map 2.png",
      "map 2 2.png",
      "map 3.png",
    ]);
    fc.assert(
      fc.property(fc.array(fc.constantFrom("a.b", "A.b", "a", "a 2.b", "…/a.b")), (names) => {
        const own = fileNames(names).map((name) => name.toLowerCase());
        expect(new Set(own).size).toBe(names.length);
      }),
    );
  });
});

describe("a folder per student", () => {
  test("two of one name have each their own, and the code is the piece's", () => {
    const [a, b] = ["0190aaaa-0000-7000-8000-000000000001", "0190aaaa-0000-7000-8000-000000000002"];
    const folders = foldersFor([
      { pieceId: a, sortName: "Haddad, Noor" },
      { pieceId: b, sortName: "Haddad, Noor" },
    ]);
    expect(folders.get(a)!.folder).toBe(`Haddad, Noor (${codeOf(a)})`);
    expect(folders.get(a)!.folder).not.toBe(folders.get(b)!.folder);
  });
  test("codes of a large hand-out are told apart", () => {
    const ids = Array.from(
      { length: 2000 },
      (_, n) => `0190aaaa-0000-7000-8000-${String(n).padStart(12, "0")}`,
    );
    expect(new Set(ids.map(codeOf)).size).toBeGreaterThan(1998);
    const folders = foldersFor(ids.map((pieceId) => ({ pieceId, sortName: "x" })));
    expect(new Set([...folders.values()].map((f) => f.folder)).size).toBe(2000);
  });
});
