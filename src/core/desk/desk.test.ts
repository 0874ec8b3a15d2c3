import { describe, expect, test } from "@jest/globals";
import { answerKey, groupAnswers, judged } from "../questions/groups";
import type { Question } from "../questions/question";
import { carryPicks, sayPick, stepsOf, sumOf, type Rubric } from "../rubrics/rubric";
import { joinPage, sayWords, toGraphemes } from "../text/pageText";
import { formatNote, readNote, sayNote, sentenceAround, withSentence } from "../text/noteText";
import type { QueueItem } from "../views/deskViews";
import { paceOf, sayPace } from "./pace";
import { hash, inOrder, isUnread, QUEUE_ORDERS } from "./queueOrder";

const item = (
  pieceId: string,
  sortName: string,
  handedInAt: string | null,
  late = false,
  round = 1,
  drafted = false,
): QueueItem => ({
  pieceId,
  student: sortName,
  studentId: sortName,
  sortName,
  handOut: "Log",
  handOutId: "h",
  section: "Gannet",
  drafted,
  handedInAt,
  moon: { state: "handed_in", round, late, missing: false, excused: false },
});

describe("the order of a pile", () => {
  const queue = [
    item("a", "Cole", "2026-11-03T10:00:00Z", true),
    item("b", "Abel", "2026-11-02T10:00:00Z"),
    item("c", "Bly", null),
    item("d", "Dray", "2026-11-01T10:00:00Z", false, 2),
  ];
  const ids = (order: (typeof QUEUE_ORDERS)[number]) =>
    inOrder(queue, order)
      .map((i) => i.pieceId)
      .join("");
  test("by name, as they came in (what is not in comes last), late first, rework first", () => {
    expect(ids("name")).toBe("bcad");
    expect(ids("hand-in")).toBe("dbac");
    expect(ids("late first")).toBe("adbc");
    expect(ids("rework first")).toBe("dbac");
  });
  test("shuffled is another order, and the same each time", () => {
    const many = Array.from({ length: 26 }, (_, n) =>
      item(`00000000-0000-7000-8000-0000000000${String(n).padStart(2, "0")}`, `S${n}`, null),
    );
    const shuffled = inOrder(many, "random");
    expect(shuffled).toEqual(inOrder([...many].reverse(), "random"));
    const stayed = shuffled.filter((i, n) => i === many[n]).length;
    expect(stayed).toBeLessThan(8);
    expect(shuffled).toHaveLength(26);
  });
  test("no order loses or doubles a piece", () => {
    for (const order of QUEUE_ORDERS) expect([...ids(order)].sort().join("")).toBe("abcd");
  });
  test("the hash spreads neighbours", () =>
    expect(new Set(Array.from({ length: 5000 }, (_, n) => hash(`piece ${n}`) % 64)).size).toBe(64));
  test("read is what has a draft, or is handed back", () => {
    expect(isUnread(queue[0]!)).toBe(true);
    expect(isUnread({ ...queue[0]!, drafted: true })).toBe(false);
    expect(isUnread({ ...queue[0]!, moon: { ...queue[0]!.moon, state: "handed_back" } })).toBe(
      false,
    );
  });
});

describe("the pace of a pile", () => {
  test("is said only when three pieces tell it", () => {
    expect(paceOf([200, 210])).toBeNull();
    expect(paceOf([200, 1, 210, 2])).toBeNull();
    expect(sayPace(null, 5)).toBeNull();
  });
  /** Hinges of a batch of nine, as Tukey defines them: the medians of the halves, each with the middle value (worked by hand). */
  test("is the median, with the hinges about it", () => {
    expect(paceOf([90, 10, 80, 20, 70, 30, 60, 40, 50])).toEqual({
      median: 50,
      pieces: 9,
      between: [30, 70],
    });
    expect(paceOf([100, 300, 200])).toEqual({ median: 200, pieces: 3, between: null });
  });
  test("one telephone call does not count for all", () =>
    expect(paceOf([180, 200, 220, 240, 3600])!.median).toBe(220));
  test("the rest is an estimate with its range, in honest steps", () => {
    expect(sayPace({ median: 240, pieces: 8, between: [180, 300] }, 12)).toBe(
      "4 min a piece; 12 more: about 50 min (35 to 60)",
    );
    expect(sayPace({ median: 40, pieces: 8, between: [40, 40] }, 1)).toBe(
      "40 s a piece; 1 more: about 1 min",
    );
    expect(sayPace({ median: 240, pieces: 8, between: null }, 30)).toBe(
      "4 min a piece; 30 more: about 2 h",
    );
    expect(sayPace({ median: 150, pieces: 3, between: null }, 0)).toBe("2.5 min a piece");
  });
});

