import { describe, expect, test } from "@jest/globals";
import mammoth from "mammoth";
import type { RichDoc } from "../text/richDoc";
import { plainText } from "../text/plainText";
import { docDocx } from "./docDocx";
import { docHtml } from "./docHtml";
import { htmlToDoc } from "./htmlDoc";

const p = (text: string, ...marks: ("bold" | "italic")[]): RichDoc["content"][number] => ({
  type: "paragraph",
  content: [
    { type: "text", text, ...(marks.length ? { marks: marks.map((type) => ({ type })) } : {}) },
  ],
});
const cell = (text: string) => ({
  type: "tableCell" as const,
  attrs: { colspan: 1, rowspan: 1 },
  content: [p(text)],
});
const DOC: RichDoc = {
  type: "doc",
  content: [
    { type: "heading", attrs: { level: 2 }, content: [{ type: "text", text: "The pier" }] },
    p("It rained <script>alert(1)</script> & the “sea” rose. שלום 雨"),
    p("Very wet.", "bold"),
    {
      type: "bulletList",
      content: [
        { type: "listItem", content: [p("one")] },
        { type: "listItem", content: [p("two")] },
      ],
    },
    {
      type: "orderedList",
      attrs: { start: 1 },
      content: [{ type: "listItem", content: [p("first")] }],
    },
    { type: "table", content: [{ type: "tableRow", content: [cell("12 mm"), cell("7 mm")] }] },
  ],
};

describe("a piece's words, out and read again by other readers", () => {
  test("HTML: what our reader of HTML makes of it is the same document", () => {
    const html = docHtml("A & B", DOC);
    expect(html).not.toContain("<script>alert");
    expect(html).toContain("<title>A &#38; B</title>");
    expect(htmlToDoc(/<body>([\s\S]*)<\/body>/.exec(html)![1]!).doc).toEqual(DOC);
  });
  test("a link keeps its address, and nothing of it can break out", () => {
    const href = 'https://tern.example/?a="><b>';
    const text = [
      { type: "text" as const, text: "map", marks: [{ type: "link" as const, attrs: { href } }] },
    ];
    const html = docHtml("x", { type: "doc", content: [{ type: "paragraph", content: text }] });
    expect(html).toContain('<a href="https://tern.example/?a=&#34;&#62;&#60;b&#62;">map</a>');
  });
  test("DOCX (ECMA-376): what mammoth, a reader of its own, makes of it says the same in the same shape", async () => {
    const bytes = Buffer.from(await docDocx("The pier", DOC));
    const { value, messages } = await mammoth.convertToHtml({ buffer: bytes });
    expect(messages.filter((m) => m.type === "error")).toEqual([]);
    const { doc } = htmlToDoc(value);
    expect(plainText(doc).text).toBe(plainText(DOC).text);
    expect(doc.content.map((block) => block.type)).toEqual(DOC.content.map((block) => block.type));
  });
  test("what stands in the writing by itself: a card is a link, a file is named, and neither breaks out", async () => {
    const doc: RichDoc = {
      type: "doc",
      content: [
        {
          type: "linkCard",
          attrs: { href: 'https://tern.example/?a="><b>' },
          content: [{ type: "text", text: "The tide" }],
        },
        { type: "linkCard", attrs: { href: "https://tern.example/" } },
        { type: "file", attrs: { item: "i", as: "film", name: "<b>tide" } },
      ],
    };
    const html = docHtml("x", doc);
    expect(html).toContain(
      '<p><a href="https://tern.example/?a=&#34;&#62;&#60;b&#62;">The tide</a></p>',
    );
    expect(html).toContain(">https://tern.example/</a>");
    expect(html).toContain("<p>[film: &#60;b&#62;tide]</p>");
    const buffer = Buffer.from(await docDocx("x", doc));
    const { value } = await mammoth.convertToHtml({ buffer });
    expect(value).toContain('<a href="https://tern.example/">https://tern.example/</a>');
    expect(value).toContain("[film: &lt;b&gt;tide]");
  });
});
