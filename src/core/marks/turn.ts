import { clampArea, type Area } from "./place";

/**
 * How far a page or picture is turned on the screen, clockwise, for a scan that lies on its side. The file stays as it
 * is, and marks keep their places on it: per cent of the page upright. What a pointer says is in per cent of what is
 * seen; these functions take the one to the other.
 */
export type Turn = 0 | 90 | 180 | 270;
export type Point = readonly [x: number, y: number];

/** A quarter further, clockwise. @example turnOn(270) // 0 */
export const turnOn = (turn: Turn): Turn => ((turn + 90) % 360) as Turn;

/** Whether width and height change places. */
export const isOnSide = (turn: Turn): boolean => turn % 180 !== 0;

/**
 * A point of what is seen as a point of the page.
 *
 * @example fromSeen(90, [100, 0]) // [0, 0]: turned a quarter, the page's top left corner is seen at the top right
 */
export function fromSeen(turn: Turn, [x, y]: Point): [number, number] {
  switch (turn) {
    case 90:
      return [y, 100 - x];
    case 180:
      return [100 - x, 100 - y];
    case 270:
      return [100 - y, x];
    default:
      return [x, y];
  }
}

/** The same for a way gone on the screen: right and down as seen. @example wayFromSeen(90, [1, 0]) // [0, -1] */
export function wayFromSeen(turn: Turn, [dx, dy]: Point): [number, number] {
  const [[x0, y0], [x, y]] = [fromSeen(turn, [0, 0]), fromSeen(turn, [dx, dy])];
  return [x - x0, y - y0];
}

/** The same for an area. */
export function areaFromSeen(turn: Turn, { x, y, w, h }: Area): Area {
  const [[ax, ay], [bx, by]] = [fromSeen(turn, [x, y]), fromSeen(turn, [x + w, y + h])];
  return clampArea({ x: ax, y: ay, w: bx - ax, h: by - ay });
}