describe("alike answers", () => {
  const number: Question = {
    id: "n",
    text: "How high?",
    points: "2",
    kind: "number",
    value: "1.5",
    unit: "m",
    tolerance: "",
  };
  const text: Question = {
    id: "t",
    text: "Who?",
    points: "1",
    kind: "short text",
    accepted: ["Ada"],
    exactCase: false,
    exactAccents: false,
    exactSpaces: false,
  };
  test.each<[Question, string, string, boolean]>([
    [number, "1,50 m", "1.5 m", true],
    [number, "1.5 m", "1.5 cm", false],
    [text, " “ÁDA.” ", "ada", true],
    [text, "ada b", "ada", false],
  ])("%#: %j and %j", (question, a, b, alike) =>
    expect(answerKey(question, a) === answerKey(question, b)).toBe(alike),
  );
  test("choices and pairs are alike in any order; an ordering is not", () => {
    const choices: Question = {
      id: "c",
      text: "?",
      points: "1",
      kind: "several choices",
      choices: [
        { id: "x", text: "x" },
        { id: "y", text: "y" },
      ],
      right: ["x"],
    };
    expect(answerKey(choices, ["x", "y"])).toBe(answerKey(choices, ["y", "x"]));
    const order: Question = {
      id: "o",
      text: "?",
      points: "1",
      kind: "ordering",
      items: choices.choices,
    };
    expect(answerKey(order, ["x", "y"])).not.toBe(answerKey(order, ["y", "x"]));
  });
  test("groups: what needs a person first, then what is wrong, the largest first; spellings are kept", () => {
    const given = ["ada", "Bea", "bea.", "Cy", "Ada", ""].map((answer, n) => ({
      pieceId: `p${n}`,
      student: `S${n}`,
      answer: answer || null,
    }));
    const groups = groupAnswers(text, given, (a) => String(a ?? "(no answer)"));
    expect(groups.map((g) => [g.shown, g.given.length, g.verdict.state])).toEqual([
      ["Bea", 2, "wrong"],
      ["Cy", 1, "wrong"],
      ["ada", 2, "right"],
      ["(no answer)", 1, "nothing given"],
    ]);
    expect(groups[0]!.also).toEqual(["bea."]);
    expect(groups.reduce((sum, g) => sum + g.given.length, 0)).toBe(given.length);
  });
  test("a teacher's word for one comes before the word for all, and that before the key", () => {
    expect(judged(text, "Bea", undefined, undefined)).toMatchObject({ points: "0", by: "key" });
    expect(judged(text, "Bea", "1", undefined)).toMatchObject({
      points: "1",
      state: "right",
      by: "teacher",
    });
    expect(judged(text, "Bea", "1", null)).toMatchObject({
      points: "0",
      state: "wrong",
      by: "key",
    });
    expect(judged(text, "Bea", "1", "0.5")).toMatchObject({
      points: "0.5",
      state: "partly",
      by: "teacher",
    });
  });
});

describe("half levels", () => {
  const level = (id: string, points: string, most: string | null = null) => ({
    id,
    name: id,
    points,
    most,
    descriptor: "",
  });
  const rubric: Rubric = {
    halves: true,
    criteria: [
      {
        id: "c",
        name: "C",
        note: "",
        weight: "2",
        levels: [level("high", "4"), level("mid", "2", "3"), level("low", "1")],
      },
    ],
  };
  test("lie midway to the next one, from the upper end of a range", () => {
    expect(stepsOf(rubric.criteria[0]!, true).map((s) => [s.levelId, s.points, s.half])).toEqual([
      ["low", "1", false],
      ["low", "1.5", true],
      ["mid", "2", false],
      ["mid", "3.5", true],
      ["high", "4", false],
    ]);
    expect(stepsOf(rubric.criteria[0]!, false)).toHaveLength(3);
  });
  test("are said as what they are, summed as they count, and kept only where they are allowed", () => {
    const picks = { c: { levelId: "mid", points: "3.5" } };
    expect(sayPick(rubric.criteria[0]!, picks.c)).toBe("between mid and high");
    expect(sayPick(rubric.criteria[0]!, { levelId: "mid", points: "3" })).toBe("mid");
    expect(sumOf(rubric, picks)).toEqual({ earned: "7", of: "8", chosen: 1 });
    expect(carryPicks(picks, rubric).kept).toEqual(picks);
    expect(carryPicks(picks, { ...rubric, halves: false }).kept).toEqual({
      c: { levelId: "mid", points: "2" },
    });
  });
});

