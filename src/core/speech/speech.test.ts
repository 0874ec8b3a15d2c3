import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { WebVTTParser } from "webvtt-parser";
import { findEmoji, pendingEmoji } from "../text/emoji";
import { correctWords, linesOf, sayWords, spell, wordAt, wordsOf, type HeardWord } from "./heard";
import { languageModel, sentencesOf } from "./languageModel";
import { peaksOf } from "./peaks";
import { readVtt, toVtt, vttTime } from "./vtt";

const heard = (text: string, step = 0.4): HeardWord[] =>
  text
    .split(" ")
    .map((word, n) => ({ word, start: n * step, end: n * step + step - 0.05, sure: 0.9 }));

describe("what was heard, as one writes it", () => {
  test("sentences begin with a capital and end where the voice paused; names and I are written as they are", () => {
    const words = [
      ...heard("well done odalys"),
      ...heard("now i'm").map((w) => ({ ...w, start: w.start + 3, end: w.end + 3 })),
    ];
    expect(sayWords(spell(words, new Map([["odalys", "Odalys"]])))).toBe(
      "Well done Odalys. Now I'm.",
    );
  });
  test("corrected words keep their times; new ones share the time between; the last go to the end", () => {
    const before = heard("please read the tied table again");
    const after = correctWords(before, "Please, read the whole tide table again today.", 5);
    expect(sayWords(after)).toBe("Please, read the whole tide table again today.");
    expect([after[0]!.start, after[2]!.start, after[5]!.start]).toEqual([0, 0.8, 1.6]);
    expect(after.slice(3, 5).map((w) => [w.start, w.end])).toEqual([
      [1.15, 1.38],
      [1.38, 1.6],
    ]);
    expect([after.at(-1)!.start, after.at(-1)!.end]).toEqual([2.35, 5]);
  });
  test("whatever is written instead: all of it is there, in order, and no time runs backwards", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("a", "b", "c", "the", "tide"), { minLength: 1, maxLength: 20 }),
        fc.array(fc.constantFrom("a", "b", "d", "The", "tide."), { minLength: 1, maxLength: 20 }),
        (was, now) => {
          const out = correctWords(heard(was.join(" ")), now.join(" "), 12);
          expect(out.map((w) => w.word)).toEqual(now);
          out.forEach((w, n) =>
            expect(w.start).toBeGreaterThanOrEqual((out[n - 1]?.start ?? 0) - 0.01),
          );
        },
      ),
    );
  });
  test("the word that is spoken just now, also in the short gap behind it", () => {
    const words = heard("one two three");
    expect([0, 0.38, 0.4, 1.1, 9].map((at) => wordAt(words, at))).toEqual([0, 0, 1, 2, -1]);
  });
  test("lines end with their sentence, or after ten words; and back again", () => {
    const words = spell(heard("one two three four five six seven eight nine ten eleven"));
    expect(linesOf(words).map((l) => l.text.split(" ").length)).toEqual([10, 1]);
    expect(sayWords(wordsOf(linesOf(words)))).toBe(sayWords(words));
    expect(wordsOf([{ from: 2, to: 4, text: "ab abcdef" }]).map((w) => [w.start, w.end])).toEqual([
      [2, 2.5],
      [2.5, 4],
    ]);
  });
});

describe("the class's words as a language model", () => {
  const model = languageModel([
    ["read", "the", "table"],
    ["read", "the", "text"],
  ]);
  const of = (gram: string) =>
    Number(new RegExp(`^(\\S+) ${gram}(?: \\S+)?$`, "m").exec(model)![1]);
  test("Witten and Bell by hand: of 8 words 5 kinds; after “read the” two kinds, each once", () => {
    // p(table) = (1 + 5/6) / (8 + 5); p(table | the) = (1 + 2 p) / (2 + 2); p(table | read the) = (1 + 2 p(table | the)) / (2 + 2)
    const one = (1 + 5 / 6) / 13;
    const two = (1 + 2 * one) / 4;
    expect(of("table")).toBeCloseTo(Math.log10(one), 3);
    expect(of("the table")).toBeCloseTo(Math.log10(two), 3);
    expect(of("read the table")).toBeCloseTo(Math.log10((1 + 2 * two) / 4), 3);
    // Falling back from “the”: two kinds of two that were said.
    expect(Number(/^\S+ the (\S+)$/m.exec(model)![1])).toBeCloseTo(Math.log10(2 / 4), 3);
  });
  test("with what falling back leaves, the words after a history add up to one", () => {
    const words = ["read", "the", "table", "text", "</s>"];
    const single = (w: string) => 10 ** of(w);
    const fallBack = 10 ** Number(/^\S+ the (\S+)$/m.exec(model)![1]);
    const after = words.reduce(
      (sum, w) =>
        sum + (w === "table" || w === "text" ? 10 ** of(`the ${w}`) : fallBack * single(w)),
      0,
    );
    // What the model keeps for a word it has never seen falls back too.
    expect(after + fallBack * (5 / 6 / 13)).toBeCloseTo(1, 3);
  });
  test("a word that the general model knows counts little by itself, and in full after what it was said after", () => {
    const beside = languageModel([["read", "the", "quillon"]], new Set(["read", "the"]));
    const alone = (w: string) => Number(new RegExp(`^(\\S+) ${w} \\S+$`, "m").exec(beside)![1]);
    expect(alone("quillon") - alone("the")).toBeCloseTo(Math.log10(50), 2);
  });
  test("the text has the counts it says, section by section", () => {
    for (const order of [1, 2, 3]) {
      const section = new RegExp(`\\\\${order}-grams:\\n([^\\\\]*?)\\n\\n`).exec(model)![1]!;
      expect(section.split("\n").length).toBe(
        Number(new RegExp(`ngram ${order}=(\\d+)`).exec(model)![1]),
      );
    }
  });
  test("texts become sentences of plain words; figures part them", () => {
    expect(sentencesOf("See the Tide-table. Well done, Élodie’s! 12 mm of rain")).toEqual([
      ["see", "the", "tide", "table"],
      ["well", "done", "élodie's"],
      ["mm", "of", "rain"],
    ]);
  });
});

