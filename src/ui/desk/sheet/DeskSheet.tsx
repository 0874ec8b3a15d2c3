"use client";

import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, type RefObject } from "react";
import { isEdit, isStamp, nameOfMark } from "@/core/marks/mark";
import type { Stroke, Place } from "@/core/marks/place";
import { isBlank, plainText } from "@/core/text/plainText";
import { picturesOf } from "@/core/text/richDoc";
import { sentenceAround } from "@/core/text/noteText";
import type { DeskPiece, DraftMark } from "@/core/views/views";
import { pointOn } from "../../marks/pointOn";
import { downThePage, numbersOf, sayWhole, toneOf, type PlacedMark } from "../../marks/drawn";
import { Compared, sayComparison } from "../../text/Compared";
import { RichText, type DrawnMark } from "../../text/RichText";
import { selectedRange, selectRange } from "../../text/selection";
import { useMargin } from "../../text/useMargin";
import { Button } from "../../kit/Button";
import { Empty, Notice } from "../../kit/Notice";
import type { Desk } from "../state/useDeskPiece";
import { Composer, type Composing } from "./Composer";
import { DeskParts } from "./DeskParts";
import { EarlierCard, NoteCard } from "./NoteCard";
import type { NoteHelp } from "./NoteFields";
import { pickedOnPage, type Picked } from "./pickWords";
import type { Tool } from "./tools";

/** Kinds of mark that can be shown or hidden, by what they are called. */
export const kindKey = (mark: Pick<DraftMark, "kind" | "place">): string =>
  isStamp(mark)
    ? "stamps"
    : mark.kind === "ink"
      ? "ink"
      : isEdit(mark)
        ? "edits"
        : nameOfMark(mark).startsWith("pin")
          ? "pins"
          : "notes";

type Props = {
  desk: Desk;
  piece: DeskPiece;
  help: NoteHelp;
  /** The writing alone, for stepping through its words. */
  writingRef: RefObject<HTMLDivElement | null>;
  /** Everything that marks stand on. */
  sheetRef: RefObject<HTMLDivElement | null>;
  picked: Picked | null;
  onPick: (picked: Picked | null) => void;
  composing: Composing | null;
  onComposed: (kept: Promise<DraftMark | null> | null) => void;
  onTyped: (composing: Composing) => void;
  onPlace: (place: Place, at?: { kind?: "stamp" | "ink"; strokes?: Stroke[] }) => void;
  chosen: string | null;
  onChoose: (id: string | null) => void;
  editing: string | null;
  onEdit: (id: string | null) => void;
  onKeep: (mark: DraftMark) => void;
  tool: Tool;
  zoom: number;
  hidden: ReadonlySet<string>;
  folded: boolean;
  comparing: boolean;
  onCompare: () => void;
  onScore: ((points: string) => void) | null;
  onDropped: (commentId: string, at: { text: number } | { place: Place }) => void;
};

