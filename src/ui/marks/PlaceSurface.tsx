"use client";

import { useEffect, useRef, useState } from "react";
import {
  clampArea,
  inkArea,
  isPoint,
  touchesStroke,
  type Area,
  type Stroke,
} from "@/core/marks/place";
import { wayFromSeen } from "@/core/marks/turn";
import type { PlacedMark } from "./drawn";
import { ACROSS, InkStroke } from "./InkStroke";
import { pointOn, turnOf } from "./pointOn";
import type { Tool } from "./tools";

type Props = {
  tool: Tool;
  ratio: number;
  marks: readonly PlacedMark[];
  label: string;
  /** A pin (no extent), an area, or the place of a stamp. */
  onPlace: (area: Area) => void;
  onInk: (area: Area, strokes: Stroke[]) => void;
  onErase: (markId: string, strokes: Stroke[]) => void;
};

/** A drawing is one mark as long as the pen comes back this soon. */
const PAUSE = 1500;
/** A press that moves less than this (per cent) is a point. */
const STILL = 0.8;
/** A touch taken away by the browser after so few points was the beginning of a pinch. */
const TOUCH = 6;
/** How near to a line the eraser takes it away, in per cent of the width. */
const REACH = 1.4;

/**
 * The surface over a page or picture that takes pins, areas, stamps, ink and the eraser, from pen, finger, mouse or
 * keyboard (arrows move a cross, Enter puts the mark there). It is there only while such a tool is in hand, so that
 * words can be selected otherwise.
 */
