import { describe, expect, test } from "@jest/globals";
import Papa from "papaparse";
import { BANK } from "@demo/bank";
import {
  bankToCsv,
  bankToJson,
  mergeBank,
  readBankText,
  type BankEntry,
} from "../formats/commentBank";
import { cleanFolder } from "./folders";
import { likeness, nearlySame, repeatsIn } from "./alike";
import { slipsBetween } from "../text/finding";
import { lookUp, type BankComment } from "./lookup";
import { fillPlaceholders, nextSlot, slotsOf, unfilled } from "./placeholders";
import { suggest, type Use } from "./suggest";

const comment = (id: string, text: string, more: Partial<BankComment> = {}): BankComment => ({
  id,
  text,
  shorthand: null,
  nature: "remark",
  favourite: null,
  usedCount: 0,
  ...more,
});

describe("looking up with slips of the fingers", () => {
  const bank = [
    comment("ev", "What in your notes tells you this? Say what evidence you have.", {
      folder: "Evidence and reasons",
      tags: ["first look"],
    }),
    comment("unit", "Which unit is this in?", { criterion: "What was seen" }),
    comment("calm", "Say the gale as calmly as the calm."),
  ];
  const ids = (typed: string) => lookUp(bank, typed).map((c) => c.id);
  test.each([
    ["evidnece", ["ev"]],
    ["wich unti", ["unit"]],
    ["nots evidence", ["ev"]],
    ["gael", ["calm"]],
    ["first look", ["ev"]],
    ["reasons evid", ["ev"]],
    ["seen", ["unit"]],
    ["ths", []],
    ["zebra", []],
  ])("%j finds %j", (typed, found) => expect(ids(typed)).toEqual(found));
  test("what is spelt right is not mixed with what is nearly so", () => {
    expect(
      lookUp([comment("a", "calm sea"), comment("b", "clam bake")], "calm").map((c) => c.id),
    ).toEqual(["a"]);
  });
  /** Restricted Damerau-Levenshtein; "CA" to "ABC" is 3 by it (and 2 unrestricted): the example of the algorithm's usual description, from memory. */
  test.each<[string, string, number, number]>([
    ["becuase", "because", 2, 1],
    ["ca", "abc", 3, 3],
    ["evidnce", "evidence", 1, 1],
    ["unit", "unittest", 1, 0],
    ["cat", "dog", 2, Infinity],
    ["the", "the", 0, 0],
  ])("from %j to %j with %j forgiven: %j", (typed, word, most, slips) => {
    // A beginning counts as the word: what is typed may not be finished.
    expect(slipsBetween(typed, word, most)).toBeLessThanOrEqual(slips);
    if (slips === Infinity) expect(slipsBetween(typed, word, most)).toBe(Infinity);
  });
});

describe("what a comment leaves open", () => {
  test("choices and blanks are found, in order; the known words are none", () => {
    const text = "Is it {rain|snow}, {name}? Look at {…} and {...}.";
    expect(slotsOf(text).map((s) => [text.slice(s.start, s.end), s.choices])).toEqual([
      ["{rain|snow}", ["rain", "snow"]],
      ["{…}", null],
      ["{...}", null],
    ]);
    expect(nextSlot(text, 12)!.start).toBe(text.indexOf("{rain"));
    expect(nextSlot(text, 20)!.choices).toBeNull();
    expect(unfilled(text)).toEqual(["{rain|snow}", "{name}", "{…}", "{...}"]);
    expect(nextSlot("Nothing is open here.", 0)).toBeNull();
  });
  test("filling leaves slots alone, and what has no value", () =>
    expect(fillPlaceholders("{name}: {a|b} {…} {score}", { name: "Ines" })).toBe(
      "Ines: {a|b} {…} {score}",
    ));
  test("an empty choice is a choice", () =>
    expect(slotsOf("very {|much} so")[0]!.choices).toEqual(["", "much"]));
});

