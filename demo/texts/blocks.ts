import type { Block as DocBlock, RichDoc } from "../../src/core/text/richDoc";
import { anyOf, type Random } from "../random";

/** A piece of demo writing before it becomes a document. */
export type Block =
  { kind: "heading" | "paragraph" | "item"; text: string } | { kind: "table"; rows: string[][] };

export function toDoc(blocks: readonly Block[]): RichDoc {
  const content: DocBlock[] = [];
  for (const block of blocks) {
    if (block.kind === "heading")
      content.push({
        type: "heading",
        attrs: { level: 2 },
        content: [{ type: "text", text: block.text }],
      });
    else if (block.kind === "paragraph") content.push(paragraph(block.text));
    else if (block.kind === "table") content.push(table(block.rows));
    else {
      const last = content.at(-1);
      const item: DocBlock = { type: "listItem", content: [paragraph(block.text)] };
      if (last?.type === "bulletList") last.content.push(item);
      else content.push({ type: "bulletList", content: [item] });
    }
  }
  return { type: "doc", content };
}

function paragraph(text: string): DocBlock {
  return text === ""
    ? { type: "paragraph" }
    : { type: "paragraph", content: [{ type: "text", text }] };
}

function table(rows: string[][]): DocBlock {
  return {
    type: "table",
    content: rows.map((cells, n) => ({
      type: "tableRow",
      content: cells.map((text) => ({
        type: n === 0 ? ("tableHeader" as const) : ("tableCell" as const),
        attrs: { colspan: 1, rowspan: 1 },
        content: [paragraph(text)],
      })),
    })),
  };
}

export const para = (...sentences: string[]): Block => ({
  kind: "paragraph",
  text: sentences.filter(Boolean).join(" "),
});

/** Fills `{slot}` from lists, each time anew. */
export function fill(
  random: Random,
  text: string,
  slots: Record<string, readonly string[]>,
): string {
  return text.replace(/\{(\w+)\}/g, (written, name: string) =>
    slots[name] ? anyOf(random, slots[name]!) : written,
  );
}