export function PlaceSurface({ tool, ratio, marks, label, onPlace, onInk, onErase }: Props) {
  const surface = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ from: [number, number]; to: [number, number] } | null>(null);
  const [strokes, setStrokes] = useState<Stroke[]>([]);
  const [cross, setCross] = useState<[number, number] | null>(null);
  const drawing = useRef<Stroke[]>([]);
  /** What this pass of the eraser has left of each drawing: a new look at the marks comes only when the draft knows. */
  const rubbed = useRef(new Map<string, readonly Stroke[]>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const commit = useRef<() => void>(() => {});
  useEffect(() => {
    commit.current = () => {
      clearTimeout(timer.current);
      const done = drawing.current;
      drawing.current = [];
      setStrokes([]);
      const area = inkArea(done);
      if (area) onInk(area, done);
    };
  });
  // Another tool, or leaving the piece, ends the drawing.
  useEffect(() => () => commit.current(), [tool]);

  const under = () => surface.current!.closest<HTMLElement>("[data-surface]")!;
  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const [x, y] = pointOn(under(), event);
    return [Math.round(x * 100) / 100, Math.round(y * 100) / 100];
  };

  function down(event: React.PointerEvent) {
    if (event.button !== 0 || !event.isPrimary) return;
    event.preventDefault();
    surface.current?.setPointerCapture(event.pointerId);
    surface.current?.focus({ preventScroll: true });
    const [x, y] = at(event);
    if (tool.kind === "eraser") {
      rubbed.current.clear();
      return erase(x, y);
    }
    if (tool.kind === "ink") {
      clearTimeout(timer.current);
      drawing.current = [
        ...drawing.current,
        { ink: tool.ink, width: tool.width, points: [[x, y, pressureOf(event)]] },
      ];
      return setStrokes(drawing.current);
    }
    setDrag({ from: [x, y], to: [x, y] });
  }

  function move(event: React.PointerEvent) {
    if (!event.isPrimary || !surface.current?.hasPointerCapture(event.pointerId)) return;
    if (tool.kind === "eraser") return erase(...at(event));
    if (tool.kind === "ink") {
      // Between two frames a pen gives several points; all of them make the line.
      const points = (event.nativeEvent.getCoalescedEvents?.() ?? [event.nativeEvent]).map(
        (e): [number, number, number] => [...at(e), pressureOf(e)],
      );
      const last = drawing.current.at(-1);
      if (!last || last.points.length > 1500) return;
      drawing.current = [
        ...drawing.current.slice(0, -1),
        { ...last, points: [...last.points, ...points] },
      ];
      return setStrokes(drawing.current);
    }
    setDrag((old) => old && { ...old, to: at(event) });
  }

  function up(event: React.PointerEvent) {
    if (tool.kind === "ink") {
      timer.current = setTimeout(() => commit.current(), PAUSE);
      return;
    }
    if (!drag) return;
    const to = at(event);
    setDrag(null);
    const area = clampArea({
      x: drag.from[0],
      y: drag.from[1],
      w: to[0] - drag.from[0],
      h: to[1] - drag.from[1],
    });
    onPlace(
      tool.kind === "stamp" || (area.w < STILL && area.h < STILL)
        ? { ...area, x: drag.from[0], y: drag.from[1], w: 0, h: 0 }
        : area,
    );
  }

  /** The browser took the pointer away: what was drawn until then stays; a touch that was the first of two fingers drew nothing. */
  function cancel(event: React.PointerEvent) {
    setDrag(null);
    if (tool.kind !== "ink") return;
    if (event.pointerType === "touch" && (drawing.current.at(-1)?.points.length ?? 0) <= TOUCH) {
      drawing.current = drawing.current.slice(0, -1);
      setStrokes(drawing.current);
    }
    timer.current = setTimeout(() => commit.current(), PAUSE);
  }

  function erase(x: number, y: number) {
    for (const mark of marks) {
      const strokes = rubbed.current.get(mark.id) ?? mark.strokes;
      if (mark.fixed || strokes.length === 0) continue;
      const left = strokes.filter((s) => !touchesStroke(s, [x, y], ratio, REACH));
      if (left.length === strokes.length) continue;
      rubbed.current.set(mark.id, left);
      return onErase(mark.id, left);
    }
  }

  function keys(event: React.KeyboardEvent) {
    const step = event.shiftKey ? 10 : 2;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const by = moves[event.key];
    if (by) {
      event.preventDefault();
      event.stopPropagation();
      const [dx, dy] = wayFromSeen(turnOf(under()), by);
      setCross((old) => {
        const [x, y] = old ?? [50, 50];
        return [Math.min(100, Math.max(0, x + dx)), Math.min(100, Math.max(0, y + dy))];
      });
    } else if (event.key === "Enter" && (tool.kind === "pin" || tool.kind === "stamp")) {
      event.preventDefault();
      event.stopPropagation();
      const [x, y] = cross ?? [50, 50];
      onPlace({ x, y, w: 0, h: 0 });
    }
  }

  const box = drag
    ? clampArea({
        x: drag.from[0],
        y: drag.from[1],
        w: drag.to[0] - drag.from[0],
        h: drag.to[1] - drag.from[1],
      })
    : null;
  return (
    <div
      ref={surface}
      className="place-surface"
      tabIndex={0}
      role="application"
      aria-label={label}
      data-arrows
      style={{ cursor: tool.kind === "eraser" ? "cell" : "crosshair" }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onMouseDown={(event) => event.preventDefault()}
      onDragStart={(event) => event.preventDefault()}
      onKeyDown={keys}
      onFocus={() => setCross((old) => old ?? [50, 50])}
      onBlur={() => setCross(null)}
    >
      {strokes.length > 0 ? (
        <svg
          viewBox={`0 0 ${ACROSS} ${ACROSS * ratio}`}
          preserveAspectRatio="none"
          className="ink pointer-events-none absolute inset-0 h-full w-full"
          aria-hidden="true"
        >
          {strokes.map((stroke, n) => (
            <InkStroke key={n} stroke={stroke} ratio={ratio} />
          ))}
        </svg>
      ) : null}
      {box && !isPoint(box) ? (
        <span
          className="pin-area"
          style={{ left: `${box.x}%`, top: `${box.y}%`, width: `${box.w}%`, height: `${box.h}%` }}
        />
      ) : null}
      {cross && tool.kind !== "ink" && tool.kind !== "eraser" ? (
        <span className="place-cross" style={{ left: `${cross[0]}%`, top: `${cross[1]}%` }} />
      ) : null}
    </div>
  );
}

/** A mouse and most fingers press with 0.5 always; a pen says how hard. */
const pressureOf = (event: { pressure: number; pointerType: string }): number =>
  event.pointerType === "pen" && event.pressure > 0 ? Math.round(event.pressure * 100) / 100 : 0.5;
