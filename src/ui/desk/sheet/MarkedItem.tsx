"use client";

import { memo, useRef } from "react";
import type { Area, Place, Stroke } from "@/core/marks/place";
import type { ItemView } from "@/core/views/workViews";
import { ItemShown } from "../../items/ItemShown";
import type { PageLayer } from "../../items/PdfPages";
import { Button } from "../../kit/Button";
import type { PlacedMark } from "../../marks/drawn";
import { MarkLayer } from "../../marks/MarkLayer";
import { FrameLayer } from "../../marks/FrameLayer";
import { TimeNotes } from "../../marks/TimeNotes";
import { useDesk } from "../model";
import { PlaceSurface } from "../../marks/PlaceSurface";
import { VttExchange } from "./VttExchange";
import type { Tool } from "../../marks/tools";
import { useMoving } from "./useMoving";

export type PlaceActs = {
  onPlace: (place: Place) => void;
  onInk: (place: Place, strokes: Stroke[]) => void;
  onErase: (markId: string, strokes: Stroke[]) => void;
  onMove: (markId: string, place: Place, strokes: Stroke[]) => void;
  onChoose: (id: string) => void;
  /** Notes were brought in from a file. */
  onBrought: () => void;
};

type Props = {
  item: ItemView;
  marks: readonly PlacedMark[];
  numbers: ReadonlyMap<string, number>;
  tool: Tool;
  chosen: string | null;
  zoom: number;
  acts: PlaceActs;
};

/** The notes on moments of a recording, and what begins new ones. */
function Moments({ item, marks, chosen, acts }: Pick<Props, "item" | "marks" | "chosen" | "acts">) {
  const { session, marking } = useDesk();
  const { begun } = marking;
  return (
    <TimeNotes
      marks={marks}
      chosen={chosen}
      onChoose={acts.onChoose}
      seconds={item.seconds}
      hands={{
        onNote: (from) => acts.onPlace({ on: "time", itemId: item.id, from, to: null }),
        begun: begun?.itemId === item.id ? begun.at : null,
        onStretch: (at) => session.marking.stretch(item.id, at),
      }}
      acts={<VttExchange itemId={item.id} onBrought={acts.onBrought} />}
    />
  );
}

/** A file of the piece with its marks over it, and the surface that takes new ones. */
export const MarkedItem = memo(function MarkedItem({
  item,
  marks,
  numbers,
  tool,
  chosen,
  zoom,
  acts,
}: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const placed = (page: number | null, area: Area): Place =>
    page === null
      ? { on: "picture", itemId: item.id, area }
      : { on: "page", itemId: item.id, page, area, words: null };

  const { grab, nudge, settle } = useMoving(acts.onMove);
  const layer = (page: number | null, ratio: number) => {
    const own = marks.filter((m) =>
      page === null ? m.place.on === "picture" : m.place.on === "page" && m.place.page === page,
    );
    return (
      <>
        <MarkLayer
          marks={own}
          ratio={ratio}
          numbers={numbers}
          chosen={chosen}
          onChoose={acts.onChoose}
          onGrab={grab}
          onNudge={nudge}
          onLeft={settle}
        />
        {tool.kind === "words" ? null : (
          <PlaceSurface
            tool={tool}
            ratio={ratio}
            marks={own}
            label={`${page === null ? item.name : `Page ${page} of ${item.name}`}: arrows move the cross, Enter puts the mark there`}
            onPlace={(area) => acts.onPlace(placed(page, area))}
            onInk={(area, strokes) => acts.onInk(placed(page, area), strokes)}
            onErase={acts.onErase}
          />
        )}
      </>
    );
  };
  const onPage: PageLayer = (page, ratio) => layer(page, ratio);
  const moments = marks.filter((m) => m.place.on === "time");
  const whole = marks.filter((m) => m.place.on === "whole");
  return (
    <div ref={figure}>
      <ItemShown
        item={item}
        zoom={zoom}
        layers={{
          page: onPage,
          picture: (ratio) => layer(null, ratio),
          recording: <Moments item={item} marks={moments} chosen={chosen} acts={acts} />,
          frame: (ratio) => (
            <FrameLayer
              marks={moments}
              ratio={ratio}
              numbers={numbers}
              chosen={chosen}
              onChoose={acts.onChoose}
              surface={
                tool.kind === "words" || tool.kind === "stamp"
                  ? undefined
                  : (now) => (
                      <PlaceSurface
                        tool={tool}
                        ratio={ratio}
                        marks={moments}
                        label={`The still of ${item.name}: arrows move the cross, Enter puts the mark there`}
                        onPlace={(area) =>
                          acts.onPlace({ on: "time", itemId: item.id, from: now, to: null, area })
                        }
                        onInk={(area, strokes) =>
                          acts.onInk(
                            { on: "time", itemId: item.id, from: now, to: null, area },
                            strokes,
                          )
                        }
                        onErase={acts.onErase}
                      />
                    )
              }
            />
          ),
        }}
      >
        {whole.map((m) => (
          <button
            key={m.id}
            type="button"
            data-mark={m.id}
            className="cursor-pointer underline decoration-dotted underline-offset-4"
            onClick={() => acts.onChoose(m.id)}
            title={m.label}
          >
            {m.tone === "request" ? "asks" : "note"} on this file
          </button>
        ))}
        <Button small ink="quiet" onClick={() => acts.onPlace({ on: "whole", itemId: item.id })}>
          Note on this file
        </Button>
      </ItemShown>
    </div>
  );
});