/** The work in all its kinds with its margin, in one sheet. */
export function DeskSheet(props: Props) {
  const {
    desk,
    piece,
    help,
    writingRef,
    sheetRef,
    onPick,
    composing,
    comparing,
    chosen,
    onChoose,
    hidden,
  } = props;
  const marginRef = useRef<HTMLDivElement>(null);
  const text = useMemo(() => (piece.doc ? plainText(piece.doc).text : ""), [piece.doc]);
  const shown = useMemo(
    () => piece.marks.filter((m) => !hidden.has(kindKey(m))),
    [piece.marks, hidden],
  );
  const drawn = useMemo(() => drawnMarks(piece, shown, composing), [piece, shown, composing]);
  const placed = useMemo(() => placedMarks(piece, shown, composing), [piece, shown, composing]);
  const numbers = useMemo(() => numbersOf(placed), [placed]);
  const hasText = piece.doc !== null && !(isBlank(piece.doc) && picturesOf(piece.doc).length === 0);
  // Stamps and ink say all they have to say where they are.
  const notes = shown.filter(
    (mark) => (!isStamp(mark) && (mark.kind !== "ink" || mark.body !== "")) || mark.id === chosen,
  );
  const earlier = piece.earlier.filter(
    (mark) => !isStamp(mark) && mark.kind !== "ink" && mark.ruling !== "again",
  );
  const ids = [
    ...earlier.map((m) => m.id),
    ...notes.map((m) => m.id),
    ...(composing ? ["composing"] : []),
  ];
  // A note on the whole stands at the head of the margin.
  const isWhole = (p: Place) => p.on === "whole" && p.itemId === null;
  const atTop = new Set([
    ...notes.filter((m) => isWhole(m.place)).map((m) => m.id),
    ...earlier.filter((m) => isWhole(m.place)).map((m) => m.id),
    ...(composing && isWhole(composing.place) ? ["composing"] : []),
  ]);
  const { tops, height } = useMargin(
    sheetRef,
    marginRef,
    ids,
    (id) => (atTop.has(id) ? (sheetRef.current?.getBoundingClientRect().top ?? null) : null),
    `${piece.id} ${comparing} ${chosen} ${props.editing} ${props.zoom} ${props.folded}`,
  );

  useEffect(() => {
    const listen = () => {
      if (document.activeElement?.closest("[data-composer], textarea, input")) return;
      const range = writingRef.current ? selectedRange(writingRef.current) : null;
      if (range) return onPick({ on: "text", ...range, quote: text.slice(range.start, range.end) });
      const onPage = sheetRef.current ? pickedOnPage(sheetRef.current) : null;
      if (onPage) onPick(onPage);
    };
    document.addEventListener("selectionchange", listen);
    // What was selected while the page was still waking counts too.
    listen();
    return () => document.removeEventListener("selectionchange", listen);
  }, [onPick, sheetRef, text, writingRef]);

  // Drawing a mark replaces the text nodes it stands on, and the browser drops the selection with them.
  const pickedNow = useRef(props.picked);
  useEffect(() => {
    pickedNow.current = props.picked;
  }, [props.picked]);
  useLayoutEffect(() => {
    const words = pickedNow.current;
    const sheet = writingRef.current;
    if (
      sheet &&
      words?.on === "text" &&
      words.end > words.start &&
      document.activeElement === sheet
    )
      selectRange(sheet, words);
  }, [piece.marks, writingRef]);

  // Acts that change with every drawing, behind handlers that do not: a file with its pages is drawn anew only for its own sake.
  const latest = useRef({ ...props, choose: onChoose });
  useEffect(() => {
    latest.current = { ...props, choose: onChoose };
  });
  const acts = useMemo(
    () => ({
      onPlace: (place: Place) =>
        latest.current.onPlace(
          place,
          latest.current.tool.kind === "stamp" ? { kind: "stamp" } : undefined,
        ),
      onInk: (place: Place, strokes: Stroke[]) =>
        latest.current.onPlace(place, { kind: "ink", strokes }),
      onErase: (markId: string, strokes: Stroke[]) => {
        const mark = latest.current.piece.marks.find((m) => m.id === markId);
        if (mark)
          void (strokes.length === 0
            ? latest.current.desk.removeMark(mark)
            : latest.current.desk.change(mark, { strokes }));
      },
      onMove: (markId: string, place: Place, strokes: Stroke[]) => {
        const mark = latest.current.piece.marks.find((m) => m.id === markId);
        if (mark)
          void latest.current.desk.change(
            mark,
            strokes.length > 0 ? { place, strokes } : { place },
          );
      },
      onChoose: (id: string) => latest.current.choose(id),
      onBrought: () => void latest.current.desk.reload(),
    }),
    [],
  );
  const choose = useCallback((id: string) => latest.current.choose(id), []);
  const onChange = useCallback(
    (mark: DraftMark, given: Parameters<Desk["change"]>[1]) =>
      void latest.current.desk.change(mark, given),
    [],
  );
  const onDelete = useCallback((mark: DraftMark) => void latest.current.desk.removeMark(mark), []);
  const onKeepNote = useCallback((mark: DraftMark) => latest.current.onKeep(mark), []);
  const onEdit = useCallback((id: string | null) => latest.current.onEdit(id), []);

  // Not `visibility`: what is hidden cannot take the focus, and the composer must have it at once.
  const place = (id: string) => ({ top: tops.get(id) ?? 0, opacity: tops.has(id) ? 1 : 0 });
  const sentenceOf = (mark: DraftMark) =>
    mark.place.on === "text" ? sentenceAround(text, mark) : "";
  const nothing = piece.doc === null && piece.items.length === 0 && piece.sheets.length === 0;
  return (
    <div
      className={
        piece.items.length > 0
          ? "grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-[minmax(0,56rem)_minmax(14rem,20rem)]"
          : "grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]"
      }
    >
      <div
        ref={sheetRef}
        onDragOver={(event) =>
          event.dataTransfer.types.includes("text/x-comment") && event.preventDefault()
        }
        onDrop={(event) => drop(event, writingRef.current, props.onDropped)}
      >
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
        {nothing || (piece.doc === null && !hasText) ? <NothingIn piece={piece} /> : null}
        {hasText ? (
          <div
            ref={writingRef}
            tabIndex={0}
            role="region"
            aria-label={`${piece.student}’s work`}
            className="max-w-[42rem] outline-offset-8"
            data-sheet
          >
            {comparing && piece.comparison ? (
              <Compared comparison={piece.comparison} />
            ) : (
              <RichText
                doc={piece.doc!}
                marks={drawn}
                chosen={composing ? "composing" : chosen}
                onMark={choose}
              />
            )}
          </div>
        ) : null}
        <DeskParts
          piece={piece}
          placed={placed}
          numbers={numbers}
          tool={props.tool}
          chosen={composing ? "composing" : chosen}
          zoom={props.zoom}
          acts={acts}
          onScore={props.onScore}
        />
      </div>
      <div
        ref={marginRef}
        className="relative max-lg:mt-6 max-lg:space-y-3"
        style={{ minHeight: height }}
        aria-label="Margin"
        role="complementary"
      >
        {earlier.map((mark) => (
          <div
            key={mark.id}
            data-note={mark.id}
            className="lg:absolute lg:inset-x-0"
            style={place(mark.id)}
          >
            <EarlierCard
              mark={mark}
              number={numbers.get(mark.id)}
              chosen={chosen === mark.id}
              onRule={(ruling) => void desk.rule(mark.id, ruling)}
              onChoose={() => onChoose(mark.id)}
            />
          </div>
        ))}
        {notes.map((mark) => (
          <div
            key={mark.id}
            data-note={mark.id}
            className={
              props.editing === mark.id
                ? "z-20 lg:absolute lg:inset-x-0"
                : "lg:absolute lg:inset-x-0"
            }
            style={place(mark.id)}
          >
            <NoteCard
              mark={mark}
              number={numbers.get(mark.id)}
              chosen={chosen === mark.id}
              editing={props.editing === mark.id}
              onEdit={onEdit}
              help={help}
              sentence={props.editing === mark.id ? sentenceOf(mark) : ""}
              onChange={onChange}
              onDelete={onDelete}
              onKeep={onKeepNote}
              onChoose={choose}
              folded={props.folded}
            />
          </div>
        ))}
        {composing ? (
          <div
            data-note="composing"
            className="z-20 lg:absolute lg:inset-x-0"
            style={place("composing")}
          >
            <Composer
              key={`${composing.kind} ${composing.start} ${composing.end} ${JSON.stringify(composing.place)}`}
              composing={composing}
              help={help}
              onTyped={(begin, nature) => props.onTyped({ ...composing, begin, nature })}
              onDrop={() => props.onComposed(null)}
              onKeep={(mark) => props.onComposed(desk.add(mark))}
            />
          </div>
        ) : null}
      </div>
    </div>
  );
}

