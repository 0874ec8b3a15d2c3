import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { aPart, checkParts, missingParts, sayParts, WRITING } from "../handouts/parts";
import {
  cleanFileName,
  recognise,
  refusesFile,
  refusesSize,
  sayDuration,
  withEnding,
} from "./kinds";

describe("names of files", () => {
  test.each([
    ["../../etc/passwd", "passwd"],
    ["C:\\Users\\x\\letter.docx", "letter.docx"],
    ["report\u202Efdp.exe", "reportfdp.exe"],
    ["a\u0000b\u0007.pdf", "ab.pdf"],
    ["  spaced   out .txt", "spaced out .txt"],
    ["...", "file"],
    ["", "file"],
    ["what? <b>.png", "what b.png"],
  ])("%j becomes %j", (given, kept) => expect(cleanFileName(given)).toBe(kept));
  test("400 characters are cut, the ending stays", () => {
    const cut = cleanFileName(`${"very long ".repeat(40)}end.docx`);
    expect([...cut].length).toBe(120);
    expect(cut).toMatch(/\.docx$/);
  });
  test("whatever comes, no path, no control sign and no emptiness is left", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (name) => {
        const kept = cleanFileName(name);
        return (
          kept.length > 0 &&
          [...kept].length <= 120 &&
          !/[/\\\p{Cc}\p{Cf}]/u.test(kept) &&
          !kept.startsWith(".")
        );
      }),
    );
  });
  test("endings and durations", () => {
    expect(withEnding("IMG_0001.HEIC", ".jpg")).toBe("IMG_0001.jpg");
    expect(sayDuration(75.9)).toBe("1:15");
  });
});

describe("what a file is", () => {
  test("by its content", () => {
    expect(recognise("application/x-msdownload", null)).toEqual({
      refused: expect.stringContaining("program"),
    });
    expect(
      recognise("application/xml", '<?xml version="1.0"?><svg xmlns="x"><script/></svg>'),
    ).toEqual({ refused: expect.stringContaining("SVG") });
    expect(
      recognise("application/vnd.openxmlformats-officedocument.wordprocessingml.document", null),
    ).toEqual({ kind: "document", type: "document" });
    expect(recognise("image/heic", null)).toEqual({ kind: "picture", type: "picture" });
    expect(recognise(null, "hello")).toEqual({ kind: "text", type: "text" });
    expect(recognise("application/zip", null)).toEqual({ kind: "other", type: null });
  });
  test("and whether it was asked for", () => {
    const id = "p";
    expect(refusesFile(aPart(id, "photos"), { kind: "pdf", type: "pdf" }, "x.pdf")).toContain(
      "Photos of paper",
    );
    expect(
      refusesFile(
        aPart(id, "files", { types: ["pdf"] }),
        { kind: "document", type: "document" },
        "x.docx",
      ),
    ).toContain("not asked for");
    expect(refusesFile(aPart(id, "files"), { kind: "other", type: null }, "x.bin")).toBeNull();
    expect(
      refusesFile(
        aPart(id, "files", { types: ["table"] }),
        { kind: "text", type: "text" },
        "x.csv",
      ),
    ).toBeNull();
    // In the writing itself stands what can be heard and seen there.
    expect(refusesFile(WRITING, { kind: "pdf", type: "pdf" }, "x.pdf")).toBeNull();
    expect(refusesFile(WRITING, { kind: "other", type: null }, "x.bin")).toContain("sounds, films");
    expect(refusesFile(aPart(id, "questions"), { kind: "pdf", type: "pdf" }, "x.pdf")).toContain(
      "not asked for",
    );
  });
  test("limits are said before anything is sent", () => {
    const limits = { file: 250e6, piece: 500e6, student: 4000e6, recordingMinutes: 10 };
    expect(refusesSize(limits, { piece: 0, student: 0 }, 0)).toContain("empty");
    expect(refusesSize(limits, { piece: 0, student: 0 }, 300e6)).toContain("250 MB is the most");
    expect(refusesSize(limits, { piece: 400e6, student: 400e6 }, 120e6)).toContain("520 MB");
    expect(refusesSize(limits, { piece: 0, student: 3990e6 }, 20e6)).toContain("the office");
    expect(refusesSize(limits, { piece: 0, student: 0 }, 250e6)).toBeNull();
  });
});

describe("what was asked and what is missing", () => {
  const graph = aPart("g", "photos", { label: "a picture of the graph" });
  const quiz = aPart("q", "questions", { setId: "s" });
  test("is told in the teacher's words, and forbids nothing", () => {
    const nothing = {
      blank: true,
      items: new Map(),
      answered: new Map([["q", { given: 3, of: 4 }]]),
    };
    expect(missingParts([WRITING, graph, quiz], nothing)).toEqual([
      "nothing is written yet",
      "no picture of the graph yet",
      "1 of 4 questions has no answer yet",
    ]);
    expect(
      missingParts([WRITING, graph, quiz], {
        blank: false,
        items: new Map([["g", 2]]),
        answered: new Map([["q", { given: 4, of: 4 }]]),
      }),
    ).toEqual([]);
    expect(sayParts([WRITING, graph, quiz])).toBe(
      "writing, a picture of the graph and answers to questions",
    );
    expect(sayParts([])).toBe("nothing to hand in");
  });
  test("two texts, a set chosen twice and a missing set are faults", () => {
    expect(
      checkParts([
        WRITING,
        graph,
        { ...WRITING, id: "x" },
        aPart("y", "questions"),
        quiz,
        { ...quiz, id: "z" },
      ]),
    ).toEqual({
      2: expect.stringContaining("one text"),
      3: "Choose a set of questions.",
      5: expect.stringContaining("already"),
    });
  });
});
