import type { ChildNode, Element } from "domhandler";
import {
  isSafeLink,
  LIMITS,
  type Block,
  type Inline,
  type Mark,
  type RichDoc,
} from "../text/richDoc";
import { readTree } from "./boundedTags";

/**
 * HTML (as a word processor's document is read) as a document of ours: headings, paragraphs, lists, tables, quotes,
 * bold, italic, underlined, links. What has no place here gives its words and loses its look; scripts, styles and
 * pictures give nothing. What is beyond the limits of a document is cut, and `cut` says so.
 */
export function htmlToDoc(html: string): { doc: RichDoc; cut: boolean } {
  const { children, whole } = readTree(html.slice(0, MOST_HTML));
  const cut = !whole || html.length > MOST_HTML;
  const budget: Budget = { nodes: LIMITS.nodes - 10, characters: LIMITS.characters, cut };
  const content = blocksOf(children, [], 0, budget);
  return {
    doc: { type: "doc", content: content.length ? content : [{ type: "paragraph" }] },
    cut: budget.cut,
  };
}

/** Ten characters of HTML for each that a document can hold: more than any word processor writes. */
const MOST_HTML = 10 * LIMITS.characters;

type Budget = { nodes: number; characters: number; cut: boolean };
const BLOCKS = new Set([
  "p",
  "div",
  "h1",
  "h2",
  "h3",
  "h4",
  "h5",
  "h6",
  "ul",
  "ol",
  "li",
  "table",
  "tbody",
  "thead",
  "tr",
  "td",
  "th",
  "blockquote",
  "section",
  "article",
  "body",
  "html",
  "pre",
  "hr",
  "dl",
  "dt",
  "dd",
]);
const NOTHING = new Set(["script", "style", "head", "img", "svg", "object", "iframe", "template"]);
const MARKS: Record<string, Mark["type"]> = {
  b: "bold",
  strong: "bold",
  i: "italic",
  em: "italic",
  u: "underline",
};
const isElement = (node: ChildNode): node is Element =>
  node.type === "tag" || node.type === "script" || node.type === "style";
const spend = (budget: Budget) => --budget.nodes > 0 || ((budget.cut = true), false);

/** Inline runs between blocks become paragraphs of their own. */
function blocksOf(
  nodes: readonly ChildNode[],
  marks: Mark[],
  depth: number,
  budget: Budget,
): Block[] {
  const blocks: Block[] = [];
  let run: Inline[] = [];
  const flush = () => {
    const content = trimmed(run);
    run = [];
    if (content.length && spend(budget)) blocks.push({ type: "paragraph", content });
  };
  for (const node of nodes) {
    if (!isElement(node) || !holdsBlock(node)) {
      run.push(...inlinesOf(node, marks, budget));
      continue;
    }
    flush();
    blocks.push(...blockOf(node, marks, depth, budget));
  }
  flush();
  return blocks;
}

const holdsBlock = (node: Element): boolean =>
  BLOCKS.has(node.name) ||
  (!NOTHING.has(node.name) && node.children.some((child) => isElement(child) && holdsBlock(child)));

function blockOf(node: Element, marks: Mark[], depth: number, budget: Budget): Block[] {
  if (!spend(budget)) return [];
  if (/^h[1-6]$/.test(node.name)) return headingOf(node, marks, budget);
  // Deeper than a document can be: the words stay, the nesting goes.
  if (depth > LIMITS.depth - 6) return blocksOf(node.children, marks, depth, budget);
  switch (node.name) {
    case "ul":
    case "ol":
      return listOf(node, marks, depth, budget);
    case "table":
      return tableOf(node, marks, depth, budget);
    case "blockquote": {
      const content = blocksOf(node.children, marks, depth + 2, budget);
      return content.length ? [{ type: "blockquote", content }] : [];
    }
    case "hr":
      return [{ type: "horizontalRule" }];
    default:
      return blocksOf(node.children, marks, depth, budget);
  }
}

function headingOf(node: Element, marks: Mark[], budget: Budget): Block[] {
  const content = trimmed(node.children.flatMap((child) => inlinesOf(child, marks, budget)));
  const level = Math.min(3, Number(node.name.slice(1))) as 1 | 2 | 3;
  return content.length ? [{ type: "heading", attrs: { level }, content }] : [];
}

function listOf(node: Element, marks: Mark[], depth: number, budget: Budget): Block[] {
  const items = node.children.filter(isElement).flatMap((child): Block[] => {
    const content =
      child.name === "li"
        ? blocksOf(child.children, marks, depth + 2, budget)
        : blockOf(child, marks, depth + 2, budget);
    return content.length && spend(budget) ? [{ type: "listItem", content }] : [];
  });
  if (items.length === 0) return [];
  if (node.name === "ul") return [{ type: "bulletList", content: items }];
  const start = Math.min(9999, Math.max(1, Number(node.attribs.start) || 1));
  return [{ type: "orderedList", attrs: { start }, content: items }];
}

