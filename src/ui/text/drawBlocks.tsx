import { Fragment, type ReactNode } from "react";
import { hostOf, type Block, type Inline, type Mark as Style } from "@/core/text/richDoc";
import { FileHere } from "./FileHere";

/** Writes the words of one line after the other, in the order of the document. */
export type LineWriter = {
  line(content: readonly Inline[] | undefined): ReactNode;
  /** What is to stand before the next line and is no part of the document, in a shape that fits there. */
  between?(within: Within): ReactNode;
};
export type Within = Block["type"] | "doc";

/** The blocks of a document in their shape; what stands in their lines is the writer's. */
export function drawBlocks(
  blocks: readonly Block[],
  within: Within,
  writer: LineWriter,
): ReactNode[] {
  return blocks.map((block, n) => (
    <Fragment key={n}>
      {writer.between?.(within)}
      {drawBlock(block, writer)}
    </Fragment>
  ));
}

function drawBlock(block: Block, writer: LineWriter): ReactNode {
  switch (block.type) {
    case "horizontalRule":
      return <hr />;
    case "paragraph":
      return <p>{writer.line(block.content)}</p>;
    case "heading": {
      // The page has a heading of its own above the writing.
      const Heading = `h${block.attrs.level + 1}` as "h2" | "h3" | "h4";
      return <Heading>{writer.line(block.content)}</Heading>;
    }
    case "picture":
      return (
        // eslint-disable-next-line @next/next/no-img-element
        <img
          src={`/api/uploads/${block.attrs.upload}`}
          alt={block.attrs.alt}
          className="my-3 max-h-96 w-auto max-w-full"
        />
      );
    case "file":
      return <FileHere attrs={block.attrs} />;
    case "linkCard":
      return (
        <p className="link-card" data-host={hostOf(block.attrs.href)}>
          <a href={block.attrs.href} rel="noopener noreferrer nofollow" target="_blank">
            {writer.line(block.content)}
          </a>
        </p>
      );
    case "orderedList":
      return <ol start={block.attrs.start}>{drawBlocks(block.content, "orderedList", writer)}</ol>;
    case "table":
      return (
        <table>
          <tbody>{drawBlocks(block.content, "table", writer)}</tbody>
        </table>
      );
    case "tableCell":
    case "tableHeader": {
      const Cell = block.type === "tableCell" ? "td" : "th";
      return (
        <Cell colSpan={block.attrs.colspan} rowSpan={block.attrs.rowspan}>
          {drawBlocks(block.content, block.type, writer)}
        </Cell>
      );
    }
    default: {
      const Tag = { bulletList: "ul", listItem: "li", blockquote: "blockquote", tableRow: "tr" }[
        block.type
      ] as "ul";
      return <Tag>{drawBlocks(block.content, block.type, writer)}</Tag>;
    }
  }
}

export function styled(node: ReactNode, styles: readonly Style[]): ReactNode {
  return styles.reduce((inner, style) => {
    switch (style.type) {
      case "bold":
        return <strong>{inner}</strong>;
      case "italic":
        return <em>{inner}</em>;
      case "underline":
        return <u>{inner}</u>;
      case "link":
        return (
          <a href={style.attrs.href} rel="noopener noreferrer nofollow" target="_blank">
            {inner}
          </a>
        );
    }
  }, node);
}
