"use client";

import { useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from "react";
import { isEdit } from "@/core/marks/mark";
import type { Range } from "@/core/text/selectors";
import type { CommentView, DeskPiece, DraftMark } from "@/core/views/views";
import { isBlank } from "@/core/text/plainText";
import { picturesOf } from "@/core/text/richDoc";
import { Compared, sayComparison } from "../text/Compared";
import { RichText, type DrawnMark } from "../text/RichText";
import { selectedRange, selectRange } from "../text/selection";
import { useMargin } from "../text/useMargin";
import { Button } from "../kit/Button";
import { Empty, Notice } from "../kit/Notice";
import { Composer, type Composing } from "./Composer";
import { EarlierCard, NoteCard, sayMark } from "./NoteCard";
import type { Desk } from "./useDeskPiece";

/** The work with its margin, in one sheet. */
export function DeskSheet(props: {
  desk: Desk;
  piece: DeskPiece;
  bank: readonly CommentView[];
  sheetRef: RefObject<HTMLDivElement | null>;
  selection: Range | null;
  onSelect: (range: Range | null) => void;
  composing: Composing | null;
  onComposed: () => void;
  comparing: boolean;
  onCompare: () => void;
}) {
  const { desk, piece, bank, sheetRef, onSelect, composing, comparing } = props;
  const marginRef = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const drawn = useMemo(() => drawnMarks(piece), [piece]);
  const composingMark: DrawnMark[] = composing ? [{ id: "composing", kind: "note", tone: "note", start: composing.start, end: Math.max(composing.end, composing.start + (composing.kind === "insert" ? 0 : 1)), replacement: "", label: "new mark" }] : [];
  // Ticks and crosses say all they have to say on the words themselves.
  const notes = piece.marks.filter((mark) => (mark.kind !== "tick" && mark.kind !== "cross") || mark.id === chosen);
  const earlier = piece.earlier.filter((mark) => mark.kind !== "tick" && mark.kind !== "cross" && mark.ruling !== "again");
  const ids = [...earlier.map((m) => m.id), ...notes.map((m) => m.id), ...(composing ? ["composing"] : [])];
  const { tops, height } = useMargin(sheetRef, marginRef, ids, undefined, `${piece.id} ${comparing} ${chosen}`);

  useEffect(() => {
    const listen = () => {
      if (!sheetRef.current || document.activeElement?.closest("[data-composer], textarea, input")) return;
      const range = selectedRange(sheetRef.current);
      if (range) onSelect(range);
    };
    document.addEventListener("selectionchange", listen);
    return () => document.removeEventListener("selectionchange", listen);
  }, [onSelect, sheetRef]);

  // Drawing a mark replaces the text nodes it stands on, and the browser drops the selection with them.
  const chosenWords = useRef(props.selection);
  useEffect(() => {
    chosenWords.current = props.selection;
  }, [props.selection]);
  useLayoutEffect(() => {
    const words = chosenWords.current;
    const sheet = sheetRef.current;
    if (sheet && words && words.end > words.start && document.activeElement === sheet) selectRange(sheet, words);
  }, [piece.marks, sheetRef]);

  if (!piece.doc) return <NothingIn piece={piece} />;
  // Files or answers alone: they stand below, and there are no words to mark.
  if (isBlank(piece.doc) && picturesOf(piece.doc).length === 0) return null;
  // Not `visibility`: what is hidden cannot take the focus, and the composer must have it at once.
  const place = (id: string) => ({ top: tops.get(id) ?? 0, opacity: tops.has(id) ? 1 : 0 });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]">
      <div>
        {piece.comparison ? (
          <p className="mb-4 flex flex-wrap items-baseline gap-x-3 border-b border-line pb-2 text-sm text-soft">
            <span>
              Since round {piece.round - 1}: {sayComparison(piece.comparison)}
            </span>
            <Button small ink="quiet" aria-pressed={comparing} onClick={props.onCompare}>
              {comparing ? "Show the text with its marks" : "Show what changed"} (c)
            </Button>
          </p>
        ) : null}
        <div ref={sheetRef} tabIndex={0} role="region" aria-label={`${piece.student}’s work`} className="outline-offset-8" data-sheet>
          {comparing && piece.comparison ? <Compared comparison={piece.comparison} /> : <RichText doc={piece.doc} marks={[...drawn, ...composingMark]} chosen={composing ? "composing" : chosen} onMark={setChosen} />}
        </div>
      </div>
      <div ref={marginRef} className="relative max-lg:mt-6 max-lg:space-y-3" style={{ minHeight: height }} aria-label="Margin" role="complementary">
        {earlier.map((mark) => (
          <div key={mark.id} data-note={mark.id} className="lg:absolute lg:inset-x-0" style={place(mark.id)}>
            <EarlierCard mark={mark} chosen={chosen === mark.id} onRule={(ruling) => void desk.rule(mark.id, ruling)} onChoose={() => setChosen(mark.id)} />
          </div>
        ))}
        {notes.map((mark) => (
          <div key={mark.id} data-note={mark.id} className="lg:absolute lg:inset-x-0" style={place(mark.id)}>
            <NoteCard mark={mark} chosen={chosen === mark.id} bank={bank} called={piece.called} title={piece.title} onChange={(m, given) => void desk.change(m, given)} onDelete={(m) => void desk.removeMark(m)} onChoose={() => setChosen(mark.id)} />
          </div>
        ))}
        {composing ? (
          <div data-note="composing" className="z-20 lg:absolute lg:inset-x-0" style={place("composing")}>
            <Composer
              key={`${composing.kind} ${composing.start} ${composing.end}`}
              composing={composing}
              bank={bank}
              called={piece.called}
              title={piece.title}
              onDrop={props.onComposed}
              onKeep={(mark) => {
                void desk.add(mark, composing.quote);
                props.onComposed();
              }}
            />
          </div>
        ) : null}
      </div>
    </div>
  );
}

function NothingIn({ piece }: { piece: DeskPiece }) {
  if (piece.unfinishedDoc) {
    return (
      <section aria-label="Unfinished work" className="max-w-[42rem]">
        <Notice ink="tide" className="mb-4">
          Not handed in yet: {piece.unfinished}. {piece.called} knows that you may read along. Marks wait for the hand-in; a word in the thread does not.
        </Notice>
        <RichText doc={piece.unfinishedDoc} />
      </section>
    );
  }
  if (piece.unfinished) return <Empty title="Not handed in yet">{piece.unfinished}. You can still write an overall note or a score.</Empty>;
  return <Empty title={piece.moon.state === "not_opened" ? "Not opened yet" : "Nothing is handed in"}>You can still write an overall note or a score, for work on paper or a talk in class.</Empty>;
}

function drawnMarks(piece: DeskPiece): DrawnMark[] {
  const earlier = piece.earlier
    .filter((m) => m.at !== null && m.kind === "note" && m.ruling !== "again")
    .map((m): DrawnMark => ({ id: m.id, kind: "note", tone: m.ruling === "settled" || m.request === "done" || m.nature === "remark" ? "settled" : "request", start: m.at!.start, end: m.at!.end, replacement: "", label: `round ${m.round}: ${m.body}` }));
  return [...earlier, ...piece.marks.map(toDrawn)];
}

function toDrawn(mark: DraftMark): DrawnMark {
  return { id: mark.id, kind: mark.kind, tone: mark.nature === "request" ? "request" : "note", start: mark.start, end: mark.end, replacement: mark.replacement, label: [isEdit(mark) ? sayMark(mark) : "", mark.body].filter(Boolean).join(" ") || mark.kind };
}
