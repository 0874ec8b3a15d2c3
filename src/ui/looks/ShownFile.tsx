"use client";

import { useState } from "react";
import type { Place } from "@/core/marks/place";
import type { ItemView } from "@/core/views/workViews";
import { PlaceSurface } from "../marks/PlaceSurface";
import { ItemShown } from "../items/ItemShown";
import { Button } from "../kit/Button";
import type { PlacedMark } from "../marks/drawn";
import { MarkLayer } from "../marks/MarkLayer";
import { TimeNotes } from "../marks/TimeNotes";

type Props = {
  item: ItemView;
  marks: readonly PlacedMark[];
  numbers: ReadonlyMap<string, number>;
  chosen: string | null;
  onChoose: (id: string) => void;
  /** Takes the place of a new pin; null: nothing is said here. */ onPlace:
    ((place: Place) => void) | null;
};

const PIN = { kind: "pin" } as const;

/** A file of shown work, with the pins on it; a pin is put where one presses, once it is in hand. */
export function ShownFile({ item, marks, numbers, chosen, onChoose, onPlace }: Props) {
  const [pinning, setPinning] = useState(false);
  const pins = item.view?.as === "picture" || item.view?.as === "pages";
  const layer = (page: number | null, ratio: number) => (
    <>
      <MarkLayer
        marks={marks.filter((m) =>
          page === null ? m.place.on === "picture" : m.place.on === "page" && m.place.page === page,
        )}
        {...{ ratio, numbers, chosen, onChoose }}
      />
      {pinning && onPlace ? (
        <PlaceSurface
          tool={PIN}
          ratio={ratio}
          marks={[]}
          label={page === null ? `Put a pin on ${item.name}` : `Put a pin on page ${page}`}
          onPlace={(area) => {
            setPinning(false);
            onPlace(
              page === null
                ? { on: "picture", itemId: item.id, area }
                : { on: "page", itemId: item.id, page, area, words: null },
            );
          }}
          onInk={() => undefined}
          onErase={() => undefined}
        />
      ) : null}
    </>
  );
  const moments = marks.filter((m) => m.place.on === "time");
  return (
    <div>
      {pins && onPlace ? (
        <Button small aria-pressed={pinning} onClick={() => setPinning(!pinning)}>
          {pinning ? "Press where it should stand" : "Put a pin on it"}
        </Button>
      ) : null}
      <ItemShown
        item={item}
        layers={{
          page: (page, ratio) => layer(page, ratio),
          picture: (ratio) => layer(null, ratio),
          recording: (
            <TimeNotes
              marks={moments}
              chosen={chosen}
              onChoose={onChoose}
              seconds={item.seconds}
              hands={
                onPlace
                  ? {
                      onNote: (from) => onPlace({ on: "time", itemId: item.id, from, to: null }),
                      begun: null,
                      onStretch: () => false,
                    }
                  : undefined
              }
            />
          ),
        }}
      />
    </div>
  );
}
