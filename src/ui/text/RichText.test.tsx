import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { plainText } from "@/core/text/plainText";
import { readRichDoc, type RichDoc } from "@/core/text/richDoc";
import { RichText, type DrawnMark } from "./RichText";

const text = (value: string, ...marks: object[]) => ({
  type: "text",
  text: value,
  ...(marks.length ? { marks } : {}),
});
const doc = readRichDoc({
  type: "doc",
  content: [
    { type: "heading", attrs: { level: 1 }, content: [text("Log")] },
    {
      type: "paragraph",
      content: [
        text("It "),
        text("rained", { type: "bold" }),
        { type: "hardBreak" },
        text("twice."),
        text(" See", { type: "link", attrs: { href: "https://example.org" } }),
      ],
    },
    {
      type: "bulletList",
      content: [{ type: "listItem", content: [{ type: "paragraph", content: [text("twelve")] }] }],
    },
    {
      type: "orderedList",
      attrs: { start: 3 },
      content: [{ type: "listItem", content: [{ type: "paragraph" }] }],
    },
    {
      type: "table",
      content: [
        {
          type: "tableRow",
          content: [
            { type: "tableHeader", content: [{ type: "paragraph", content: [text("mm")] }] },
            {
              type: "tableCell",
              attrs: { colspan: 2 },
              content: [{ type: "paragraph", content: [text("7")] }],
            },
          ],
        },
      ],
    },
    {
      type: "blockquote",
      content: [
        { type: "paragraph", content: [text("end", { type: "italic" }, { type: "underline" })] },
      ],
    },
    { type: "horizontalRule" },
  ],
});
const plain = plainText(doc).text;
const draw = (marks: DrawnMark[] = [], chosen: string | null = null, of: RichDoc = doc) =>
  renderToStaticMarkup(<RichText doc={of} marks={marks} chosen={chosen} />);
const mark = (id: string, words: string, facts: Partial<DrawnMark> = {}): DrawnMark => ({
  id,
  kind: "note",
  tone: "note",
  start: plain.indexOf(words),
  end: plain.indexOf(words) + words.length,
  replacement: "",
  label: id,
  ...facts,
});

/** Reads the runs back as the page's script does: each knows its offset and its words. */
function runs(html: string): { at: number; words: string }[] {
  return [...html.matchAll(/<span data-at="(\d+)">([^<]*)<\/span>/g)].map((m) => ({
    at: Number(m[1]),
    words: m[2]!
      .replace(/&amp;/g, "&")
      .replace(/&lt;/g, "<")
      .replace(/&quot;/g, '"')
      .replace(/&#x27;/g, "'"),
  }));
}

describe("a document on the page", () => {
  test("every run stands at its offset in the plain text, with and without marks", () => {
    for (const marks of [
      [],
      [mark("a", "rained"), mark("b", "ned\ntwi"), mark("c", "elve"), mark("d", "7")],
    ]) {
      const found = runs(draw(marks)).filter((run) => run.words !== "\u200b");
      for (const { at, words } of found) expect(plain.slice(at, at + words.length)).toBe(words);
      expect(found.map((run) => run.words).join("")).toBe(plain.replace(/\n/g, ""));
    }
  });
  test("nodes and styles become their elements, one heading level below the page's own", () => {
    const html = draw();
    for (const part of [
      "<h2>",
      "<strong>",
      "<br/>",
      "<ul><li><p>",
      '<ol start="3">',
      "<table><tbody><tr><th",
      '<td colSpan="2"',
      "<blockquote>",
      "<em>",
      "<u>",
      "<hr/>",
      'href="https://example.org"',
      'rel="noopener noreferrer nofollow"',
    ])
      expect(html).toContain(part);
  });
  test("a script in the text is escaped", () => {
    const html = draw(
      [],
      null,
      readRichDoc({
        type: "doc",
        content: [{ type: "paragraph", content: [text("<script>alert(1)</script>")] }],
      }),
    );
    expect(html).not.toContain("<script");
    expect(html).toContain("&lt;script&gt;");
  });
});

describe("marks on words", () => {
  test("each kind has its own look and a label for readers", () => {
    const html = draw([
      mark("n", "It"),
      mark("r", "rained", { tone: "request", label: "Which unit?" }),
      mark("s", "twice", { tone: "settled" }),
      mark("d", "twelve", { kind: "delete" }),
      mark("t", "mm", { kind: "tick" }),
      mark("x", "7", { kind: "cross" }),
    ]);
    for (const name of ["on-note", "on-request", "on-settled", "on-delete", "on-tick", "on-cross"])
      expect(html).toContain(name);
    expect(html).toContain('title="Which unit?"');
    expect(html).toMatch(/aria-label="well seen">✓/);
    expect(html).toMatch(/aria-label="look again">✗/);
  });
  test("what an edit puts in is shown after its words and is not part of the text", () => {
    const html = draw([mark("e", "twice", { kind: "replace", replacement: "once" })]);
    expect(html).toMatch(/twice<\/span><\/mark><span[^>]*class="sign sign-insert"/);
    expect(html).toContain("once");
    expect(runs(html).some((run) => run.words.includes("once"))).toBe(false);
  });
  test("an insertion stands at its place: within a run, at the beginning and at the end of a line", () => {
    const at = (start: number) =>
      draw([{ ...mark("i", "It"), kind: "insert", start, end: start, replacement: "NEW" }]);
    for (const start of [
      0,
      1,
      3,
      plain.indexOf("rained"),
      plain.indexOf("twice") + 3,
      plain.length,
    ])
      expect(at(start).match(/NEW/g)).toHaveLength(1);
    expect(at(plain.indexOf("twice") + 3)).toMatch(
      /twi<\/span><span[^>]*>.*NEW.*<span data-at="\d+">ce\./,
    );
  });
  test("of marks over one another the smallest is the one that is pressed, and the chosen one is lit", () => {
    const both = [mark("large", "It rained\ntwice."), mark("small", "rained")];
    expect(draw(both)).toMatch(/data-mark="small"[^>]*class="[^"]*on-note/);
    expect(draw(both, "large")).toMatch(/data-mark="large" class="[^"]*on-chosen/);
  });
  test("the first word of a mark across two lines carries its name, so that the margin finds it", () => {
    expect(draw([mark("m", "Log\nIt")]).match(/data-mark="m"/g)).toHaveLength(2);
  });
});
