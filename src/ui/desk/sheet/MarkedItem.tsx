"use client";

import { memo, useRef } from "react";
import { clampArea, movePlace, moveStrokes, type Area, type Place, type Stroke } from "@/core/marks/place";
import type { ItemView } from "@/core/views/workViews";
import { ItemShown } from "../../items/ItemShown";
import type { PageLayer } from "../../items/PdfPages";
import { Button } from "../../kit/Button";
import type { PlacedMark } from "../../marks/drawn";
import { MarkLayer } from "../../marks/MarkLayer";
import { FrameLayer } from "../../marks/FrameLayer";
import { TimeNotes } from "../../marks/TimeNotes";
import { PlaceSurface } from "./PlaceSurface";
import { VttExchange } from "./VttExchange";
import type { Tool } from "./tools";

export type PlaceActs = {
  onPlace: (place: Place) => void;
  onInk: (place: Place, strokes: Stroke[]) => void;
  onErase: (markId: string, strokes: Stroke[]) => void;
  onMove: (markId: string, place: Place, strokes: Stroke[]) => void;
  onChoose: (id: string) => void;
  /** Notes were brought in from a file. */
  onBrought: () => void;
};

type Props = { item: ItemView; marks: readonly PlacedMark[]; numbers: ReadonlyMap<string, number>; tool: Tool; chosen: string | null; zoom: number; acts: PlaceActs };

/** A file of the piece with its marks over it, and the surface that takes new ones. */
export const MarkedItem = memo(function MarkedItem({ item, marks, numbers, tool, chosen, zoom, acts }: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const placed = (page: number | null, area: Area): Place => (page === null ? { on: "picture", itemId: item.id, area } : { on: "page", itemId: item.id, page, area, words: null });

  /** A mark is moved or sized while the pointer is down, and kept when it is let go. */
  function grab(mark: PlacedMark, how: "move" | "size", event: React.PointerEvent) {
    const surface = (event.target as HTMLElement).closest<HTMLElement>("[data-surface]");
    const { place } = mark;
    if (!surface || (place.on !== "page" && place.on !== "picture")) return;
    event.preventDefault();
    event.stopPropagation();
    const box = surface.getBoundingClientRect();
    const by = (e: PointerEvent): [number, number] => [((e.clientX - event.clientX) / box.width) * 100, ((e.clientY - event.clientY) / box.height) * 100];
    const after = (e: PointerEvent) => {
      const [dx, dy] = by(e);
      return how === "move" ? movePlace(place, dx, dy) : { ...place, area: clampArea({ ...place.area, w: Math.max(1, place.area.w + dx), h: Math.max(1, place.area.h + dy) }) };
    };
    const shown = (event.target as HTMLElement).closest<HTMLElement>(".pin-area, .pin, .stamped");
    const move = (e: PointerEvent) => {
      const next = after(e);
      if (!shown || (next.on !== "page" && next.on !== "picture")) return;
      const area = shown.classList.contains("pin-area") || !shown.closest(".pin-area") ? shown : shown.closest<HTMLElement>(".pin-area")!;
      Object.assign(area.style, { left: `${next.area.x}%`, top: `${next.area.y}%`, ...(how === "size" ? { width: `${next.area.w}%`, height: `${next.area.h}%` } : {}) });
    };
    const up = (e: PointerEvent) => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      const [dx, dy] = by(e);
      if (Math.hypot(dx, dy) < 0.3) return;
      const next = after(e);
      if (next.on === "page" || next.on === "picture") acts.onMove(mark.id, next, mark.strokes.length > 0 ? moveStrokes(mark.strokes, next.area.x - place.area.x, next.area.y - place.area.y) : []);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
  }

  const layer = (page: number | null, ratio: number) => {
    const own = marks.filter((m) => (page === null ? m.place.on === "picture" : m.place.on === "page" && m.place.page === page));
    return (
      <>
        <MarkLayer marks={own} ratio={ratio} numbers={numbers} chosen={chosen} onChoose={acts.onChoose} onGrab={grab} />
        {tool.kind === "words" ? null : (
          <PlaceSurface tool={tool} ratio={ratio} marks={own} label={`${page === null ? item.name : `Page ${page} of ${item.name}`}: arrows move the cross, Enter puts the mark there`} onPlace={(area) => acts.onPlace(placed(page, area))} onInk={(area, strokes) => acts.onInk(placed(page, area), strokes)} onErase={acts.onErase} />
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
          recording: <TimeNotes marks={moments} chosen={chosen} onChoose={acts.onChoose} seconds={item.seconds} onNote={(from, to) => acts.onPlace({ on: "time", itemId: item.id, from, to })} acts={<VttExchange itemId={item.id} onBrought={acts.onBrought} />} />,
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
                  : (now) => <PlaceSurface tool={tool} ratio={ratio} marks={moments} label={`The still of ${item.name}: arrows move the cross, Enter puts the mark there`} onPlace={(area) => acts.onPlace({ on: "time", itemId: item.id, from: now(), to: null, area })} onInk={(area, strokes) => acts.onInk({ on: "time", itemId: item.id, from: now(), to: null, area }, strokes)} onErase={acts.onErase} />
              }
            />
          ),
        }}
      >
        {whole.map((m) => (
          <button key={m.id} type="button" data-mark={m.id} className="cursor-pointer underline decoration-dotted underline-offset-4" onClick={() => acts.onChoose(m.id)} title={m.label}>
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
