"use client";

import { useEffect, useRef } from "react";
import { clampArea, movePlace, moveStrokes, type Place, type Stroke } from "@/core/marks/place";
import { wayFromSeen } from "@/core/marks/turn";
import type { PlacedMark } from "../../marks/drawn";
import { turnOf, wayOn } from "../../marks/pointOn";

type How = "move" | "size";
type OnArea = Extract<Place, { on: "page" | "picture" }>;
type Keep = (markId: string, place: Place, strokes: Stroke[]) => void;

/** A move that is smaller (per cent) is a slip of the hand. */
const SLIP = 0.3;
/** A mark moved by keys is kept when no key has come for so long: one step to undo, whatever the number of keys. */
const PAUSE = 500;

const onArea = (place: Place): OnArea | null =>
  place.on === "page" || place.on === "picture" ? place : null;
const gone = (place: OnArea, how: How, dx: number, dy: number): OnArea =>
  how === "move"
    ? movePlace(place, dx, dy)
    : {
        ...place,
        area: clampArea({
          ...place.area,
          w: Math.max(1, place.area.w + dx),
          h: Math.max(1, place.area.h + dy),
        }),
      };

/** Moving and sizing marks on a page or picture: by pointer, kept when it is let go, and by arrows. */
export function useMoving(onMove: Keep) {
  const keyed = useRef<{
    mark: PlacedMark;
    place: OnArea;
    timer: ReturnType<typeof setTimeout>;
  } | null>(null);

  function keep(mark: PlacedMark, from: OnArea, to: OnArea): void {
    onMove(
      mark.id,
      to,
      mark.strokes.length > 0
        ? moveStrokes(mark.strokes, to.area.x - from.area.x, to.area.y - from.area.y)
        : [],
    );
  }
  function settle(): void {
    const now = keyed.current;
    keyed.current = null;
    if (!now) return;
    clearTimeout(now.timer);
    const from = onArea(now.mark.place);
    if (from) keep(now.mark, from, now.place);
  }
  // Leaving the piece keeps what was moved.
  const latest = useRef(settle);
  useEffect(() => {
    latest.current = settle;
  });
  useEffect(() => () => latest.current(), []);

  /** A mark is moved or sized while the pointer is down. */
  function grab(mark: PlacedMark, how: How, event: React.PointerEvent): void {
    const target = event.target as HTMLElement;
    const surface = target.closest<HTMLElement>("[data-surface]");
    const place = onArea(mark.place);
    if (!surface || !place) return;
    event.preventDefault();
    event.stopPropagation();
    target.closest("button")?.focus({ preventScroll: true });
    const start = { clientX: event.clientX, clientY: event.clientY };
    const after = (e: PointerEvent) => gone(place, how, ...wayOn(surface, start, e));
    const move = (e: PointerEvent) => show(target, after(e), how);
    const up = (e: PointerEvent) => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      if (Math.hypot(...wayOn(surface, start, e)) >= SLIP) keep(mark, place, after(e));
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
  }

  /** Arrows move the mark that has the focus, as it is seen (Shift: further); with Alt they size it. True: the key was for this. */
  function nudge(mark: PlacedMark, event: React.KeyboardEvent): boolean {
    const target = event.target as HTMLElement;
    const surface = target.closest<HTMLElement>("[data-surface]");
    const step = event.shiftKey ? 5 : 1;
    const by = (
      {
        ArrowLeft: [-step, 0],
        ArrowRight: [step, 0],
        ArrowUp: [0, -step],
        ArrowDown: [0, step],
      } as Record<string, [number, number]>
    )[event.key];
    if (keyed.current && keyed.current.mark.id !== mark.id) settle();
    const place = keyed.current?.place ?? onArea(mark.place);
    if (!by || !surface || !place || event.ctrlKey || event.metaKey) return false;
    // A pin that is sized becomes an area. Stamps and drawings are moved as they are.
    const how = event.altKey && mark.kind === "note" ? "size" : "move";
    // On a page turned by a half or three quarters, larger as it is seen is larger all the same.
    const way = wayFromSeen(turnOf(surface), by);
    const next = gone(
      place,
      how,
      ...(how === "size"
        ? ([
            Math.sign(by[0] + by[1]) * Math.abs(way[0]),
            Math.sign(by[0] + by[1]) * Math.abs(way[1]),
          ] as const)
        : way),
    );
    show(target, next, how);
    if (keyed.current) clearTimeout(keyed.current.timer);
    keyed.current = { mark, place: next, timer: setTimeout(() => latest.current(), PAUSE) };
    return true;
  }
  return { grab, nudge, settle };
}

/** Where a mark is while it moves, before the draft knows. */
function show(target: HTMLElement, { area }: OnArea, how: How): void {
  const shown =
    target.closest<HTMLElement>(".pin-area, .pin-spot") ??
    target.closest<HTMLElement>(".pin, .stamped");
  if (shown)
    Object.assign(shown.style, {
      left: `${area.x}%`,
      top: `${area.y}%`,
      ...(how === "size" ? { width: `${area.w}%`, height: `${area.h}%` } : {}),
    });
}
