import { describe, expect, test } from "@jest/globals";
import { getSchema } from "@tiptap/core";
import { StarterKit } from "@tiptap/starter-kit";
import { TableKit } from "@tiptap/extension-table";
import fc from "fast-check";
import { Invalid } from "../refusals";
import { countWords, isBlank, isEmptyDoc, plainText, toDocPosition, toOffset } from "./plainText";
import { isSafeLink, LIMITS, readRichDoc } from "./richDoc";
import { shorten } from "./shorten";
import { fromSelectors, toSelectors } from "./selectors";

const paragraph = (text: string) => ({ type: "paragraph", content: [{ type: "text", text }] });

const everything = {
  type: "doc",
  content: [
    {
      type: "heading",
      attrs: { level: 1 },
      content: [{ type: "text", text: "Letter from the pier 🌊" }],
    },
    {
      type: "paragraph",
      content: [
        { type: "text", text: "One" },
        { type: "hardBreak" },
        { type: "text", text: "two", marks: [{ type: "bold" }] },
      ],
    },
    { type: "horizontalRule" },
    {
      type: "bulletList",
      content: [
        {
          type: "listItem",
          content: [
            paragraph("three"),
            {
              type: "orderedList",
              attrs: { start: 1 },
              content: [{ type: "listItem", content: [paragraph("four")] }],
            },
          ],
        },
      ],
    },
    {
      type: "table",
      content: [
        {
          type: "tableRow",
          content: [
            { type: "tableHeader", content: [paragraph("mm")] },
            { type: "tableCell", content: [{ type: "paragraph" }] },
          ],
        },
      ],
    },
    { type: "blockquote", content: [paragraph("five")] },
  ],
};

describe("reading a document", () => {
  test("everything the editor makes is kept", () => {
    const doc = readRichDoc(everything);
    expect(plainText(doc).text).toBe("Letter from the pier 🌊\nOne\ntwo\nthree\nfour\nmm\n\nfive");
  });
  test("unknown attributes and unsafe links are left out, the words stay", () => {
    const doc = readRichDoc({
      type: "doc",
      content: [
        {
          type: "paragraph",
          attrs: { onclick: "x", style: "y" },
          content: [
            {
              type: "text",
              text: "here",
              marks: [{ type: "link", attrs: { href: "javascript:alert(1)" } }, { type: "evil" }],
            },
          ],
        },
      ],
    });
    expect(doc).toEqual({ type: "doc", content: [paragraph("here")] });
  });
  test.each([
    ["a script", { type: "doc", content: [{ type: "script", content: [] }] }],
    ["an image", { type: "doc", content: [{ type: "image", attrs: { src: "x" } }] }],
    [
      "a list item outside a list",
      { type: "doc", content: [{ type: "listItem", content: [paragraph("x")] }] },
    ],
    ["text outside a block", { type: "doc", content: [{ type: "text", text: "x" }] }],
    ["a string", "hello"],
    ["nothing", null],
    [
      "a text of the wrong kind",
      { type: "doc", content: [{ type: "paragraph", content: [{ type: "text", text: 7 }] }] },
    ],
    ["too much", { type: "doc", content: [paragraph("x".repeat(LIMITS.characters + 1))] }],
    [
      "too many parts",
      { type: "doc", content: Array.from({ length: LIMITS.nodes }, () => ({ type: "paragraph" })) },
    ],
    [
      "quotes without end",
      Array.from({ length: 40 }).reduce<unknown>(
        (inner) => ({ type: "blockquote", content: [inner] }),
        paragraph("x"),
      ),
    ],
  ])("%s is refused with a sentence", (_name, input) => {
    expect(() => readRichDoc(input)).toThrow(Invalid);
    expect(() => readRichDoc(input)).toThrow(/safe\.$/);
  });
  test.each([
    ["https://example.org/a?b=c#d", true],
    ["mailto:someone@example.org", true],
    ["javascript:alert(1)", false],
    ["java\nscript:alert(1)", false],
    ["data:text/html,<script>", false],
    ["//example.org", false],
    [" https://example.org", false],
  ])("link %j is safe: %s", (href, safe) => expect(isSafeLink(href)).toBe(safe));
});

describe("what stands in a student's writing by itself", () => {
  const ID = "0190a0b0-1111-7222-8333-444455556666";
  const of = (...content: object[]) => ({ type: "doc", content });
  const card = (href: unknown, text: object = { type: "text", text: "tides" }) =>
    of({ type: "linkCard", attrs: { href, onclick: "x" }, content: [text] });
  const file = (attrs: object) => of({ type: "file", attrs });
  test("a card keeps its address and its words, which are no links of their own", () => {
    const linked = {
      type: "text",
      text: "tides",
      marks: [{ type: "link", attrs: { href: "https://b.example" } }],
    };
    expect(readRichDoc(card("https://a.example/x", linked), "work")).toEqual(
      of({
        type: "linkCard",
        attrs: { href: "https://a.example/x" },
        content: [{ type: "text", text: "tides" }],
      }),
    );
  });
  test.each(["javascript:alert(1)", "data:text/html,x", "//a.example", "", null, 7])(
    "a card that leads to %j is refused",
    (href) => expect(() => readRichDoc(card(href), "work")).toThrow(Invalid),
  );
  test.each([
    {},
    { item: "../etc", as: "film", name: "x" },
    { item: ID, as: "script", name: "x" },
    { item: [ID], as: "film" },
  ])("a file that says %j of itself is refused", (attrs) =>
    expect(() => readRichDoc(file(attrs), "work")).toThrow(/safe\.$/),
  );
  test("a name is short and whole, whatever was sent", () => {
    const doc = readRichDoc(
      file({ item: ID, as: "film", name: `a\u0000${"b".repeat(900)}`, src: "x" }),
      "work",
    );
    expect(doc.content).toEqual([
      { type: "file", attrs: { item: ID, as: "film", name: `a${"b".repeat(299)}` } },
    ]);
    expect(isEmptyDoc(doc)).toBe(false);
    expect(isBlank(doc)).toBe(true);
  });
  test.each(["words", "task"] as const)("none of it stands in %s", (purpose) => {
    const own = { item: ID, as: "film", name: "x" };
    for (const doc of [file(own), card("https://a.example")])
      expect(() => readRichDoc(doc, purpose)).toThrow("cannot keep");
  });
});

