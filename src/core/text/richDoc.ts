import { isId } from "../ids";
import { Invalid } from "../refusals";

/**
 * Rich text as Almanac keeps it: the JSON of a ProseMirror document, cut down to the nodes and marks
 * named here. Nothing else is ever stored or shown, so a script in a student's text has no place to
 * stand: pages are built from this tree, never from HTML.
 */
export type Mark =
  | { type: "bold" }
  | { type: "italic" }
  | { type: "underline" }
  | { type: "link"; attrs: { href: string } };
export type TextNode = { type: "text"; text: string; marks?: Mark[] };
export type Inline = TextNode | { type: "hardBreak" };
export type TextBlock =
  | { type: "paragraph"; content?: Inline[] }
  | { type: "heading"; attrs: { level: 1 | 2 | 3 }; content?: Inline[] }
  /** A link that stands by itself; its words are a line of the text like any other. Nothing is fetched from there. */
  | { type: "linkCard"; attrs: { href: string }; content?: Inline[] };
export type Container =
  | { type: "bulletList" | "blockquote" | "table" | "tableRow" | "listItem"; content: Block[] }
  | { type: "orderedList"; attrs: { start: number }; content: Block[] }
  | {
      type: "tableCell" | "tableHeader";
      attrs: { colspan: number; rowspan: number };
      content: Block[];
    };
/** A picture stands by itself between paragraphs; `upload` is the id of a file that was uploaded. */
export type Picture = { type: "picture"; attrs: { upload: string; alt: string } };
/** A sound, a film or a PDF that stands in the writing: the id of an item of the same piece, and what to call it without it. */
export type FileInText = {
  type: "file";
  attrs: { item: string; as: FileInTextKind; name: string };
};
export const FILES_IN_TEXT = ["sound", "film", "pages"] as const;
export type FileInTextKind = (typeof FILES_IN_TEXT)[number];
export type Block = TextBlock | Container | Picture | FileInText | { type: "horizontalRule" };
export type RichDoc = { type: "doc"; content: Block[] };

export const EMPTY_DOC: RichDoc = { type: "doc", content: [{ type: "paragraph" }] };

/** Limits of one document; far above any piece of school writing, far below what could hurt. */
export const LIMITS = {
  characters: 200_000,
  nodes: 20_000,
  depth: 16,
  /** Of the whole as JSON: marks and links say more than the words they stand on. */
  bytes: 2_000_000,
} as const;

const IN_CELL = [
  "paragraph",
  "heading",
  "bulletList",
  "orderedList",
  "blockquote",
  "horizontalRule",
] as const;
const BLOCKS = [...IN_CELL, "table"] as const;
/** What a document is for, and with that what may stand between its paragraphs. */
const HELD_BY = {
  /** A note, a material: words alone. */ words: BLOCKS,
  /** What is asked. */ task: [...BLOCKS, "picture"],
  /** What a student writes. */ work: [...BLOCKS, "picture", "file", "linkCard"],
} as const;
export type DocPurpose = keyof typeof HELD_BY;
const CHILDREN: Record<string, readonly string[]> = {
  blockquote: BLOCKS,
  bulletList: ["listItem"],
  orderedList: ["listItem"],
  listItem: BLOCKS,
  table: ["tableRow"],
  tableRow: ["tableCell", "tableHeader"],
  tableCell: IN_CELL,
  tableHeader: IN_CELL,
  paragraph: ["text", "hardBreak"],
  heading: ["text", "hardBreak"],
  linkCard: ["text", "hardBreak"],
};
/** These are there without words too. */
const LINES: readonly string[] = ["paragraph", "heading", "linkCard"];

/**
 * Reads untrusted JSON as a document: only known nodes in their allowed places, only known
 * attributes, links only to http, https and mailto. Unknown attributes are left out; an unknown node
 * is an error, so that nothing a person wrote is dropped in silence.
 *
 * @param purpose what may stand in it beside words
 * @throws Invalid with the field `doc`, saying what could not be read.
 */
export function readRichDoc(input: unknown, purpose: DocPurpose = "words"): RichDoc {
  const budget = { nodes: LIMITS.nodes, characters: LIMITS.characters, purpose };
  const node = readNode(input, ["doc"], 0, budget) as RichDoc;
  if (JSON.stringify(node).length > LIMITS.bytes)
    throw unreadable("its formatting and links take more room than a piece has");
  return node.content.length ? node : EMPTY_DOC;
}

type Budget = { nodes: number; characters: number; purpose: DocPurpose };

function readNode(
  input: unknown,
  allowed: readonly string[],
  depth: number,
  budget: Budget,
): unknown {
  if (typeof input !== "object" || input === null || Array.isArray(input))
    throw unreadable("part of the text is not in a form that can be read");
  const { type, attrs, text, marks, content } = input as Record<string, unknown>;
  if (typeof type !== "string" || !allowed.includes(type))
    throw unreadable(`it holds something Almanac cannot keep (${String(type).slice(0, 30)})`);
  if (depth > LIMITS.depth) throw unreadable("its lists or quotes are nested too deeply");
  if (--budget.nodes < 0) throw unreadable("it has too many parts for one piece");
  switch (type) {
    case "text":
      return readText(text, marks, budget);
    case "hardBreak":
    case "horizontalRule":
      return { type };
    case "picture":
      return readPicture(attrs);
    case "file":
      return readFile(attrs);
    default:
      return withChildren({ type, ...readAttributes(type, attrs) }, content, depth, budget);
  }
}

