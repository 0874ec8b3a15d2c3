"use client";

import { useCallback, useRef } from "react";
import { isStamp } from "@/core/marks/mark";
import { itemOf, type Place } from "@/core/marks/place";
import { sentenceAround } from "@/core/text/noteText";
import type { DraftMark, EarlierMark } from "@/core/views/deskViews";
import { selectRange } from "../../text/selection";
import { useMargin } from "../../text/useMargin";
import { usePieceOnDesk } from "../model";
import type { DeskSession } from "../store/DeskSession";
import type { NewMark } from "../store/PieceStore";
import { Composer } from "./Composer";
import { EarlierCard } from "./EarlierCard";
import { NoteCard } from "./NoteCard";

type Props = {
  shown: readonly DraftMark[];
  /** What stands on the pins. */
  numbers: ReadonlyMap<string, number>;
  isNote: (mark: DraftMark) => boolean;
};

const isOnWhole = ({ place }: { place: Place }) => place.on === "whole" && place.itemId === null;
const isEarlierNote = (mark: EarlierMark) =>
  !isStamp(mark) && mark.kind !== "ink" && mark.ruling !== "again";

/** The margin: notes level with what they are about, those of earlier rounds, and the one being written. */
export function Margin({ shown, numbers, isNote }: Props) {
  const { session, view, marking, piece, help } = usePieceOnDesk();
  const { composing, chosen, editing } = marking;
  const margin = useRef<HTMLDivElement>(null);
  const notes = shown.filter(isNote);
  const earlier = piece.earlier.filter(isEarlierNote);
  const all = [
    ...earlier,
    ...notes,
    ...(composing ? [{ id: "composing", place: composing.place }] : []),
  ];
  // A note on the whole stands at the head of the margin.
  const atTop = new Set(all.filter(isOnWhole).map((m) => m.id));
  const sheet = useCallback(() => session.at("sheet"), [session]);
  const { tops, height } = useMargin({
    sheet,
    margin,
    ids: all.map((m) => m.id),
    placeOf: (id) => (atTop.has(id) ? (sheet()?.getBoundingClientRect().top ?? null) : null),
    signal: `${piece.id} ${view.comparing} ${chosen} ${editing} ${view.zoom} ${view.folded}`,
  });
  // Not `visibility`: what is hidden cannot take the focus, and the composer must have it at once.
  const place = (id: string) => ({ top: tops.get(id) ?? 0, opacity: tops.has(id) ? 1 : 0 });
  return (
    <div
      ref={margin}
      className="relative max-md:mt-6 max-md:space-y-3"
      style={{ minHeight: height }}
      aria-label="Margin"
      role="complementary"
    >
      {earlier.map((mark) => (
        <div key={mark.id} data-note={mark.id} className={STANDS} style={place(mark.id)}>
          <EarlierCard
            mark={mark}
            number={numbers.get(mark.id)}
            chosen={chosen === mark.id}
            session={session}
          />
        </div>
      ))}
      {notes.map((mark) => (
        <div
          key={mark.id}
          data-note={mark.id}
          className={editing === mark.id ? ON_TOP : STANDS}
          style={place(mark.id)}
        >
          <NoteCard
            mark={mark}
            number={numbers.get(mark.id)}
            chosen={chosen === mark.id}
            editing={editing === mark.id}
            folded={view.folded}
            help={help}
            sentence={editing === mark.id ? sentenceOf(session, mark) : ""}
            session={session}
          />
        </div>
      ))}
      {composing ? (
        <div data-note="composing" className={ON_TOP} style={place("composing")}>
          <ComposerHere
            key={`${composing.kind} ${composing.start} ${composing.end} ${JSON.stringify(composing.place)}`}
          />
        </div>
      ) : null}
    </div>
  );
}

const STANDS = "md:absolute md:inset-x-0";
const ON_TOP = "z-20 md:absolute md:inset-x-0";

const sentenceOf = ({ marking }: DeskSession, mark: DraftMark): string =>
  mark.place.on === "text" ? sentenceAround(marking.text, mark) : "";

function ComposerHere() {
  const { session, marking, bank, help } = usePieceOnDesk();
  const composing = marking.composing!;
  /** Back to the words after a note was written, so that the next one can follow. */
  function done(given: NewMark | null) {
    const mark = session.marking.composed(given);
    if (mark) void session.store.whenKept(mark.id).then((kept) => kept && bank.noticed(kept));
    requestAnimationFrame(() => backToWork(session, composing.place));
  }
  return (
    <Composer
      composing={composing}
      help={help}
      onTyped={(begin, nature) => session.marking.typed({ begin, nature })}
      onDrop={() => done(null)}
      onKeep={done}
    />
  );
}

/** The surface that a place is on, of all that lie on the Desk. */
function surfaceOf(session: DeskSession, place: Place): HTMLElement | null {
  const sheet = session.at("sheet");
  const item = itemOf(place);
  const file = item === null ? null : sheet?.querySelector(`[data-item="${CSS.escape(item)}"]`);
  const page = place.on === "page" ? file?.querySelector(`[data-page="${place.page}"]`) : null;
  return (page ?? file ?? sheet)?.querySelector<HTMLElement>(".place-surface") ?? null;
}

function backToWork(session: DeskSession, place: Place): void {
  if (place.on !== "text") {
    return surfaceOf(session, place)?.focus({ preventScroll: true });
  }
  const writing = session.at("writing");
  const { picked } = session.marking.getState();
  writing?.focus({ preventScroll: true });
  if (writing && picked?.on === "text") selectRange(writing, picked);
}