/** A comment let go over the work: on the word under the pointer, or on the place of the page or picture. */
function drop(
  event: React.DragEvent,
  writing: HTMLElement | null,
  onDropped: Props["onDropped"],
): void {
  const commentId = event.dataTransfer.getData("text/x-comment");
  if (!commentId) return;
  event.preventDefault();
  const target = event.target as HTMLElement;
  const surface = target.closest<HTMLElement>("[data-surface]");
  const itemId = target.closest<HTMLElement>("[data-item]")?.dataset.item;
  if (surface && itemId) {
    const [x, y] = pointOn(surface, event);
    const area = { x, y, w: 0, h: 0 };
    const page = surface.closest<HTMLElement>("[data-page]")?.dataset.page;
    return onDropped(commentId, {
      place: page
        ? { on: "page", itemId, page: Number(page), area, words: null }
        : { on: "picture", itemId, area },
    });
  }
  const caret = document.caretRangeFromPoint?.(event.clientX, event.clientY);
  const run = caret?.startContainer.parentElement?.closest<HTMLElement>("[data-at]");
  if (caret && run && writing?.contains(run))
    onDropped(commentId, { text: Number(run.dataset.at) + caret.startOffset });
}

function NothingIn({ piece }: { piece: DeskPiece }) {
  if (piece.unfinishedDoc) {
    return (
      <section aria-label="Unfinished work" className="max-w-[42rem]">
        <Notice ink="tide" className="mb-4">
          Not handed in yet: {piece.unfinished}. {piece.called || "The student"} knows that you may
          read along. Marks wait for the hand-in; a word in the thread does not.
        </Notice>
        <RichText doc={piece.unfinishedDoc} />
      </section>
    );
  }
  if (piece.unfinished)
    return (
      <Empty title="Not handed in yet">
        {piece.unfinished}. You can still write an overall note or a score.
      </Empty>
    );
  return (
    <Empty title={piece.moon.state === "not_opened" ? "Not opened yet" : "Nothing is handed in"}>
      You can still write an overall note or a score, for work on paper or a talk in class.
    </Empty>
  );
}

