import { segmentsOf } from "./tokens";
import type { Block, Inline, RichDoc, TextBlock } from "./richDoc";

/**
 * The plain text of a document, and where each of its lines stands in it.
 *
 * Everything that points into a piece of writing (marks, edits, differences) counts in offsets of
 * this text, in UTF-16 code units as JavaScript strings do; `selectors.ts` turns them into the code
 * points that the Web Annotation model asks for. Each paragraph, heading, list item or cell is one
 * line, and lines are joined by one "\n"; a hard break inside a line is a "\n" too.
 */
export type Line = {
  start: number;
  end: number;
  kind: "paragraph" | "heading";
  /** Position of the line's first character in the ProseMirror document; inside a line, both count alike. */
  docStart: number;
};

export type PlainText = { text: string; lines: Line[] };

export function plainText(doc: RichDoc): PlainText {
  const parts: string[] = [];
  const lines: Line[] = [];
  let offset = 0;
  const walk = (blocks: readonly Block[], position: number): number => {
    for (const block of blocks) {
      if (standsAlone(block)) position += 1;
      else if (isLine(block)) {
        const text = (block.content ?? []).map(inlineText).join("");
        if (lines.length > 0) {
          parts.push("\n");
          offset += 1;
        }
        lines.push({
          start: offset,
          end: offset + text.length,
          kind: block.type === "heading" ? "heading" : "paragraph",
          docStart: position + 1,
        });
        parts.push(text);
        offset += text.length;
        position += text.length + 2;
      } else position = walk(block.content, position + 1) + 1;
    }
    return position;
  };
  walk(doc.content, 0);
  return { text: parts.join(""), lines };
}

type Alone = Extract<Block, { type: "horizontalRule" | "picture" | "file" }>;
/** A block without words or parts: it takes one position and no text. */
const standsAlone = (block: Block): block is Alone =>
  block.type === "horizontalRule" || block.type === "picture" || block.type === "file";
const isLine = (block: Block): block is TextBlock =>
  block.type === "paragraph" || block.type === "heading" || block.type === "linkCard";

function inlineText(node: Inline): string {
  return node.type === "text" ? node.text : "\n";
}

/** The ProseMirror position of a text offset; offsets past the end give the end. */
export function toDocPosition({ lines }: PlainText, offset: number): number {
  const line = lineAt(lines, offset);
  return line ? line.docStart + Math.min(offset, line.end) - line.start : 0;
}

/** The text offset of a ProseMirror position; a position between lines gives the nearest line's end or start. */
export function toOffset({ lines }: PlainText, position: number): number {
  let found = lines[0];
  for (const line of lines) {
    if (line.docStart > position) break;
    found = line;
  }
  if (!found) return 0;
  return Math.min(found.end, Math.max(found.start, found.start + position - found.docStart));
}

function lineAt(lines: readonly Line[], offset: number): Line | undefined {
  let low = 0;
  let high = lines.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (lines[middle]!.start <= offset) low = middle;
    else high = middle - 1;
  }
  return lines[low];
}

const words = new Intl.Segmenter("en", { granularity: "word" });

/** Longer than any word; the shorter, the quicker. */
const WINDOW = 400;

/** Words as a reader counts them. @example countWords("It's 3.5 mm — wet!") // 4 */
export function countWords(text: string): number {
  let count = 0;
  for (const segment of segmentsOf(words, text, WINDOW)) if (segment.isWordLike) count += 1;
  return count;
}

/** No word in it; a picture may be. */
export function isBlank(doc: RichDoc): boolean {
  return plainText(doc).text.trim() === "";
}

/** Nothing in it at all: no word, no picture, no file, no link. */
export const isEmptyDoc = (doc: RichDoc): boolean =>
  isBlank(doc) &&
  !doc.content.some(({ type }) => type === "picture" || type === "file" || type === "linkCard");