describe("the text of a page", () => {
  test("runs are joined with their line ends, and know where they begin", () =>
    expect(
      joinPage([
        { str: "the evapora-", hasEOL: true },
        { str: "tion", hasEOL: false },
      ]),
    ).toEqual({ text: "the evapora-\ntion", starts: [0, 13] }));
  test.each([
    ["the evapora-\ntion of water", "the evaporation of water"],
    ["North-\nSouth", "North-South"],
    ["1914-\n1918", "1914-1918"],
    ["soft\u00adhyphen\u00ad\nated", "softhyphenated"],
    ["two\nlines\u00a0here", "two lines here"],
  ])("%j reads %j", (text, words) =>
    expect(sayWords(text, { start: 0, end: text.length })).toBe(words),
  );
  test.each<[string, string, [number, number], string]>([
    ["a family joined with ZWJ", "x 👨‍👩‍👧 y", [3, 4], "👨‍👩‍👧"],
    ["a letter and its accent", "cafe\u0301 au lait", [0, 4], "cafe\u0301"],
    ["a flag", "🇮🇸🇳🇴", [0, 2], "🇮🇸"],
    ["right-to-left words", "שלום עולם", [0, 4], "שלום"],
    ["plain words stay", "rain and wind", [5, 8], "and"],
    ["a caret goes before the cluster", "👍🏽!", [1, 1], ""],
  ])("%s is taken whole", (_name, text, [start, end], words) => {
    const range = toGraphemes(text, { start, end });
    expect(text.slice(range.start, range.end)).toBe(words);
  });
});

describe("what a note says", () => {
  /** CommonMark 0.31.2, section 6.4, rules 1, 6 and their examples for * (from memory). */
  test.each<[string, unknown]>([
    ["*foo bar*", [{ kind: "italic", of: [{ kind: "text", text: "foo bar" }] }]],
    ["a * foo bar*", [{ kind: "text", text: "a * foo bar*" }]],
    ["**foo bar**", [{ kind: "bold", of: [{ kind: "text", text: "foo bar" }] }]],
    [
      "foo*bar*",
      [
        { kind: "text", text: "foo" },
        { kind: "italic", of: [{ kind: "text", text: "bar" }] },
      ],
    ],
  ])("%j", (text, of) => expect(readNote(text)).toEqual([{ kind: "paragraph", of }]));
  test("lists, links and quotations; nothing that could run", () => {
    expect(readNote("- one\n- **two**").map((b) => b.kind)).toEqual(["list"]);
    expect(JSON.stringify(readNote("[here](https://example.org)"))).toContain(
      '"href":"https://example.org"',
    );
    for (const hostile of [
      "[x](javascript:alert(1))",
      "<script>alert(1)</script>",
      "<img src=x onerror=alert(1)>",
      "![x](https://example.org/x.png)",
    ])
      expect(JSON.stringify(readNote(hostile))).not.toMatch(/"kind":"link"|"kind":"html"/);
    expect(sayNote("<b>5 < 6 & 7 > 2</b> *now*")).toBe("<b>5 < 6 & 7 > 2</b> now");
    expect(sayNote("**Why?**\n\n> It rained.\n\n- say when")).toBe("Why? “It rained.” say when");
  });
  test("bold and italic go on and off; a list line by line", () => {
    const bold = formatNote({ text: "Say why", start: 4, end: 7 }, "bold");
    expect(bold).toEqual({ text: "Say **why**", start: 6, end: 9 });
    expect(formatNote(bold, "bold")).toEqual({ text: "Say why", start: 4, end: 7 });
    expect(formatNote({ text: "a\nb", start: 0, end: 3 }, "list").text).toBe("- a\n- b");
    expect(formatNote({ text: "- a\n- b", start: 0, end: 7 }, "list").text).toBe("a\nb");
  });
  test("the student's sentence around the words, and its place in the note", () => {
    const text = "It rained. The sea was grey. We left.\nOn Monday we did not.";
    expect(sentenceAround(text, { start: 15, end: 18 })).toBe("The sea was grey.");
    expect(sentenceAround(text, { start: 2, end: 20 })).toBe("It rained. The sea was grey.");
    expect(sentenceAround(text, { start: 38, end: 40 })).toBe("On Monday we did not.");
    const brought = withSentence("Read this:", "The sea was grey.");
    expect(brought.text.slice(brought.caret, brought.caret + 17)).toBe("The sea was grey.");
    expect(readNote(brought.text).map((b) => b.kind)).toEqual(["paragraph", "quote"]);
  });
});