describe("offsets and document positions", () => {
  // The reference is the ProseMirror library itself: its own resolution of positions in the same document.
  test("agree with ProseMirror at every character of every line", () => {
    const schema = getSchema([StarterKit, TableKit]);
    const doc = readRichDoc(everything);
    const node = schema.nodeFromJSON(doc);
    const plain = plainText(doc);
    for (const line of plain.lines) {
      for (let offset = line.start; offset <= line.end; offset += 1) {
        const position = toDocPosition(plain, offset);
        expect(node.textBetween(line.docStart, position, "\n", "\n")).toBe(
          plain.text.slice(line.start, offset),
        );
        expect(toOffset(plain, position)).toBe(offset);
      }
      expect(node.resolve(line.docStart).parentOffset).toBe(0);
      expect(node.resolve(toDocPosition(plain, line.end)).parent.isTextblock).toBe(true);
    }
  });
  test("words are counted as a reader counts", () => {
    expect(countWords("It's 3.5 mm — wet!")).toBe(4);
    expect(countWords("")).toBe(0);
  });
});

describe("W3C selectors", () => {
  // The two examples of the Web Annotation Data Model, W3C Recommendation 23 February 2017:
  // Example 25 (TextQuoteSelector, "this is an annotation…") and Example 26 (TextPositionSelector 412–795).
  test("TextQuoteSelector: exact with prefix and suffix, as in the Recommendation's example", () => {
    const text = "Whatever follows, this is an annotation that has some more words after it.";
    const [, quote] = toSelectors(text, {
      start: text.indexOf("annotation"),
      end: text.indexOf("annotation") + 10,
    });
    expect(quote).toMatchObject({ type: "TextQuoteSelector", exact: "annotation" });
    expect(quote.prefix.endsWith("this is an ")).toBe(true);
    expect(quote.suffix.startsWith(" that has some")).toBe(true);
    expect(
      fromSelectors(text, null, {
        type: "TextQuoteSelector",
        exact: "annotation",
        prefix: "this is an ",
        suffix: " that has some",
      }),
    ).toEqual({ start: 29, end: 39 });
  });
  test("TextPositionSelector: start is included, end is not, the first character is 0", () => {
    const text = "abcdefghijklmnopqrstuvwxyz".repeat(40);
    expect(
      fromSelectors(text, { type: "TextPositionSelector", start: 412, end: 795 }, null),
    ).toEqual({ start: 412, end: 795 });
    expect(toSelectors("abc", { start: 0, end: 1 })[0]).toEqual({
      type: "TextPositionSelector",
      start: 0,
      end: 1,
    });
  });
  test("positions count code points, so that an emoji is one", () => {
    const text = "🌊🌊 tide";
    const start = text.indexOf("tide");
    expect(toSelectors(text, { start, end: start + 4 })[0]).toEqual({
      type: "TextPositionSelector",
      start: 3,
      end: 7,
    });
  });
  test("of words that occur often, the one with its context is found", () => {
    const text = "the tide rose. the tide fell. the tide turned.";
    const [, quote] = toSelectors(text, {
      start: text.indexOf("the tide fell"),
      end: text.indexOf("the tide fell") + 8,
    });
    expect(
      fromSelectors(`So: ${text}`, { type: "TextPositionSelector", start: 0, end: 8 }, quote),
    ).toEqual({ start: 19, end: 27 });
    expect(fromSelectors("no such words", null, quote)).toBeNull();
  });
  test("there and back, anywhere in any text", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme", minLength: 1, maxLength: 60 }),
        fc.nat(),
        fc.nat(),
        (text, a, b) => {
          const characters = [...text];
          const cut = (n: number) =>
            characters.slice(0, n % (characters.length + 1)).join("").length;
          const [start, end] = [cut(a), cut(b)].sort((x, y) => x - y) as [number, number];
          const [position, quote] = toSelectors(text, { start, end });
          expect(fromSelectors(text, position, quote)).toEqual({ start, end });
        },
      ),
    );
  });
});

describe("a text made shorter", () => {
  test.each([
    ["short", 9, "short"],
    ["The tide came in late.", 9, "The tide…"],
    // A letter with its accent, and a family joined of four: one character each (Unicode UAX #29).
    ["e\u0301e\u0301e\u0301", 3, "e\u0301e\u0301e\u0301"],
    ["👩‍👩‍👧‍👦👩‍👩‍👧‍👦👩‍👩‍👧‍👦", 2, "👩‍👩‍👧‍👦…"],
  ])("%j to %i is %j", (text, most, words) => expect(shorten(text, most)).toBe(words));
});
