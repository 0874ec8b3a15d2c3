import { Fragment, memo, type ReactNode } from "react";
import { isStamp, STAMP_SIGNS } from "@/core/marks/mark";
import type { Ink } from "@/core/marks/place";
import { type MarkKind } from "@/core/marks/schema";
import type { Inline, Mark as Style, RichDoc } from "@/core/text/richDoc";
import { classes } from "../kit/classes";
import { noteInk } from "../marks/noteInk";
import { drawBlocks, styled, type LineWriter } from "./drawBlocks";

/** A mark as it is drawn on words. */
export type DrawnMark = {
  id: string;
  kind: MarkKind;
  tone: "note" | "request" | "settled" | "praise";
  /** The text of an own stamp. */ body?: string;
  start: number;
  end: number;
  replacement: string;
  /** Its own ink. */ ink?: Ink | null;
  label: string;
};

/**
 * A document as it was handed in, with marks drawn on its words. Built from the tree, never from HTML.
 * Each run of text knows its offset in the plain text (`data-at`), so that a selection on the page can
 * be read back as a range; signs that the program adds are not part of the text.
 */
export const RichText = memo(function RichText({
  doc,
  marks = NONE,
  chosen = null,
  onMark,
}: {
  doc: RichDoc;
  marks?: readonly DrawnMark[];
  chosen?: string | null;
  onMark?: (id: string) => void;
}) {
  const writer = new Writer(marks, chosen, onMark);
  return <div className="writing">{drawBlocks(doc.content, "doc", writer)}</div>;
});
const NONE: readonly DrawnMark[] = [];

class Writer implements LineWriter {
  private offset = 0;
  private lines = 0;
  constructor(
    private readonly marks: readonly DrawnMark[],
    private readonly chosen: string | null,
    private readonly onMark: ((id: string) => void) | undefined,
  ) {}

  line(content: readonly Inline[] | undefined): ReactNode {
    if (this.lines++ > 0) this.offset += 1;
    const start = this.offset;
    const nodes = (content ?? []).map((node, n) => {
      if (node.type === "hardBreak") {
        this.offset += 1;
        return <br key={n} />;
      }
      const at = this.offset;
      this.offset += node.text.length;
      return <Fragment key={n}>{this.run(node.text, at, node.marks ?? [])}</Fragment>;
    });
    return (
      <>
        {this.caretsAt(start)}
        {nodes.length > 0 ? nodes : <span data-at={start}>{"\u200b"}</span>}
      </>
    );
  }

  /** One run of text, cut wherever a mark begins or ends. */
  private run(text: string, at: number, styles: readonly Style[]): ReactNode {
    const end = at + text.length;
    const cuts = new Set([at, end]);
    for (const mark of this.marks)
      for (const edge of [mark.start, mark.end]) if (edge > at && edge < end) cuts.add(edge);
    const edges = [...cuts].sort((a, b) => a - b);
    return edges.slice(0, -1).map((from, n) => {
      const to = edges[n + 1]!;
      const over = this.marks.filter((m) => m.start < to && m.end > from);
      const span = <span data-at={from}>{text.slice(from - at, to - at)}</span>;
      return (
        <Fragment key={from}>
          {styled(this.marked(span, over), styles)}
          {over.filter((m) => m.end === to).map((m) => this.signAfter(m))}
          {this.caretsAt(to)}
        </Fragment>
      );
    });
  }

  private marked(span: ReactNode, over: readonly DrawnMark[]): ReactNode {
    if (over.length === 0) return span;
    const top =
      over.find((m) => m.id === this.chosen) ??
      [...over].sort((a, b) => a.end - a.start - (b.end - b.start))[0]!;
    const names = over.map((m) =>
      classes(
        m.kind === "note" ? `on-${m.tone}` : `on-${m.kind}`,
        noteInk(m.ink),
        m.id === this.chosen && "on-chosen",
      ),
    );
    return (
      <mark
        data-mark={top.id}
        className={classes("on-words", ...names)}
        title={over.map((m) => m.label).join(" · ")}
        onClick={() => this.onMark?.(top.id)}
      >
        {span}
      </mark>
    );
  }

  private signAfter(mark: DrawnMark): ReactNode {
    if (isStamp(mark)) {
      return (
        <span
          key={mark.id}
          data-mark={mark.id}
          className={`sign sign-${mark.kind}`}
          role="img"
          aria-label={mark.kind === "stamp" ? `stamp: ${mark.body}` : STAMP_SIGNS[mark.kind]!.words}
          onClick={() => this.onMark?.(mark.id)}
        >
          {mark.kind === "stamp" ? mark.body : STAMP_SIGNS[mark.kind]!.sign}
        </span>
      );
    }
    // The sign after the words says it again for those who do not see the line: ISO 5776, usual proof-correction marks.
    if (mark.kind === "transpose" || mark.kind === "delete") {
      return (
        <span
          key={mark.id}
          className={`sign sign-${mark.kind}`}
          role="img"
          aria-label={mark.label}
          title={mark.label}
          onClick={() => this.onMark?.(mark.id)}
        >
          {mark.kind === "transpose" ? "∽" : "⌿"}
        </span>
      );
    }
    if (mark.kind === "replace") return this.inserted(mark);
    return null;
  }

  private caretsAt(at: number): ReactNode {
    return this.marks
      .filter((m) => m.kind === "insert" && m.start === at)
      .map((m) => this.inserted(m));
  }

  private inserted(mark: DrawnMark): ReactNode {
    return (
      <span
        key={mark.id}
        data-mark={mark.id}
        className={classes("sign sign-insert", mark.id === this.chosen && "on-chosen")}
        title={mark.label}
        onClick={() => this.onMark?.(mark.id)}
      >
        <span aria-hidden="true">‸</span>
        {mark.replacement}
      </span>
    );
  }
}