describe("saying nearly the same", () => {
  test("small changes are the same; other words, or other order, are not", () => {
    const said = "Which unit is this number in? Write it beside it.";
    for (const near of [
      "Which unit is this number in? Write it next to it.",
      "which unit is THIS number in, write it beside it",
      "Which unit is this number in? Please write it beside it.",
    ])
      expect(likeness(said, near)).toBeGreaterThan(0.7);
    for (const far of [
      "The unit writes this beside which number in it is it?",
      "What did you expect beforehand?",
      "",
    ])
      expect(likeness(said, far)).toBeLessThan(0.7);
  });
  test("names do not make two comments different", () =>
    expect(likeness("Read it aloud, {name}, and listen.", "Read it aloud, and listen.")).toBe(1));
  test("it is the same both ways, whole with itself, and never outside 0 to 1", () => {
    for (const a of BANK.slice(0, 40)) {
      expect(likeness(a.text, a.text)).toBe(1);
      for (const b of BANK.slice(40, 60)) {
        expect(likeness(a.text, b.text)).toBeCloseTo(likeness(b.text, a.text));
        expect(likeness(a.text, b.text)).toBeLessThanOrEqual(1);
      }
    }
  });
  test("the nearest comes first; a word or two is not worth keeping", () => {
    const said = [
      { text: "Say what the table shows in one sentence." },
      { text: "Say what the table shows, in a sentence below." },
      { text: "Good." },
    ];
    expect(
      nearlySame("Say what the table shows in one sentence", said, 0.6).map((s) => s.text),
    ).toEqual([said[0]!.text, said[1]!.text]);
    expect(nearlySame("Good.", said)).toEqual([]);
  });
  test("looking only where a pair is shared finds what comparing all with all finds", () => {
    const texts = BANK.slice(0, 90).flatMap((c, n) => [
      { text: c.text },
      ...(n % 7 === 0 ? [{ text: `${c.text} Please.` }] : []),
    ]);
    const all = texts.filter((t, n) =>
      texts.slice(0, n).some((before) => likeness(before.text, t.text) >= 0.6),
    );
    expect(repeatsIn(texts, 0.6).map((r) => r.comment)).toEqual(all);
    expect(all.length).toBeGreaterThan(5);
  });
  test("repeats within a bank are named with what they repeat", () => {
    expect(
      repeatsIn([
        { text: "Start the axis at nought." },
        { text: "Add the column again." },
        { text: "Start the axis at nought!" },
      ]).map((r) => [r.comment.text, r.repeats.text]),
    ).toEqual([["Start the axis at nought!", "Start the axis at nought."]]);
  });
});

describe("what to suggest", () => {
  const bank = [
    { id: "axis", text: "Start the axis at nought.", usedCount: 2 },
    { id: "unit", text: "Which unit is this in?", usedCount: 40, criterion: "What was seen" },
    { id: "why", text: "You say what. Now say why.", usedCount: 5 },
    { id: "never", text: "Never? Not once?", usedCount: 0 },
  ];
  const none = { words: "", criterion: null };
  const ids = (uses: [string, Use][], situation: Parameters<typeof suggest>[2]) =>
    suggest(bank, new Map(uses), situation).map((c) => c.id);
  test("nothing is suggested where nothing speaks for it, however often it was used", () =>
    expect(ids([], none)).toEqual([]));
  test("what was used on this assignment", () =>
    expect(ids([["why", { here: 3, on: [], days: 1 }]], none)).toEqual(["why"]));
  test("what is for the criterion in hand", () =>
    expect(ids([], { words: "", criterion: "what was seen" })).toEqual(["unit"]));
  test("what speaks of these words, or was put on words like these", () => {
    expect(ids([], { words: "The axis of the graph begins at four.", criterion: null })[0]).toBe(
      "axis",
    );
    expect(
      ids([["never", { here: 0, on: ["I have always liked the harbour"], days: 3 }]], {
        words: "We always go to the harbour on Sundays.",
        criterion: null,
      })[0],
    ).toBe("never");
  });
  test("the words weigh more than habit; habit decides between equals", () => {
    expect(
      ids([["why", { here: 1, on: [], days: 0 }]], {
        words: "the axis starts at nought",
        criterion: null,
      })[0],
    ).toBe("axis");
    expect(
      ids(
        [
          ["why", { here: 4, on: [], days: 0 }],
          ["never", { here: 1, on: [], days: 0 }],
        ],
        none,
      ),
    ).toEqual(["why", "never"]);
  });
});

