import { marked, type Token, type Tokens } from "marked";
import { sentenceRanges } from "./tokens";

/**
 * The light Markdown of notes (CommonMark's emphasis, lists, links, quotations; spec 0.31.2). A note stays
 * plain text wherever it is stored, searched and taken out; this is how it is read. Everything else that
 * Markdown knows, HTML above all, stays as it was typed.
 */
export type NoteInline =
  | { kind: "text"; text: string }
  | { kind: "break" }
  | { kind: "bold" | "italic"; of: NoteInline[] }
  | { kind: "link"; href: string; of: NoteInline[] };
export type NoteBlock =
  | { kind: "paragraph"; of: NoteInline[] }
  | { kind: "list"; ordered: boolean; items: NoteInline[][] }
  | { kind: "quote"; text: string };

/** @example readNote("Say *why*.") // [{ kind: "paragraph", of: [text "Say ", italic "why", text "."] }] */
export function readNote(text: string): NoteBlock[] {
  // Most notes are one plain sentence, and a sheet can hold hundreds.
  if (text.trim() === "") return [];
  if (!/[*_[\]<>`#~|\\]|^[ \t]*(?:[-+>]|\d+[.)])|[\n\r]|https?:/m.test(text))
    return [{ kind: "paragraph", of: [{ kind: "text", text }] }];
  if (!isPlainMarkdown(text)) return asTyped(text);
  return marked.lexer(text, { gfm: true, breaks: true }).flatMap(block);
}

/** More than any note has of it; the reader of Markdown goes over the text anew for each. */
const MOST = { brackets: 80, signs: 400, lines: 600, nesting: 8, blank: 80 } as const;

/**
 * Whether a text is Markdown as people write it. Signs without end, nested hundreds deep, would take the
 * reader minutes and its stack; such a text is no note of emphasis and lists, and is shown as it was typed.
 */
function isPlainMarkdown(text: string): boolean {
  const count = (sign: RegExp) => text.match(sign)?.length ?? 0;
  return (
    count(/[[\]]/g) <= MOST.brackets &&
    count(/[*_~`|<>\\]/g) <= MOST.signs &&
    count(/[\n\r]/g) <= MOST.lines &&
    !hasRun(text, MOST.blank) &&
    text.split(/[\n\r]/).every((line) => nestingOf(line) <= MOST.nesting)
  );
}

/** Whether white space, line ends among it, goes on for longer than `most`. */
const hasRun = (text: string, most: number) => new RegExp(`\\s{${most}}`).test(text);

/** How many quotations and lists a line opens, one inside the other. */
function nestingOf(line: string): number {
  const marker = /[ \t]*(?:>|[-+*](?=[ \t]|$)|\d{1,9}[.)](?=[ \t]|$))/y;
  let depth = 0;
  while (depth <= MOST.nesting && marker.test(line)) depth += 1;
  return depth;
}

const asTyped = (text: string): NoteBlock[] =>
  text
    .split(/\r\n|[\n\r]/)
    .filter((line) => line.trim() !== "")
    .map((line) => ({ kind: "paragraph", of: [{ kind: "text", text: line }] }));

function block(token: Token): NoteBlock[] {
  switch (token.type) {
    case "space":
      return [];
    case "paragraph":
      return [{ kind: "paragraph", of: inlines((token as Tokens.Paragraph).tokens) }];
    case "list": {
      const list = token as Tokens.List;
      return [
        {
          kind: "list",
          ordered: list.ordered,
          items: list.items.map((item) =>
            item.tokens.flatMap((t) =>
              "tokens" in t && t.tokens
                ? inlines(t.tokens)
                : [{ kind: "text" as const, text: t.raw }],
            ),
          ),
        },
      ];
    }
    case "blockquote":
      return [{ kind: "quote", text: (token as Tokens.Blockquote).text.trim() }];
    default:
      return token.raw.trim() === ""
        ? []
        : [{ kind: "paragraph", of: [{ kind: "text", text: token.raw.trim() }] }];
  }
}

function inlines(tokens: readonly Token[]): NoteInline[] {
  return tokens.flatMap((token): NoteInline[] => {
    switch (token.type) {
      case "strong":
        return [{ kind: "bold", of: inlines((token as Tokens.Strong).tokens) }];
      case "em":
        return [{ kind: "italic", of: inlines((token as Tokens.Em).tokens) }];
      case "br":
        return [{ kind: "break" }];
      case "link": {
        const { href, tokens: of } = token as Tokens.Link;
        return isSafe(href)
          ? [{ kind: "link", href, of: inlines(of) }]
          : [{ kind: "text", text: token.raw }];
      }
      case "text":
        return "tokens" in token && token.tokens
          ? inlines(token.tokens)
          : [{ kind: "text", text: plainOf((token as Tokens.Text).text) }];
      case "escape":
        return [{ kind: "text", text: (token as Tokens.Escape).text }];
      default:
        return [{ kind: "text", text: token.raw }];
    }
  });
}

