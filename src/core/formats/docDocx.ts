import {
  Document,
  ExternalHyperlink,
  HeadingLevel,
  LevelFormat,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
  type ParagraphChild,
} from "docx";
import {
  sayFileInText,
  type Block,
  type Inline,
  type RichDoc,
  type TextNode,
} from "../text/richDoc";

const HEADINGS = [HeadingLevel.HEADING_1, HeadingLevel.HEADING_2, HeadingLevel.HEADING_3];
const NUMBERS = "numbers";
const DEEPEST = 8;

/** Where a paragraph stands: in which list, how deep, and whether it is set in from the edge. */
type Where = { list: { ordered: number | null; level: number } | null; quoted: number };
const PLAIN: Where = { list: null, quoted: 0 };
type Child = Paragraph | Table;

/** A document as a file of a word processor (Office Open XML, ECMA-376). */
export async function docDocx(title: string, doc: RichDoc): Promise<Uint8Array> {
  const lists = { made: 0 };
  const file = new Document({
    title,
    numbering: {
      config: [
        {
          reference: NUMBERS,
          levels: Array.from({ length: DEEPEST + 1 }, (_, level) => ({
            level,
            format: LevelFormat.DECIMAL,
            text: `%${level + 1}.`,
            style: { paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } },
          })),
        },
      ],
    },
    sections: [{ children: doc.content.flatMap((node) => block(node, PLAIN, lists)) }],
  });
  return new Uint8Array(await Packer.toBuffer(file));
}

function block(node: Block, where: Where, lists: { made: number }): Child[] {
  switch (node.type) {
    case "paragraph":
      return [paragraph(inline(node.content), where)];
    case "heading":
      return [
        new Paragraph({ heading: HEADINGS[node.attrs.level - 1], children: inline(node.content) }),
      ];
    case "horizontalRule":
      return [new Paragraph({ thematicBreak: true })];
    case "picture":
      return [paragraph([new TextRun(`[${node.attrs.alt || "picture"}]`)], where)];
    case "file":
      return [paragraph([new TextRun(sayFileInText(node.attrs))], where)];
    case "linkCard": {
      const words = inline(node.content);
      const children = words.length > 0 ? words : [new TextRun(node.attrs.href)];
      return [paragraph([new ExternalHyperlink({ link: node.attrs.href, children })], where)];
    }
    case "table":
      return [table(node.content, lists)];
    case "bulletList":
      return items(node.content, { ...where, list: deeper(where, null) }, lists);
    case "orderedList": {
      lists.made += 1;
      return items(node.content, { ...where, list: deeper(where, lists.made) }, lists);
    }
    case "blockquote":
      return items(node.content, { ...where, quoted: where.quoted + 1 }, lists);
    default:
      return items(node.content, where, lists);
  }
}

const deeper = ({ list }: Where, ordered: number | null): Where["list"] => ({
  ordered,
  level: Math.min(DEEPEST, list ? list.level + 1 : 0),
});

const items = (content: readonly Block[], where: Where, lists: { made: number }): Child[] =>
  content.flatMap((node) => block(node, where, lists));

function paragraph(children: ParagraphChild[], { list, quoted }: Where): Paragraph {
  if (!list)
    return new Paragraph({ children, ...(quoted ? { indent: { left: 500 * quoted } } : {}) });
  const { level, ordered } = list;
  return ordered === null
    ? new Paragraph({ children, bullet: { level } })
    : new Paragraph({ children, numbering: { reference: NUMBERS, level, instance: ordered } });
}

function table(rows: readonly Block[], lists: { made: number }): Table {
  return new Table({
    rows: rows.map(
      (row) =>
        new TableRow({
          children: ("content" in row ? (row.content as Block[]) : []).map((cell) =>
            tableCell(cell, lists),
          ),
        }),
    ),
  });
}

function tableCell(cell: Block, lists: { made: number }): TableCell {
  const { attrs, content } = cell as Extract<Block, { attrs: { colspan: number } }>;
  const children = items(content, PLAIN, lists);
  return new TableCell({
    columnSpan: attrs.colspan,
    rowSpan: attrs.rowspan,
    // A cell without a paragraph is not one that a word processor opens.
    children: children.length > 0 ? children : [new Paragraph({})],
  });
}

const inline = (content: readonly Inline[] = []): ParagraphChild[] =>
  content.map((node) => (node.type === "hardBreak" ? new TextRun({ break: 1 }) : run(node)));

function run({ text, marks = [] }: TextNode): ParagraphChild {
  const is = (type: string) => marks.some((mark) => mark.type === type);
  const made = new TextRun({
    text,
    bold: is("bold"),
    italics: is("italic"),
    ...(is("underline") ? { underline: {} } : {}),
  });
  const link = marks.find((mark) => mark.type === "link");
  return link?.type === "link"
    ? new ExternalHyperlink({ link: link.attrs.href, children: [made] })
    : made;
}
