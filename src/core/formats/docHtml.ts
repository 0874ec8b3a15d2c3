import { sayFileInText, type Block, type Inline, type Mark, type RichDoc } from "../text/richDoc";

const escaped = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => `&#${sign.codePointAt(0)};`);

/**
 * A document as a page of its own (HTML), from the tree alone: every text is escaped, links are those the reader of
 * documents let in, and nothing is fetched.
 *
 * @example docHtml("Letter", { type: "doc", content: [{ type: "paragraph" }] }) // "<!doctype html>…<p></p>…"
 */
export function docHtml(title: string, doc: RichDoc): string {
  const head = `<meta charset="utf-8"><title>${escaped(title)}</title>`;
  return `<!doctype html>\n<html><head>${head}</head>\n<body>\n${doc.content.map(block).join("\n")}\n</body></html>\n`;
}

const TAGS: Readonly<Record<string, string>> = {
  paragraph: "p",
  bulletList: "ul",
  listItem: "li",
  blockquote: "blockquote",
  table: "table",
  tableRow: "tr",
};

function block(node: Block): string {
  switch (node.type) {
    case "horizontalRule":
      return "<hr>";
    case "picture":
      return `<p>[${escaped(node.attrs.alt || "picture")}]</p>`;
    case "file":
      return within("p", escaped(sayFileInText(node.attrs)));
    case "linkCard":
      return within(
        "p",
        `<a href="${escaped(node.attrs.href)}">${inline(node.content) || escaped(node.attrs.href)}</a>`,
      );
    case "heading":
      return within(`h${node.attrs.level}`, inline(node.content));
    case "paragraph":
      return within("p", inline(node.content));
    case "orderedList":
      return `<ol start="${node.attrs.start}">${node.content.map(block).join("")}</ol>`;
    case "tableCell":
    case "tableHeader":
      return cell(node);
    default:
      return within(TAGS[node.type]!, node.content.map(block).join(""));
  }
}

const within = (tag: string, inside: string): string => `<${tag}>${inside}</${tag}>`;

function cell(node: Extract<Block, { type: "tableCell" | "tableHeader" }>): string {
  const tag = node.type === "tableCell" ? "td" : "th";
  const { colspan, rowspan } = node.attrs;
  return `<${tag} colspan="${colspan}" rowspan="${rowspan}">${node.content.map(block).join("")}</${tag}>`;
}

const inline = (content: readonly Inline[] = []): string =>
  content
    .map((node) =>
      node.type === "hardBreak" ? "<br>" : (node.marks ?? []).reduce(marked, escaped(node.text)),
    )
    .join("");

function marked(inside: string, mark: Mark): string {
  if (mark.type === "link") return `<a href="${escaped(mark.attrs.href)}">${inside}</a>`;
  return within({ bold: "strong", italic: "em", underline: "u" }[mark.type], inside);
}
