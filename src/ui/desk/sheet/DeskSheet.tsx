"use client";

import { useCallback, useEffect, useEffectEvent, useLayoutEffect, useMemo } from "react";
import { isStamp } from "@/core/marks/mark";
import { itemOf, type Place, type Stroke } from "@/core/marks/place";
import { isEmptyDoc } from "@/core/text/plainText";
import type { DeskPiece, DraftMark } from "@/core/views/deskViews";
import { FilesSince } from "../beside/FilesSince";
import { Button } from "../../kit/Button";
import { numbersOf } from "../../marks/drawn";
import { Compared, sayComparison } from "../../text/Compared";
import { FilesHere } from "../../text/FileHere";
import { RichText } from "../../text/RichText";
import { selectedRange, selectRange } from "../../text/selection";
import { usePieceOnDesk } from "../model";
import type { DeskSession } from "../store/DeskSession";
import { DeskParts } from "./DeskParts";
import { drawnMarks, placedMarks } from "./drawnHere";
import { kindKey } from "./kinds";
import { Margin } from "./Margin";
import { MarkedItem, type PlaceActs } from "./MarkedItem";
import { NothingIn } from "./NothingIn";
import { MarginEdge } from "./MarginEdge";
import { pickedOnPage } from "./pickWords";
import { SelectionTools } from "./SelectionTools";

const hasWriting = ({ doc }: DeskPiece) => doc !== null && !isEmptyDoc(doc);

/**
 * How wide the work and its notes are: where there is writing its lines are as long as one can read, and what it is
 * about begins beside them.
 */
export function widthsOf(piece: DeskPiece, margin: number | null): React.CSSProperties {
  const wide = piece.items.length > 0 && !hasWriting(piece);
  return {
    "--sheet": wide ? "56rem" : "42rem",
    ...(margin ? { "--margin": `${margin}px` } : {}),
  } as React.CSSProperties;
}

/** The work in all its kinds with its margin, in one sheet. */
export function DeskSheet() {
  const { session, view, marking, piece } = usePieceOnDesk();
  const { composing, chosen } = marking;
  const shown = useMemo(
    () => piece.marks.filter((m) => !view.hidden.has(kindKey(m))),
    [piece.marks, view.hidden],
  );
  const placed = useMemo(() => placedMarks(piece, shown, composing), [piece, shown, composing]);
  const numbers = useMemo(() => numbersOf(placed), [placed]);
  const acts = useMemo(() => actsOn(session), [session]);
  useSelection(session);
  useKeptSelection(session, piece.marks);
  const putIn = useMemo(
    () =>
      piece.points === null
        ? null
        : (points: string) =>
            session.feedbackOf(piece).change((old) => ({ ...old, score: points })),
    [session, piece],
  );
  const drawFile = useCallback(
    (id: string) => {
      const item = piece.items.find((one) => one.id === id);
      return item ? (
        <MarkedItem
          item={item}
          marks={placed.filter((m) => itemOf(m.place) === id)}
          numbers={numbers}
          tool={view.tool}
          chosen={composing ? "composing" : chosen}
          zoom={view.zoom}
          acts={acts}
        />
      ) : null;
    },
    [piece.items, placed, numbers, view.tool, view.zoom, composing, chosen, acts],
  );
  return (
    <div className="desk-sheet">
      <div ref={session.port("sheet")} className="relative min-w-0">
        <SelectionTools />
        <SinceLastRound />
        {hasWriting(piece) ? (
          <FilesHere value={drawFile}>
            <Writing shown={shown} />
          </FilesHere>
        ) : null}
        {piece.doc === null ? <NothingIn piece={piece} /> : null}
        <DeskParts
          piece={piece}
          placed={placed}
          numbers={numbers}
          tool={view.tool}
          chosen={composing ? "composing" : chosen}
          zoom={view.zoom}
          acts={acts}
          onScore={putIn}
        />
      </div>
      <MarginEdge />
      <Margin shown={shown} numbers={numbers} isNote={isNote(chosen)} />
    </div>
  );
}

