"use client";

import { useMemo, useRef } from "react";
import { itemOf } from "@/core/marks/place";
import type { AnsweredMark, MessageView } from "@/core/views/views";
import type { ItemView } from "@/core/views/workViews";
import { ItemShown } from "../items/ItemShown";
import { placedMark } from "../marks/answered";
import { numbersOf, type PlacedMark } from "../marks/drawn";
import { MarkLayer } from "../marks/MarkLayer";
import { FrameLayer } from "../marks/FrameLayer";
import { TimeNotes } from "../marks/TimeNotes";
import { MarginOfPiece } from "./MarginOfPiece";

export type MarkActs = {
  onTick: (mark: AnsweredMark, done: boolean) => void;
  onDecide: (mark: AnsweredMark, decision: "accepted" | "declined" | null) => void;
};

/** A file with the marks that came back on it, to be looked at. */
export function MarkedFile({
  item,
  marks,
  numbers,
  chosen,
  onChoose,
}: {
  item: ItemView;
  marks: readonly PlacedMark[];
  numbers: ReadonlyMap<string, number>;
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const figure = useRef<HTMLDivElement>(null);
  const layer = (page: number | null, ratio: number) => (
    <MarkLayer
      marks={marks.filter((m) =>
        page === null ? m.place.on === "picture" : m.place.on === "page" && m.place.page === page,
      )}
      ratio={ratio}
      numbers={numbers}
      chosen={chosen}
      onChoose={onChoose}
    />
  );
  const moments = marks.filter((m) => m.place.on === "time");
  return (
    <div ref={figure}>
      <ItemShown
        item={item}
        layers={{
          page: (page, ratio) => layer(page, ratio),
          picture: (ratio) => layer(null, ratio),
          recording:
            moments.length > 0 ? (
              <TimeNotes
                marks={moments}
                chosen={chosen}
                onChoose={onChoose}
                seconds={item.seconds}
                acts={
                  <a
                    className="self-center text-sm"
                    href={`/api/items/${item.id}/notes`}
                    download="notes.vtt"
                  >
                    Notes as WebVTT
                  </a>
                }
              />
            ) : undefined,
          frame: (ratio) => (
            <FrameLayer
              marks={moments}
              ratio={ratio}
              numbers={numbers}
              chosen={chosen}
              onChoose={onChoose}
            />
          ),
        }}
      />
    </div>
  );
}

/**
 * The files that came back with marks, as they were handed in, with each mark beside its place: there while the
 * student works on the next round, whatever became of the files since.
 */
export function MarkedFiles({
  items,
  marks,
  pieceId,
  chosen,
  setChosen,
  acts,
  onReply,
}: {
  items: readonly ItemView[];
  chosen: string | null;
  setChosen: (id: string | null) => void;
  marks: readonly AnsweredMark[];
  pieceId: string;
  acts: MarkActs | null;
  onReply: (mark: AnsweredMark, message: MessageView) => void;
}) {
  const sheet = useRef<HTMLDivElement>(null);
  const placed = useMemo(() => marks.map(placedMark), [marks]);
  const numbers = useMemo(() => numbersOf(placed), [placed]);
  if (items.length === 0) return null;
  return (
    <section aria-label="What came back on my files" className="mb-8">
      <h2 className="mb-3 border-b border-line pb-1">What came back on your files</h2>
      <div className="relative grid gap-x-8 lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]">
        <div ref={sheet} className="min-w-0">
          {items.map((item) => (
            <MarkedFile
              key={item.id}
              item={item}
              marks={placed.filter((m) => itemOf(m.place) === item.id)}
              numbers={numbers}
              chosen={chosen}
              onChoose={setChosen}
            />
          ))}
        </div>
        <MarginOfPiece
          sheet={sheet}
          marks={marks}
          numbers={numbers}
          pieceId={pieceId}
          chosen={chosen}
          setChosen={setChosen}
          acts={acts}
          onReply={onReply}
          signal={chosen}
        />
      </div>
    </section>
  );
}
