import { Fragment, type ReactNode } from "react";
import type { Change, ComparedLine, Comparison } from "@/core/text/compare";
import type { Inline, Mark as Style, RichDoc } from "@/core/text/richDoc";
import { sayCount } from "@/core/text/sayCount";
import { drawBlocks, styled, type LineWriter, type Within } from "./drawBlocks";

const WORDS: Readonly<Record<ComparedLine["kind"], string>> = {
  same: "",
  changed: "",
  inserted: "new",
  deleted: "taken out",
  moved: "moved here",
  merged: "made one",
  split: "parted here",
};

/**
 * What changed between two versions, in the shape of the later one: its headings, lists, tables and bold words as
 * they are, what came and went in its lines, what moved named as such, and lines that are gone where they stood.
 *
 * @param doc the later version; `comparison` is of its plain text
 */
export function Compared({ comparison, doc }: { comparison: Comparison; doc: RichDoc }) {
  const writer = new ComparedWriter(comparison);
  return (
    <div className="writing compared">
      {drawBlocks(doc.content, "doc", writer)}
      {writer.between("doc", Infinity)}
    </div>
  );
}

/** A change and where it stands in the later text; what is deleted takes no room there. */
type Placed = Change & { start: number; end: number };

class ComparedWriter implements LineWriter {
  private offset = 0;
  private lines = 0;
  private within: Within = "doc";
  private readonly kinds: ReadonlyMap<number, ComparedLine["kind"]>;
  private readonly placed: readonly Placed[];
  private readonly gone: readonly ComparedLine[];
  private nextGone = 0;
  private nextPlaced = 0;

  constructor({ lines }: Comparison) {
    const there = lines.filter((line) => line.kind !== "deleted");
    this.gone = lines.filter((line) => line.kind === "deleted");
    this.kinds = new Map(there.map((line) => [line.at, line.kind]));
    this.placed = there.flatMap(placedChanges);
  }

  between(within: Within, before = this.nextLine()): ReactNode {
    // A cell that was corrected shows both numbers in one cell, so that rows keep their columns.
    if (within === "tableRow") return null;
    this.within = within;
    const from = this.nextGone;
    while (this.nextGone < this.gone.length && this.gone[this.nextGone]!.at < before)
      this.nextGone += 1;
    const lines = this.gone.slice(from, this.nextGone).map(wordsOf);
    return lines.length > 0 ? <Gone lines={lines} within={within} /> : null;
  }

  line(content: readonly Inline[] | undefined): ReactNode {
    this.offset = this.nextLine();
    this.lines += 1;
    const nodes = (content ?? []).map((node, n) => {
      const at = this.offset;
      if (node.type === "hardBreak") {
        this.offset += 1;
        return (
          <Fragment key={n}>
            {this.changes(at, at, [])}
            <br />
          </Fragment>
        );
      }
      this.offset += node.text.length;
      return <Fragment key={n}>{this.run(node.text, at, node.marks ?? [])}</Fragment>;
    });
    return (
      <>
        {nodes}
        {this.changes(this.offset, this.offset, [])}
      </>
    );
  }

  private nextLine(): number {
    return this.lines > 0 ? this.offset + 1 : this.offset;
  }

  private run(text: string, at: number, styles: readonly Style[]): ReactNode {
    return (
      <>
        {this.label(at)}
        {this.changes(at, at + text.length, styles)}
      </>
    );
  }

  /** The changes that begin or go on between two places, cut there; those that end behind stay for what follows. */
  private changes(start: number, end: number, styles: readonly Style[]): ReactNode[] {
    const drawn: ReactNode[] = [];
    for (let placed = this.placed[this.nextPlaced]; placed; placed = this.placed[this.nextPlaced]) {
      if (placed.start > end || (placed.start === end && placed.end > end)) break;
      const text = this.part(placed, start, end);
      if (text !== "") drawn.push(drawChange(placed.kind, text, styles, drawn.length));
      if (placed.end > end) break;
      this.nextPlaced += 1;
    }
    return drawn;
  }

  private part({ kind, text, start, end }: Placed, from: number, to: number): string {
    if (kind === "deleted") return text;
    return text.slice(Math.max(0, from - start), Math.min(end, to) - start);
  }

  private label(at: number): ReactNode {
    const words = WORDS[this.kinds.get(at) ?? "same"];
    // In a table each new cell would say so; its words are underlined as new.
    const cell = this.within === "tableCell" || this.within === "tableHeader";
    return words && !(cell && words === WORDS.inserted) ? (
      <span className="label mr-2 font-sans">{words}</span>
    ) : null;
  }
}

function placedChanges(line: ComparedLine): Placed[] {
  let at = line.at;
  return line.changes.map((change) => {
    const start = at;
    if (change.kind !== "deleted") at += change.text.length;
    return { ...change, start, end: at };
  });
}

const wordsOf = (line: ComparedLine): string => line.changes.map((change) => change.text).join("");

function drawChange(kind: Change["kind"], text: string, styles: readonly Style[], key: number) {
  switch (kind) {
    case "inserted":
      return <ins key={key}>{styled(text, styles)}</ins>;
    case "deleted":
      return <del key={key}>{text}</del>;
    case "moved":
      return (
        <span key={key} className="came" title="moved here">
          <span className="label mr-1 font-sans">moved here</span>
          {styled(text, styles)}
        </span>
      );
    default:
      return <Fragment key={key}>{styled(text, styles)}</Fragment>;
  }
}

/** Lines that are gone, in a shape that may stand where they stood. */
function Gone({ lines, within }: { lines: readonly string[]; within: Within }) {
  const label = <span className="label mr-2 font-sans">{WORDS.deleted}</span>;
  if (within === "table")
    return (
      <tr>
        {lines.map((words, n) => (
          <td key={n}>
            <del>{words}</del>
          </td>
        ))}
      </tr>
    );
  const Tag = within === "bulletList" || within === "orderedList" ? "li" : "p";
  const cell = within === "tableCell" || within === "tableHeader";
  return lines.map((words, n) => (
    <Tag key={n}>
      {cell ? null : label}
      <del>{words}</del>
    </Tag>
  ));
}

/** How many words came and went, and what else happened; for one line above the comparison. */
export function sayComparison({ wordsInserted, wordsDeleted, lines, coarse }: Comparison): string {
  const count = (kind: ComparedLine["kind"]) => lines.filter((line) => line.kind === kind).length;
  const moves = lines.reduce(
    (sum, line) => sum + line.changes.filter((change) => change.kind === "moved").length,
    0,
  );
  const also = [
    [count("moved"), "paragraph", "moved"],
    [moves, "passage", "moved"],
    [count("merged"), "paragraph", "made of several"],
    [count("split"), "paragraph", "parted"],
  ] as const;
  return [
    `${sayCount(wordsInserted, "word")} in`,
    `${wordsDeleted} out`,
    ...also.flatMap(([n, what, how]) => (n > 0 ? [`${sayCount(n, what)} ${how}`] : [])),
    ...(coarse ? ["compared by paragraphs where too much has changed to compare words"] : []),
  ].join(", ");
}