describe("a bank as a file", () => {
  const entry = (text: string, more: Partial<BankEntry> = {}): BankEntry => ({
    text,
    shorthand: "",
    nature: "remark",
    folder: "",
    tags: [],
    kind: "note",
    replacement: "",
    criterion: "",
    points: "",
    ...more,
  });
  const odd = [
    entry('She said "so", and left,\nwithout a word.', {
      shorthand: "so",
      nature: "praise",
      folder: "Letters/Showing",
      tags: ["warm", "first look"],
    }),
    entry("=SUM(A1) is a formula.", { points: "-0.5" }),
    entry("Two words.", { kind: "replace", replacement: "a lot", criterion: "Sentences" }),
  ];
  test("CSV is RFC 4180: CRLF, quotes doubled within quotes, and a general reader gets every cell back", () => {
    const csv = bankToCsv(odd);
    expect(csv.endsWith("\r\n")).toBe(true);
    expect(csv).toContain('"She said ""so"", and left,\nwithout a word."');
    expect(Papa.parse<string[]>(csv.trimEnd(), { delimiter: "," }).errors).toEqual([]);
    // A spreadsheet would run a cell that begins with "=": it goes out as text.
    expect(csv).toContain("'=SUM(A1)");
  });
  test("out and in again is the same, by CSV and by JSON, with a byte order mark too", () => {
    for (const file of [bankToCsv(odd), `\ufeff${bankToCsv(odd)}`, bankToJson(odd)])
      expect(readBankText(file)).toEqual({ entries: odd, faults: [] });
    expect(
      readBankText(
        bankToCsv(
          BANK.map((c) =>
            entry(c.text, { shorthand: c.shorthand, nature: c.nature, folder: c.folder }),
          ),
        ),
      ).entries,
    ).toHaveLength(BANK.length);
  });
  /** RFC 4180, section 2, rules 5 to 7: its own examples of quoted fields, under a line of our names. */
  test("the standard's own fields", () => {
    expect(
      readBankText('text,shorthand\r\n"aaa","bbb"\r\nzzz,yyy\r\n').entries.map((e) => [
        e.text,
        e.shorthand,
      ]),
    ).toEqual([
      ["aaa", "bbb"],
      ["zzz", "yyy"],
    ]);
    expect(readBankText('text,shorthand\r\n"b \r\nbb","ccc"\r\n').entries[0]!.text).toBe("b \nbb");
    expect(readBankText('text,shorthand\r\n"b""bb",ccc').entries[0]!.text).toBe('b"bb');
  });
  test("a pasted list: bullets and numbers go, a shorthand stays", () => {
    expect(
      readBankText(
        "- why: Why do you think so?\n2. Which unit is this in?\n\n• ;ev | What tells you this?\nNote: this is a sentence.",
      ).entries.map((e) => [e.shorthand, e.text]),
    ).toEqual([
      ["why", "Why do you think so?"],
      ["", "Which unit is this in?"],
      ["ev", "What tells you this?"],
      ["", "Note: this is a sentence."],
    ]);
  });
  test("what cannot be read is named by its line, and the rest is read", () => {
    const { entries, faults } = readBankText(
      "text,kind of comment,mark,points\nFine,remark,note,\n,remark,note,\nOdd,shout,note,\nOdd,remark,ink,\nOdd,remark,note,many\n",
    );
    expect(entries).toHaveLength(1);
    expect(faults.map((f) => f.line)).toEqual([3, 4, 5, 6]);
    expect(readBankText(" \n").faults).toHaveLength(1);
    expect(readBankText('{"other": 1}').faults[0]!.why).toContain("no list");
  });
  test("merging tells the new from what is there, and what is nearly there", () => {
    const bank = [
      { id: "1", text: "Which unit is this number in, and how do you know?", shorthand: "unit" },
    ];
    const merged = mergeBank(bank, [
      entry("which unit is this number in, and how do you know?"),
      entry("Which unit is this number in? And how do you know it?"),
      entry("Something else altogether, please.", { shorthand: "Unit" }),
      entry("Something else altogether, please."),
    ]);
    expect(merged.map((m) => [m.state, m.shorthandTaken])).toEqual([
      ["the same", false],
      ["nearly the same", false],
      ["new", true],
      ["the same", false],
    ]);
  });
  test("a folder's path is tidied", () =>
    expect(cleanFolder(" Letters // Openings/ ")).toBe("Letters/Openings"));
});
