import { areaFromSeen, fromSeen, wayFromSeen, type Turn } from "@/core/marks/turn";
import type { Area } from "@/core/marks/place";

/** How a surface that marks stand on is turned on the screen. */
export const turnOf = (surface: HTMLElement): Turn => Number(surface.dataset.turn ?? 0) as Turn;

type Box = { left: number; top: number; width: number; height: number };
const within = (box: Box, x: number, y: number): [number, number] => [
  ((x - box.left) / box.width) * 100,
  ((y - box.top) / box.height) * 100,
];

/** Where a pointer is on a surface: per cent of the page or picture, upright. */
export function pointOn(
  surface: HTMLElement,
  { clientX, clientY }: { clientX: number; clientY: number },
): [number, number] {
  return fromSeen(turnOf(surface), within(surface.getBoundingClientRect(), clientX, clientY));
}

/** How far a pointer went over a surface, in per cent of the page or picture. */
export function wayOn(
  surface: HTMLElement,
  from: { clientX: number; clientY: number },
  to: { clientX: number; clientY: number },
): [number, number] {
  const box = surface.getBoundingClientRect();
  return wayFromSeen(turnOf(surface), [
    ((to.clientX - from.clientX) / box.width) * 100,
    ((to.clientY - from.clientY) / box.height) * 100,
  ]);
}

/** A box seen on the screen as an area of the page or picture. */
export function areaOn(
  surface: HTMLElement,
  seen: { left: number; top: number; right: number; bottom: number },
): Area {
  const box = surface.getBoundingClientRect();
  const [[x, y], [right, bottom]] = [
    within(box, seen.left, seen.top),
    within(box, seen.right, seen.bottom),
  ];
  return areaFromSeen(turnOf(surface), { x, y, w: right - x, h: bottom - y });
}