function drawnMarks(
  piece: DeskPiece,
  shown: readonly DraftMark[],
  composing: Composing | null,
): DrawnMark[] {
  const earlier = piece.earlier
    .filter((m) => m.at !== null && m.kind === "note" && m.ruling !== "again")
    .map((m): DrawnMark => ({
      id: m.id,
      kind: "note",
      tone:
        m.ruling === "settled" || m.request === "done" || m.nature !== "request"
          ? "settled"
          : "request",
      start: m.at!.start,
      end: m.at!.end,
      replacement: "",
      label: `round ${m.round}: ${m.body}`,
    }));
  const fresh: DrawnMark[] =
    composing?.place.on === "text"
      ? [
          {
            id: "composing",
            kind: "note",
            tone: "note",
            start: composing.start,
            end: Math.max(composing.end, composing.start + (composing.kind === "insert" ? 0 : 1)),
            replacement: "",
            label: "new mark",
          },
        ]
      : [];
  return [
    ...earlier,
    ...shown
      .filter((m) => m.place.on === "text")
      .map((m): DrawnMark => ({
        id: m.id,
        kind: m.kind,
        tone: toneOf(m),
        start: m.start,
        end: m.end,
        replacement: m.replacement,
        body: m.body,
        label: sayWhole(m),
      })),
    ...fresh,
  ];
}

function placedMarks(
  piece: DeskPiece,
  shown: readonly DraftMark[],
  composing: Composing | null,
): PlacedMark[] {
  const earlier = piece.earlier
    .filter((m) => m.place.on !== "text" && !m.gone && m.ruling !== "again")
    .map((m): PlacedMark => ({
      ...m,
      tone: m.request === "open" ? "request" : "settled",
      label: `round ${m.round}, ${sayWhole(m)}`,
      fixed: true,
    }));
  const own = shown
    .filter((m) => m.place.on !== "text")
    .map((m): PlacedMark => ({ ...m, tone: toneOf(m), label: sayWhole(m), fixed: false }));
  const fresh: PlacedMark[] =
    composing && composing.place.on !== "text"
      ? [
          {
            id: "composing",
            kind: "note",
            body: "",
            replacement: "",
            quote: "",
            place: composing.place,
            strokes: [],
            tone: "note",
            label: "new mark",
            fixed: true,
          },
        ]
      : [];
  return [...earlier, ...own, ...fresh].sort((a, b) => downThePage(a) - downThePage(b));
}