describe("WebVTT (W3C Candidate Recommendation of 4 April 2019)", () => {
  test("times with hours, minutes, seconds and three digits of a fraction (section 4.3)", () => {
    expect([vttTime(0), vttTime(75.4), vttTime(3600 + 61.0004)]).toEqual([
      "00:00:00.000",
      "00:01:15.400",
      "01:01:01.000",
    ]);
  });
  test("any cues: the parser of webvtt-parser reads them without a fault, as ours does", () => {
    const cue = fc.record({
      from: fc.integer({ min: 0, max: 9_000_000 }),
      long: fc.integer({ min: 1, max: 60_000 }),
      text: fc
        .string({
          minLength: 1,
          maxLength: 40,
          unit: fc.constantFrom("a", " ", "&", "<", ">", "-", "\n", "é", "-->"),
        })
        .filter((t) => t.trim() !== ""),
    });
    fc.assert(
      fc.property(fc.array(cue, { maxLength: 6 }), (given) => {
        const cues = given.map((c) => ({
          from: c.from / 1000,
          to: (c.from + c.long) / 1000,
          text: c.text,
        }));
        const file = toVtt(cues, "A note\n\n--> with what must not stand in it");
        const theirs = new WebVTTParser().parse(file, "metadata");
        expect(theirs.errors).toEqual([]);
        const ours = readVtt(file);
        expect(ours.faults).toEqual([]);
        expect(ours.cues.map((c) => [c.from, c.to])).toEqual(
          theirs.cues.map((c) => [c.startTime, c.endTime]),
        );
        expect(ours.cues).toHaveLength(cues.length);
      }),
    );
  });
  test("the examples of the recommendation: a simple file, a comment, a voice, settings, a style (sections 1.1 to 1.5, from memory)", () => {
    const file =
      "WEBVTT - with a title\n\nSTYLE\n::cue { color: lime }\n\nNOTE\nfrom a filming set\n\n1 - Title Crawl\n00:11.000 --> 00:13.000 line:0 position:20%\n<v Roger Bingham>We are in New York City\n\n00:00:13.500 --> 00:16.000\n<i>We’re</i> actually &amp; at\nthe Lucern\n";
    expect(readVtt(file)).toEqual({
      cues: [
        { id: "1 - Title Crawl", from: 11, to: 13, text: "We are in New York City" },
        { from: 13.5, to: 16, text: "We’re actually & at\nthe Lucern" },
      ],
      faults: [],
    });
  });
  test("what cannot be read is named by its line, and the rest is read", () => {
    expect(readVtt("1\n00:00.000 --> 00:01.000\nx").faults).toEqual([
      { line: 1, why: "It does not begin with WEBVTT." },
    ]);
    const { cues, faults } = readVtt(
      "WEBVTT\r\n\r\n00:02.000 --> 00:01.000\r\nbackwards\r\n\r\nsoon --> late\r\nno times\r\n\r\nwords alone\r\n\r\n00:01.000 --> 00:02.000\r\nright",
    );
    expect(cues.map((c) => c.text)).toEqual(["right"]);
    expect(faults.map((f) => f.line)).toEqual([3, 6, 9]);
  });
});

test("the waveform: each stretch as high as its loudest sample, of the loudest of all; silence is flat", () => {
  expect(peaksOf(Int16Array.from([0, 100, -200, 50, 0, 0, 10, -20]), 4)).toEqual([50, 100, 0, 10]);
  expect(peaksOf(new Int16Array(8), 2)).toEqual([0, 0]);
});

describe("emoji by their names", () => {
  test("after a space or at the beginning, two letters at least; times and colons in a sentence are left alone", () => {
    expect(
      [":st", "Well :star", "16:30", "note: this", "a:st", ":s", "(:cloud"].map(
        (t) => pendingEmoji(t, t.length)?.query ?? null,
      ),
    ).toEqual(["st", "star", null, null, null, null, "cloud"]);
  });
  test("the name itself first, then what begins with it, then what has it in it", () => {
    const list = [
      { emoji: "🌟", names: ["glowing_star"] },
      { emoji: "💫", names: ["dizzy", "star"] },
      { emoji: "✴", names: ["starred"] },
      { emoji: "⭐", names: ["star"] },
      { emoji: "☁", names: ["cloud"] },
    ];
    expect(findEmoji(list, "star", 5).map((e) => e.emoji)).toEqual(["⭐", "💫", "✴", "🌟"]);
  });
});