/** Only addresses that open a page or a letter. */
const isSafe = (href: string) => /^(https?:\/\/|mailto:)/i.test(href);

/** marked writes the five HTML entities into text; React would show them as typed. */
const ENTITIES: Readonly<Record<string, string>> = {
  "&amp;": "&",
  "&lt;": "<",
  "&gt;": ">",
  "&quot;": '"',
  "&#39;": "'",
};
const plainOf = (text: string) =>
  text.replace(/&(?:amp|lt|gt|quot|#39);/g, (entity) => ENTITIES[entity]!);

/** A note as one line of plain words, for lists and labels. @example sayNote("**Why?**\n- when") // "Why? when" */
export function sayNote(text: string): string {
  const sayInline = (i: NoteInline): string => {
    if (i.kind === "text") return i.text;
    return i.kind === "break" ? " " : flat(i.of);
  };
  const flat = (of: readonly NoteInline[]): string => of.map(sayInline).join("");
  return readNote(text)
    .map((b) => {
      if (b.kind === "quote") return `“${b.text}”`;
      return b.kind === "list" ? b.items.map(flat).join(" ") : flat(b.of);
    })
    .join(" ")
    .replace(/\s+/g, " ")
    .trim();
}

/**
 * The whole sentence (or sentences) that a range lies in, for bringing it into a note. Sentences end as
 * Unicode Standard Annex 29 has it (Intl.Segmenter), and never reach over a line's end.
 *
 * @example sentenceAround("It rained. The sea was grey. We left.", { start: 15, end: 18 }) // "The sea was grey."
 */
export function sentenceAround(
  text: string,
  { start, end }: { start: number; end: number },
): string {
  const from = text.lastIndexOf("\n", Math.max(0, start - 1)) + 1;
  const next = text.indexOf("\n", Math.max(start, end));
  return sentenceRanges(text, { start: from, end: next === -1 ? text.length : next })
    .filter((s) => s.start < Math.max(start + 1, end) && s.end > start)
    .map((s) => text.slice(s.start, s.end))
    .join(" ")
    .replace(/\n/g, " ");
}

/** A note with the student's sentence brought in as a quotation, and where the caret belongs: in it. */
export function withSentence(note: string, sentence: string): { text: string; caret: number } {
  const quoted = `> ${sentence.replace(/\n/g, " ")}`;
  const before = note.trim() === "" ? "" : `${note.trimEnd()}\n\n`;
  return { text: `${before}${quoted}\n\n`, caret: before.length + 2 };
}

/** A field's text with what is selected in it. */
export type Selected = { text: string; start: number; end: number };

/**
 * Sets what is selected bold, italic or as a list, or takes that off again: what the keys of a note field do.
 *
 * @example formatNote({ text: "Say why", start: 4, end: 7 }, "bold") // { text: "Say **why**", start: 6, end: 9 }
 */
export function formatNote(
  { text, start, end }: Selected,
  how: "bold" | "italic" | "list",
): Selected {
  if (how === "list") {
    const from = text.lastIndexOf("\n", start - 1) + 1;
    const to = text.indexOf("\n", end) === -1 ? text.length : text.indexOf("\n", end);
    const lines = text.slice(from, to).split("\n");
    const listed = lines.every((line) => line.startsWith("- "));
    const made = lines.map((line) => (listed ? line.slice(2) : `- ${line}`)).join("\n");
    return {
      text: text.slice(0, from) + made + text.slice(to),
      start: Math.max(from, start + (listed ? -2 : 2)),
      end: end + made.length - (to - from),
    };
  }
  const sign = how === "bold" ? "**" : "*";
  const inside = text.slice(start, end);
  const on =
    text.slice(start - sign.length, start) === sign &&
    text.slice(end, end + sign.length) === sign &&
    !(how === "italic" && text.slice(start - 2, start) === "**" && text[start - 3] !== "*");
  if (on)
    return {
      text: text.slice(0, start - sign.length) + inside + text.slice(end + sign.length),
      start: start - sign.length,
      end: end - sign.length,
    };
  return {
    text: text.slice(0, start) + sign + inside + sign + text.slice(end),
    start: start + sign.length,
    end: end + sign.length,
  };
}
