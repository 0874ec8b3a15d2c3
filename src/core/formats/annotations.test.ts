import { describe, expect, test } from "@jest/globals";
import { wholeMark, type Mark } from "../marks/schema";
import { toAnnotation, toCollection, type Sources } from "./annotations";
import { readAnnotations, toMark } from "./readAnnotation";

const ID = "00000000-0000-7000-8000-0000000000aa";
const text = "It rained. 🌊 The sea was grey, and the sea was cold.\nWe left.";
const sources: Sources = {
  text,
  textIri: "urn:uuid:text",
  items: [
    { id: ID, iri: "http://example.org/image1", type: "picture", width: 1280, height: 960 },
    { id: "p", iri: "urn:uuid:pages", type: "pages" },
    { id: "v", iri: "http://example.org/video1", type: "film" },
  ],
};
const mark = (more: Partial<Mark>): Mark =>
  wholeMark({ id: "00000000-0000-7000-8000-000000000001", kind: "note", body: "Why?", ...more });
const at = (words: string, from = 0) => ({
  start: text.indexOf(words, from),
  end: text.indexOf(words, from) + words.length,
  quote: words,
});

describe("marks as web annotations, out and in again", () => {
  test.each<[string, Partial<Mark>]>([
    ["a margin note on words behind an emoji", { ...at("sea", 30), nature: "request" }],
    ["an edit", { kind: "replace", ...at("grey"), body: "", replacement: "leaden" }],
    ["words put in", { kind: "insert", start: 9, end: 9, body: "", replacement: " hard" }],
    ["a transposition", { kind: "transpose", ...at("sea was"), body: "", replacement: "was sea" }],
    ["a stamp", { kind: "star", ...at("We left"), body: "" }],
    [
      "a pin",
      {
        place: { on: "picture", itemId: ID, area: { x: 12.5, y: 40, w: 0, h: 0 } },
        points: "-0.5",
      },
    ],
    [
      "an area on a page",
      {
        place: {
          on: "page",
          itemId: "p",
          page: 3,
          area: { x: 10, y: 20, w: 30, h: 5 },
          words: null,
        },
        nature: "praise",
      },
    ],
    [
      "words on a page",
      {
        quote: "tide gauge",
        place: {
          on: "page",
          itemId: "p",
          page: 2,
          area: { x: 10, y: 20, w: 30, h: 5 },
          words: { start: 40, end: 50, boxes: [{ x: 10, y: 20, w: 30, h: 5 }] },
        },
      },
    ],
    [
      "words over two lines of a page",
      {
        quote: "evaporation",
        place: {
          on: "page",
          itemId: "p",
          page: 2,
          area: { x: 10, y: 20, w: 70, h: 8 },
          words: {
            start: 4,
            end: 15,
            boxes: [
              { x: 60, y: 20, w: 20, h: 3 },
              { x: 10, y: 25, w: 9, h: 3 },
            ],
          },
        },
      },
    ],
    [
      "a voice on a moment",
      {
        body: "",
        clipId: "00000000-0000-7000-8000-0000000000cc",
        place: { on: "time", itemId: "v", from: 3, to: null },
      },
    ],
    ["a moment", { place: { on: "time", itemId: "v", from: 12, to: null } }],
    ["a stretch", { place: { on: "time", itemId: "v", from: 12, to: 15.5 } }],
    [
      "ink",
      {
        kind: "ink",
        body: "",
        strokes: [
          {
            ink: "plum",
            width: 0.5,
            points: [
              [1, 2, 0.5],
              [3, 4, 0.75],
            ],
          },
        ],
        place: { on: "picture", itemId: ID, area: { x: 1, y: 2, w: 2, h: 2 } },
      },
    ],
    ["a note on a whole file", { place: { on: "whole", itemId: ID } }],
    ["a note on the whole", { place: { on: "whole", itemId: null } }],
    [
      "a corrected sentence",
      { ...at("It rained."), body: "Like this?\n\n> It poured.", sentence: "It rained." },
    ],
  ])("%s", (_name, more) => {
    const given = mark(more);
    const collection = JSON.parse(
      JSON.stringify(toCollection([given], sources, "Marks")),
    ) as unknown;
    const [annotation] = readAnnotations(collection)!;
    const { id: _, ...back } = given;
    expect(toMark(annotation!, sources)).toEqual(back);
  });
  test("a voice is a body of its own: a sound, named by its clip", () => {
    expect(toAnnotation(mark({ body: "", clipId: "cc" }), sources).body).toEqual([
      { type: "Sound", id: "urn:uuid:cc", format: "audio/webm", purpose: "commenting" },
    ]);
  });
  test("each names its motivation and selectors by the recommendation's words", () => {
    const { target, motivation, body } = toAnnotation(mark(at("sea", 30)), sources);
    expect(motivation).toBe("commenting");
    expect(body).toEqual([
      { type: "TextualBody", value: "Why?", format: "text/markdown", purpose: "commenting" },
    ]);
    // In code points the emoji counts one, in JavaScript's code units two.
    expect(target.selector).toEqual([
      {
        type: "TextPositionSelector",
        start: text.indexOf("sea", 30) - 1,
        end: text.indexOf("sea", 30) + 2,
      },
      {
        type: "TextQuoteSelector",
        exact: "sea",
        prefix: expect.any(String),
        suffix: expect.any(String),
      },
    ]);
    expect(
      toAnnotation(mark({ place: { on: "time", itemId: "v", from: 10, to: 20 } }), sources).target
        .selector,
    ).toEqual({
      type: "FragmentSelector",
      conformsTo: "http://www.w3.org/TR/media-frags/",
      value: "t=10,20",
    });
    expect(
      toAnnotation(
        mark({
          place: {
            on: "page",
            itemId: "p",
            page: 4,
            area: { x: 1, y: 2, w: 0, h: 0 },
            words: null,
          },
        }),
        sources,
      ).target.selector,
    ).toMatchObject({
      type: "FragmentSelector",
      value: "page=4",
      refinedBy: [{ value: "xywh=percent:1,2,0,0" }],
    });
  });
});

