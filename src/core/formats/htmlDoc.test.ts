import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { plainText } from "../text/plainText";
import { readRichDoc } from "../text/richDoc";
import { htmlToDoc, textToDoc } from "./htmlDoc";

const text = (html: string) => plainText(htmlToDoc(html).doc).text;

test("the words of a document, in the order of reading", () => {
  expect(
    text(
      "<h1>Report</h1><p>It <b>rained</b> <i>all</i> day.<br>Twice.</p><ul><li>a</li><li>b<ul><li>c</li></ul></li></ul>",
    ),
  ).toBe("Report\nIt rained all day.\nTwice.\na\nb\nc");
  expect(
    text(
      "<table><tr><th>day</th><th>rain</th></tr><tr><td><p>Mon</p></td><td>4 mm</td></tr></table>",
    ),
  ).toBe("day\nrain\nMon\n4 mm");
  expect(text("<div>loose <span>words</span></div><p></p><p> </p>")).toBe("loose words");
  expect(
    text("<p>a<script>alert(1)</script><img src=x onerror=1></p><svg><text>no</text></svg>"),
  ).toBe("a");
});
test("looks and links that are safe stay", () => {
  expect(
    htmlToDoc(
      '<p><strong>x</strong><a href="https://a.example/">y</a><a href="javascript:alert(1)">z</a></p>',
    ).doc.content[0],
  ).toEqual({
    type: "paragraph",
    content: [
      { type: "text", text: "x", marks: [{ type: "bold" }] },
      { type: "text", text: "y", marks: [{ type: "link", attrs: { href: "https://a.example/" } }] },
      { type: "text", text: "z" },
    ],
  });
});
test("whatever HTML comes, a document comes that can be stored", () => {
  const tags = fc.constantFrom(
    "p",
    "b",
    "ul",
    "ol",
    "li",
    "table",
    "tr",
    "td",
    "h2",
    "blockquote",
    "div",
    "a",
    "br",
  );
  const piece = fc.oneof(
    fc.string({ maxLength: 12 }),
    tags.map((t) => `<${t}>`),
    tags.map((t) => `</${t}>`),
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 60 }), (parts) => {
      const { doc } = htmlToDoc(parts.join(""));
      expect(readRichDoc(doc)).toEqual(doc);
    }),
    { numRuns: 400 },
  );
});
test("nested beyond measure, or endless: cut, never broken", () => {
  const deep = `${"<blockquote>".repeat(300)}words${"</blockquote>".repeat(300)}`;
  expect(text(deep)).toBe("words");
  readRichDoc(htmlToDoc(deep).doc);
  const long = htmlToDoc("<p>word word</p>".repeat(40_000));
  expect(long.cut).toBe(true);
  readRichDoc(long.doc);
  expect(textToDoc("a\r\n\r\nb\u0000").doc.content).toHaveLength(3);
  expect(textToDoc("x\n".repeat(50_000)).cut).toBe(true);
  readRichDoc(textToDoc("x\n".repeat(50_000)).doc);
});