/** Tables do not stand in tables here: an inner one gives its words. */
function tableOf(table: Element, marks: Mark[], depth: number, budget: Budget): Block[] {
  const rowsOf = (node: Element): Element[] =>
    node.children.filter(isElement).flatMap((child) => {
      if (child.name === "tr") return [child];
      return /^(tbody|thead|tfoot)$/.test(child.name) ? rowsOf(child) : [];
    });
  const span = (cell: Element, name: string, most: number) =>
    Math.min(most, Math.max(1, Math.floor(Number(cell.attribs[name])) || 1));
  const rows = rowsOf(table).flatMap((row): Block[] => {
    const cells = row.children
      .filter(isElement)
      .filter((cell) => cell.name === "td" || cell.name === "th")
      .flatMap((cell): Block[] => {
        if (!spend(budget)) return [];
        const content = blocksOf(cell.children, marks, depth + 3, budget).flatMap(flatTable);
        return [
          {
            type: cell.name === "th" ? "tableHeader" : "tableCell",
            attrs: { colspan: span(cell, "colspan", 20), rowspan: span(cell, "rowspan", 100) },
            content: content.length ? content : [{ type: "paragraph" }],
          },
        ];
      });
    return cells.length && spend(budget) ? [{ type: "tableRow", content: cells }] : [];
  });
  return rows.length ? [{ type: "table", content: rows }] : [];
}

function flatTable(block: Block): Block[] {
  if (
    block.type === "table" ||
    block.type === "tableRow" ||
    block.type === "tableCell" ||
    block.type === "tableHeader"
  )
    return block.content.flatMap(flatTable);
  return "content" in block && block.type !== "paragraph" && block.type !== "heading"
    ? [{ ...block, content: (block.content as Block[]).flatMap(flatTable) } as Block]
    : [block];
}

function inlinesOf(node: ChildNode, marks: Mark[], budget: Budget): Inline[] {
  if (node.type === "text") {
    const text = node.data.replace(/[\u0000\r\n\t ]+/g, " ");
    if (text === "") return [];
    if ((budget.characters -= text.length) < 0 || !spend(budget)) {
      budget.cut = true;
      return [];
    }
    return [{ type: "text", text, ...(marks.length ? { marks } : {}) }];
  }
  if (!isElement(node) || NOTHING.has(node.name)) return [];
  if (node.name === "br") return spend(budget) ? [{ type: "hardBreak" }] : [];
  const inside = [...marks, ...ownMarks(node, marks)];
  return node.children.flatMap((child) => inlinesOf(child, inside, budget));
}

/** What the element itself says of its words, beside what stands around it. */
function ownMarks(node: Element, around: readonly Mark[]): Mark[] {
  const type = MARKS[node.name];
  if (type && !around.some((m) => m.type === type)) return [{ type } as Mark];
  const href = node.attribs.href ?? "";
  return node.name === "a" && isSafeLink(href) ? [{ type: "link", attrs: { href } }] : [];
}

/** Without white space at the ends. */
function trimmed(run: readonly Inline[]): Inline[] {
  const out = [...run];
  const trimEnd = (first: boolean) => {
    for (;;) {
      const n = first ? 0 : out.length - 1;
      const node = out[n];
      if (node?.type !== "text")
        return node?.type === "hardBreak" && out.length === 1 ? void out.pop() : undefined;
      const text = first ? node.text.trimStart() : node.text.trimEnd();
      if (text !== "") return void (out[n] = { ...node, text });
      out.splice(n, 1);
    }
  };
  trimEnd(true);
  trimEnd(false);
  return out;
}

/** Plain text, a paragraph a line. @example textToDoc("a\n\nb") */
export function textToDoc(text: string): { doc: RichDoc; cut: boolean } {
  const whole = text
    .replace(/^\ufeff/, "")
    .replace(/\r\n?/g, "\n")
    .replace(/\u0000/g, "");
  const kept = whole.slice(0, LIMITS.characters);
  const all = kept.split("\n");
  const lines = all.slice(0, Math.floor(LIMITS.nodes / 2) - 10);
  return {
    doc: {
      type: "doc",
      content: lines.map((line): Block =>
        line.trim()
          ? { type: "paragraph", content: [{ type: "text", text: line }] }
          : { type: "paragraph" },
      ),
    },
    cut: kept.length < whole.length || lines.length < all.length,
  };
}
