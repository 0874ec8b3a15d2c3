import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { compareTexts } from "@/core/text/compare";
import { plainText } from "@/core/text/plainText";
import { readRichDoc, type RichDoc } from "@/core/text/richDoc";
import { Compared, sayComparison } from "./Compared";

const words = (value: string, ...marks: string[]) => ({
  type: "text",
  text: value,
  ...(marks.length ? { marks: marks.map((type) => ({ type })) } : {}),
});
const line = (...content: object[]) => ({ type: "paragraph", content });
const asDoc = (...content: object[]): RichDoc => readRichDoc({ type: "doc", content });
const paragraphs = (...lines: string[]) => asDoc(...lines.map((value) => line(words(value))));
const table = (...rows: string[][]) => ({
  type: "table",
  content: rows.map((row) => ({
    type: "tableRow",
    content: row.map((cell) => ({ type: "tableCell", content: [line(words(cell))] })),
  })),
});
const list = (...items: string[]) => ({
  type: "bulletList",
  content: items.map((item) => ({ type: "listItem", content: [line(words(item))] })),
});

const compare = (before: RichDoc, after: RichDoc) =>
  compareTexts(plainText(before).text, plainText(after).text);
const draw = (before: RichDoc, after: RichDoc) =>
  renderToStaticMarkup(<Compared comparison={compare(before, after)} doc={after} />);

/** What is left when all that was added to the later document is taken out again. */
const without = (html: string) =>
  html
    .replace(/<del>.*?<\/del>/g, "")
    .replace(/<span class="label[^>]*>.*?<\/span>/g, "")
    .replace(/<tr>(<td><\/td>)+<\/tr>|<(li|p)><\/\2>/g, "")
    .replace(/<\/?ins>|<span class="came"[^>]*>|<\/span>/g, "");

describe("a comparison on the page", () => {
  test("keeps headings, lists, tables and bold words as they are", () => {
    const before = asDoc(
      { type: "heading", attrs: { level: 1 }, content: [words("Tides")] },
      line(words("The tide was "), words("high", "bold"), words(" today.")),
      list("rope", "bucket", "lamp"),
      table(["Mon", "12"], ["Tue", "12"], ["Wed", "12"]),
    );
    const after = asDoc(
      { type: "heading", attrs: { level: 1 }, content: [words("Spring tides")] },
      line(words("The tide was "), words("very high", "bold"), words(" today.")),
      list("rope", "lamp", "chart"),
      table(["Mon", "15"], ["Wed", "12"]),
    );
    const html = draw(before, after);
    expect(html).toContain("<h2><ins>Spring</ins> <del>Tides</del><ins>tides</ins></h2>");
    expect(html).toContain(
      "The tide was<ins> </ins><ins><strong>very</strong></ins><strong> high</strong> today.",
    );
    expect(html).toContain(
      '<li><span class="label mr-2 font-sans">taken out</span><del>bucket</del></li>',
    );
    // The number that was corrected stands in its own cell, and the row that is gone in a row.
    expect(html).toContain("<p><del>12</del></p><p><ins>15</ins></p></td></tr>");
    expect(html).toContain("<tr><td><del>Tue</del></td><td><del>12</del></td></tr>");
    expect(html.match(/<tr>/g)).toHaveLength(3);
  });

  test("shows what moved as moved, what was parted and what was made one", () => {
    expect(
      draw(
        paragraphs("It rained all day here. The tide was high at noon. We went home."),
        paragraphs("The tide was high at noon. It rained all day here. We went home."),
      ),
    ).toContain('<span class="came" title="moved here">');
    const [one, two] = ["It rained all day here.", "The tide was high at noon."];
    expect(draw(paragraphs(one, two), paragraphs(`${one} ${two}`))).toContain("made one");
    expect(draw(paragraphs(`${one} ${two}`), paragraphs(one, two))).toContain("parted here");
    const moved = draw(
      paragraphs(one, two, "We went home."),
      paragraphs(two, one, "We went home."),
    );
    expect(moved).toContain("moved here");
    expect(moved).not.toMatch(/<ins>|<del>/);
  });

  test("what is not taken out is the later document, letter by letter", () => {
    const before = paragraphs("One two three four.", "Five six seven eight.", "Nine ten.");
    const after = asDoc(
      line(words("Five "), words("six", "bold"), { type: "hardBreak" }, words("seven eight.")),
      line(),
      list("Nine ten.", "Eleven"),
      line(words("One two zwei four.")),
    );
    expect(without(draw(before, after))).toContain(
      "<p>Five <strong>six</strong><br/>seven eight.</p>",
    );
    expect(without(draw(before, after))).toContain("<ul><li><p>Nine ten.</p></li>");
  });

  test("and in one line what happened", () => {
    const before = paragraphs(
      "The tide was high.",
      "We saw a seal on the pier.",
      "It rained all day.",
    );
    const after = paragraphs(
      "It rained all day.",
      "The tide was very high.",
      "We saw a seal on the pier.",
    );
    expect(sayComparison(compare(before, after))).toBe("1 word in, 0 out, 1 paragraph moved");
  });
});
