import type { Block, RichDoc } from "./richDoc";
import { plainText } from "./plainText";

/**
 * The words of a piece as one document, so that marks can stand on all of them: first what was written, so that
 * places in the writing are places here too; then answers in free text, each under its question; then the words
 * of each document, under its name.
 */
export type Extra = { heading: string; doc: RichDoc };

export function composeDoc(writing: RichDoc, extras: readonly Extra[]): RichDoc {
  if (extras.length === 0) return writing;
  const blank =
    plainText(writing).text.trim() === "" && writing.content.every((b) => b.type === "paragraph");
  const parts = extras.flatMap(({ heading, doc }): Block[] => [
    {
      type: "heading",
      attrs: { level: 2 },
      content: [{ type: "text", text: heading.replace(/\s+/g, " ").trim() || "…" }],
    },
    ...doc.content,
  ]);
  return { type: "doc", content: [...(blank ? [] : writing.content), ...parts] };
}