/** Stamps and ink say all they have to say where they are. */
const isNote = (chosen: string | null) => (mark: DraftMark) =>
  (!isStamp(mark) && (mark.kind !== "ink" || mark.body !== "")) || mark.id === chosen;

function SinceLastRound() {
  const { view, piece, run } = usePieceOnDesk();
  if (!piece.comparison) return null;
  return (
    <div className="mb-4 flex flex-wrap items-baseline gap-x-3 border-b border-line pb-2 text-sm text-soft">
      <span>
        Since round {piece.round - 1}: {sayComparison(piece.comparison)}
      </span>
      <Button small ink="quiet" aria-pressed={view.comparing} onClick={() => run("compare")}>
        {view.comparing ? "Show the text with its marks" : "Show what changed"} (c)
      </Button>
      <FilesSince piece={piece} />
    </div>
  );
}

function Writing({ shown }: { shown: readonly DraftMark[] }) {
  const { session, view, marking, piece } = usePieceOnDesk();
  const { composing, chosen } = marking;
  const drawn = useMemo(() => drawnMarks(piece, shown, composing), [piece, shown, composing]);
  return (
    <div
      ref={session.port("writing")}
      tabIndex={0}
      role="region"
      aria-label={`${piece.student}’s work`}
      className="max-w-[42rem] outline-offset-8"
      data-sheet
    >
      {view.comparing && piece.comparison ? (
        <Compared comparison={piece.comparison} doc={piece.doc!} />
      ) : (
        <RichText
          doc={piece.doc!}
          marks={drawn}
          chosen={composing ? "composing" : chosen}
          onMark={session.marking.choose}
        />
      )}
    </div>
  );
}

/** What hands do on pages and pictures; the same functions for as long as the Desk is there. */
function actsOn(session: DeskSession): PlaceActs {
  const mark = (id: string) =>
    session.store.getState().piece?.marks.find((m) => m.id === id) ?? null;
  return {
    onPlace: (place: Place) => session.marking.placed(place, session.getState().tool),
    onInk: (place: Place, strokes: Stroke[]) =>
      session.marking.placed(place, session.getState().tool, strokes),
    onErase(markId: string, strokes: Stroke[]) {
      const erased = mark(markId);
      if (erased && strokes.length === 0) session.store.removeMark(erased);
      else if (erased) session.store.change(erased, { strokes });
    },
    onMove(markId: string, place: Place, strokes: Stroke[]) {
      const moved = mark(markId);
      if (moved) session.store.change(moved, strokes.length > 0 ? { place, strokes } : { place });
    },
    onChoose: (id: string) => session.marking.choose(id),
    onBrought: () => void session.store.load(),
  };
}

/** What is selected on the sheet, by hand or by key. */
function useSelection(session: DeskSession): void {
  const look = useEffectEvent(() => {
    if (document.activeElement?.closest("[data-composer], textarea, input, [data-selection-tools]"))
      return;
    const { marking } = session;
    const writing = session.at("writing");
    const range = writing && selectedRange(writing);
    if (range) {
      const quote = marking.text.slice(range.start, range.end);
      return marking.pick({ on: "text", ...range, quote });
    }
    const sheet = session.at("sheet");
    const onPage = sheet && pickedOnPage(sheet);
    if (onPage) marking.pick(onPage);
  });
  useEffect(() => {
    const listen = () => look();
    document.addEventListener("selectionchange", listen);
    // What was selected while the page was still waking counts too.
    listen();
    return () => document.removeEventListener("selectionchange", listen);
  }, []);
}

/** Drawing a mark replaces the text nodes it stands on, and the browser drops the selection with them. */
function useKeptSelection(session: DeskSession, marks: readonly DraftMark[]): void {
  useLayoutEffect(() => {
    const { picked } = session.marking.getState();
    const writing = session.at("writing");
    if (!writing || picked?.on !== "text" || picked.end <= picked.start) return;
    if (document.activeElement === writing) selectRange(writing, picked);
  }, [session, marks]);
}