function withChildren(
  node: { type: string },
  content: unknown,
  depth: number,
  budget: Budget,
): unknown {
  const { type } = node;
  const inside = type === "doc" ? HELD_BY[budget.purpose] : (CHILDREN[type] ?? []);
  const given = Array.isArray(content) ? content : [];
  const children = given.map((child) => readNode(child, inside, depth + 1, budget));
  // A card is a link already: its words are none.
  if (type === "linkCard") children.forEach((child) => unlink(child as Inline));
  if (children.length === 0 && LINES.includes(type)) return node;
  if (children.length === 0 && type !== "doc") throw unreadable("a list or table in it is empty");
  return { ...node, content: children };
}

function unlink(inline: Inline): void {
  if (inline.type !== "text" || !inline.marks) return;
  inline.marks = inline.marks.filter((mark) => mark.type !== "link");
  if (inline.marks.length === 0) delete inline.marks;
}

function readPicture(attrs: unknown): Picture {
  const { upload, alt } = (attrs ?? {}) as Record<string, unknown>;
  if (!isId(upload)) throw unreadable("a picture in it was not uploaded");
  return {
    type: "picture",
    attrs: { upload, alt: shortWords(alt) },
  };
}

function readFile(attrs: unknown): FileInText {
  const { item, as, name } = (attrs ?? {}) as Record<string, unknown>;
  const kind = FILES_IN_TEXT.find((known) => known === as);
  if (!isId(item) || !kind) throw unreadable("a file in it was not sent with it");
  return { type: "file", attrs: { item, as: kind, name: shortWords(name) } };
}

const shortWords = (given: unknown): string =>
  typeof given === "string" ? given.replace(/\u0000/g, "").slice(0, 300) : "";

/** The items that stand in a student's writing, in its order. */
export function filesIn(doc: RichDoc): string[] {
  return doc.content.flatMap((block) => (block.type === "file" ? [block.attrs.item] : []));
}

const FILE_WORDS: Readonly<Record<FileInTextKind, string>> = {
  sound: "sound",
  film: "film",
  pages: "PDF",
};
/** A file in the writing where it cannot be shown. @example "[film: the tide.mp4]" */
export const sayFileInText = ({ as, name }: FileInText["attrs"]): string =>
  `[${[FILE_WORDS[as], name].filter(Boolean).join(": ")}]`;

/** Where a link leads, as it is said under it. @example hostOf("https://www.example.org/tides?x=1") // "www.example.org" */
export function hostOf(href: string): string {
  try {
    const { host, pathname } = new URL(href);
    return host || pathname;
  } catch {
    return href;
  }
}

/** The uploads a document shows as pictures. */
export function picturesOf(doc: RichDoc): string[] {
  return doc.content.flatMap((block) => (block.type === "picture" ? [block.attrs.upload] : []));
}

function readText(text: unknown, marks: unknown, budget: { characters: number }): TextNode {
  if (typeof text !== "string" || text === "") throw unreadable("part of the text is empty");
  budget.characters -= text.length;
  if (budget.characters < 0)
    throw unreadable(`it is longer than ${LIMITS.characters.toLocaleString("en")} characters`);
  // NUL cannot be stored by PostgreSQL; line ends belong to blocks and hard breaks, so that offsets are unambiguous.
  const clean = text.replace(/\u0000/g, "").replace(/[\r\n]+/g, " ");
  const kept = Array.isArray(marks) ? marks.flatMap(readMark) : [];
  return kept.length
    ? { type: "text", text: clean || " ", marks: kept }
    : { type: "text", text: clean || " " };
}

function readMark(mark: unknown): Mark[] {
  const { type, attrs } = (mark ?? {}) as { type?: unknown; attrs?: { href?: unknown } };
  if (type === "bold" || type === "italic" || type === "underline") return [{ type }];
  if (type === "link" && typeof attrs?.href === "string" && isSafeLink(attrs.href))
    return [{ type, attrs: { href: attrs.href } }];
  return [];
}

/** @example isSafeLink("javascript:alert(1)") // false */
export function isSafeLink(href: string): boolean {
  // Control characters and spaces are ignored by browsers inside a scheme, so a link with any is not trusted.
  if (/[\u0000-\u0020\u007f]/.test(href) || href.length > 2000) return false;
  return /^(https?:\/\/|mailto:)/i.test(href);
}

function readAttributes(type: string, attrs: unknown): { attrs?: Record<string, number | string> } {
  const given = (attrs ?? {}) as Record<string, unknown>;
  const whole = (name: string, least: number, most: number) => {
    const value = Number(given[name]);
    return Number.isInteger(value) ? Math.min(most, Math.max(least, value)) : least;
  };
  if (type === "linkCard") {
    const { href } = given;
    if (typeof href !== "string" || !isSafeLink(href))
      throw unreadable("a link in it is none that a page may have");
    return { attrs: { href } };
  }
  if (type === "heading") return { attrs: { level: whole("level", 1, 3) } };
  if (type === "orderedList") return { attrs: { start: whole("start", 1, 9999) } };
  if (type === "tableCell" || type === "tableHeader")
    return { attrs: { colspan: whole("colspan", 1, 20), rowspan: whole("rowspan", 1, 100) } };
  return {};
}

function unreadable(why: string): Invalid {
  return new Invalid({
    doc: `This text could not be saved: ${why}. What was saved before is safe.`,
  });
}