/** The recommendation's own examples (Web Annotation Data Model, 23 February 2017), as remembered; shortened to what bears on a mark. */
describe("annotations as the recommendation shows them", () => {
  const model = "http://www.w3.org/ns/anno.jsonld";
  test("a fragment of an image, in its pixels (4.2.1, Fragment Selector)", () => {
    const example = {
      "@context": model,
      id: "http://example.org/anno20",
      type: "Annotation",
      body: { source: "http://example.org/video1", purpose: "describing" },
      target: {
        source: "http://example.org/image1",
        selector: {
          type: "FragmentSelector",
          conformsTo: "http://www.w3.org/TR/media-frags/",
          value: "xywh=50,50,640,480",
        },
      },
    };
    expect(toMark(example, sources)).toMatchObject({
      kind: "note",
      place: { on: "picture", itemId: ID, area: { x: 3.91, y: 5.21, w: 50, h: 50 } },
    });
  });
  test("a quotation with what stands around it (4.2.4, Text Quote Selector)", () => {
    const page: Sources = {
      text: "and this is an anotation that has some text, not the anotation before",
      textIri: "http://example.org/page1",
      items: [],
    };
    const example = {
      "@context": model,
      id: "http://example.org/anno23",
      type: "Annotation",
      body: "http://example.org/comment1",
      target: {
        source: "http://example.org/page1",
        selector: {
          type: "TextQuoteSelector",
          exact: "anotation",
          prefix: "this is an ",
          suffix: " that has some",
        },
      },
    };
    expect(toMark(example, page)).toMatchObject({ start: 15, end: 24, quote: "anotation" });
  });
  test("a position in a text (4.2.5, Text Position Selector)", () => {
    const book: Sources = {
      text: "x".repeat(900),
      textIri: "http://example.org/ebook1",
      items: [],
    };
    const example = {
      "@context": model,
      type: "Annotation",
      body: { type: "TextualBody", value: "a note", format: "text/plain" },
      target: {
        source: "http://example.org/ebook1",
        selector: { type: "TextPositionSelector", start: 412, end: 795 },
      },
    };
    expect(toMark(example, book)).toMatchObject({ start: 412, end: 795, body: "a note" });
  });
  test("a drawing over an image (4.2.7, SVG Selector)", () => {
    const example = {
      "@context": model,
      type: "Annotation",
      target: {
        source: "http://example.org/image1",
        selector: {
          type: "SvgSelector",
          value:
            '<svg xmlns="http://www.w3.org/2000/svg"><path d="M 10 10 L 20 30 L 40 10"/></svg>',
        },
      },
    };
    expect(toMark(example, sources)).toMatchObject({
      kind: "ink",
      strokes: [
        {
          points: [
            [10, 10, 0.5],
            [20, 30, 0.5],
            [40, 10, 0.5],
          ],
        },
      ],
    });
  });
  test("a whole page by its address, and a bare body value (3.2.3, 3.2.6)", () => {
    expect(
      toMark(
        { type: "Annotation", bodyValue: "Comment text", target: "http://example.org/image1" },
        sources,
      ),
    ).toMatchObject({ kind: "note", body: "Comment text", place: { on: "whole", itemId: ID } });
  });
  test("a time in the address itself (Media Fragments URI 1.0, 4.2.1: #t=10,20)", () => {
    expect(
      toMark(
        { type: "Annotation", bodyValue: "here", target: "http://example.org/video1#t=npt:10,20" },
        sources,
      ),
    ).toMatchObject({ place: { on: "time", itemId: "v", from: 10, to: 20 } });
  });
  test("what cannot become a mark says why; what is no annotation is none", () => {
    expect(
      toMark(
        { type: "Annotation", bodyValue: "x", target: "http://example.org/elsewhere" },
        sources,
      ),
    ).toContain("not in this piece");
    expect(
      toMark(
        {
          type: "Annotation",
          bodyValue: "x",
          target: {
            source: "urn:uuid:text",
            selector: { type: "TextQuoteSelector", exact: "no such words" },
          },
        },
        sources,
      ),
    ).toContain("not in this text");
    expect(toMark({ type: "Annotation", bodyValue: "x" }, sources)).toContain("no target");
    expect(readAnnotations({ type: "Manifest" })).toBeNull();
    expect(readAnnotations("x")).toBeNull();
    expect(
      readAnnotations({ type: ["AnnotationPage"], items: [{ type: "Annotation", id: "a" }] }),
    ).toHaveLength(1);
  });
});
