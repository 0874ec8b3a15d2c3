import { isId } from "../ids";

/**
 * Where a mark stands. On writing it stands on offsets of the version's text (`start` and `end` of the
 * mark itself); on a file it stands on a place of that file.
 *
 * Areas are in per cent of the page or picture *as it is shown*: upright, cut to its crop box, measured
 * from the top left corner. So they hold at every zoom and on every screen, and are what Media Fragments
 * call `xywh=percent:` (W3C Recommendation of 25 September 2012, section 4.2.2). `pageGeometry` turns
 * them into points of the PDF's own space.
 */
export type Area = { x: number; y: number; w: number; h: number };

/** Words of a page's text layer: offsets in the page's text, and the boxes they fill, line by line. */
export type PageWords = { start: number; end: number; boxes: Area[] };

export type Place =
  | { on: "text" }
  | { on: "page"; itemId: string; page: number; area: Area; words: PageWords | null }
  | { on: "picture"; itemId: string; area: Area }
  /** Seconds from the beginning; `to` is null for a moment. */
  | {
      on: "time";
      itemId: string;
      from: number;
      to: number | null;
      /** On the still picture of a film at `from`. */ area?: Area | null;
    }
  /** A file as a whole, or (no item) the sheet itself. */
  | { on: "whole"; itemId: string | null };

export const ON_TEXT: Place = { on: "text" };

/** The four inks and black. */
export const INKS = ["black", "tide", "ember", "moss", "plum"] as const;
export type Ink = (typeof INKS)[number];

/** One stroke: points as [x, y, pressure], x and y in per cent of the page or picture, pressure from 0 to 1. */
export type Stroke = {
  ink: Ink;
  /** In per cent of the width. */ width: number;
  points: [number, number, number][];
};

export const PLACE_LIMITS = {
  boxes: 200,
  strokes: 200,
  points: 4000,
  seconds: 86_400,
  pages: 5000,
} as const;

/** The part of a page, a picture or a film's still that a mark stands on; null: none. */
export const areaOf = (place: Place): Area | null =>
  "area" in place ? (place.area ?? null) : null;

export const itemOf = (place: Place): string | null => ("itemId" in place ? place.itemId : null);

/** A place without extent: a pin's point, or a moment. */
export const isPoint = ({ w, h }: Area): boolean => w === 0 && h === 0;

/** Two decimals: a hundredth of a per cent of a page is far below what a hand can point at. */
const hundredths = (n: number) => Math.round(n * 100) / 100;

/** The area within the page, its edges in order. @example clampArea({ x: 98, y: -1, w: 10, h: 3 }) // { x: 98, y: 0, w: 2, h: 2 } */
export function clampArea({ x, y, w, h }: Area): Area {
  const within = (n: number) => Math.min(100, Math.max(0, n));
  const [left, right] = [within(Math.min(x, x + w)), within(Math.max(x, x + w))];
  const [top, bottom] = [within(Math.min(y, y + h)), within(Math.max(y, y + h))];
  return {
    x: hundredths(left),
    y: hundredths(top),
    w: hundredths(right - left),
    h: hundredths(bottom - top),
  };
}

/** The smallest area around boxes; null for none. */
export function around(boxes: readonly Area[]): Area | null {
  if (boxes.length === 0) return null;
  const left = Math.min(...boxes.map((b) => b.x));
  const top = Math.min(...boxes.map((b) => b.y));
  return clampArea({
    x: left,
    y: top,
    w: Math.max(...boxes.map((b) => b.x + b.w)) - left,
    h: Math.max(...boxes.map((b) => b.y + b.h)) - top,
  });
}

/** The area that strokes cover. */
export function inkArea(strokes: readonly Stroke[]): Area | null {
  return around(strokes.flatMap((s) => s.points.map(([x, y]) => ({ x, y, w: 0, h: 0 }))));
}

/**
 * Whether a point lies within `reach` (per cent of the width) of a stroke's line: of the line itself, not of the
 * points it was drawn through, which lie far apart where the hand was fast.
 *
 * @param ratio height of the page or picture over its width
 */
export function touchesStroke(
  { points, width }: Stroke,
  [x, y]: readonly [number, number],
  ratio: number,
  reach: number,
): boolean {
  const near = reach + width / 2;
  return points.some(([ax, ay], n) => {
    const [bx, by] = points[n + 1] ?? [ax, ay];
    const [dx, dy] = [bx - ax, (by - ay) * ratio];
    const [px, py] = [x - ax, (y - ay) * ratio];
    const length = dx * dx + dy * dy;
    const along = length === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / length));
    return Math.hypot(px - along * dx, py - along * dy) < near;
  });
}

/** A place moved by so many per cent, kept whole on its page. Places without an area stay. */
export function movePlace<P extends Place>(place: P, dx: number, dy: number): P {
  const area = areaOf(place);
  if (!area) return place;
  return {
    ...place,
    area: clampArea({
      ...area,
      x: Math.min(100 - area.w, Math.max(0, area.x + dx)),
      y: Math.min(100 - area.h, Math.max(0, area.y + dy)),
    }),
  };
}

/** Strokes moved along with their place. */
export function moveStrokes(strokes: readonly Stroke[], dx: number, dy: number): Stroke[] {
  return strokes.map((s) => ({
    ...s,
    points: s.points.map(([x, y, p]) => [hundredths(x + dx), hundredths(y + dy), p]),
  }));
}

/**
 * Reads a place that came over the wire; everything but the known shape is a fault.
 * @returns the place with its numbers rounded, or the sentence that says what is wrong
 */
export function readPlace(input: unknown): Place | string {
  if (input === null || input === undefined) return ON_TEXT;
  const given = input as Record<string, unknown>;
  const id = isId(given.itemId) ? given.itemId : null;
  switch (given.on) {
    case "text":
      return ON_TEXT;
    case "whole":
      return { on: "whole", itemId: given.itemId === null ? null : id };
    case "time":
      return id ? readMoment(given, id) : UNREADABLE;
    case "picture": {
      const area = readArea(given.area);
      return id && area ? { on: "picture", itemId: id, area } : UNREADABLE;
    }
    case "page":
      return id ? readPagePlace(given, id) : UNREADABLE;

    default:
      return UNREADABLE;
  }
}

const UNREADABLE = "The place of this mark cannot be read.";

function readMoment(given: Record<string, unknown>, itemId: string): Place | string {
  const from = number(given.from, 0, PLACE_LIMITS.seconds);
  // A moment is a stretch without length.
  const to = given.to === null ? from : number(given.to, 0, PLACE_LIMITS.seconds);
  if (from === null || to === null) return UNREADABLE;
  if (to < from) return "The end of the stretch lies before its beginning.";
  const moment = {
    on: "time",
    itemId,
    from: hundredths(from),
    to: to === from ? null : hundredths(to),
  } as const;
  if (!given.area) return moment;
  const area = readArea(given.area);
  return area ? { ...moment, area } : UNREADABLE;
}

function readPagePlace(given: Record<string, unknown>, itemId: string): Place | string {
  const area = readArea(given.area);
  const page = number(given.page, 1, PLACE_LIMITS.pages);
  const words = given.words === null ? null : readWords(given.words);
  if (!area || page === null || !Number.isInteger(page)) return UNREADABLE;
  if (given.words !== null && !words) return UNREADABLE;
  return { on: "page", itemId, page, area, words };
}

/** Reads strokes that came over the wire, or says what is wrong. */
export function readStrokes(input: unknown): Stroke[] | string {
  if (input === null || input === undefined) return [];
  if (!Array.isArray(input) || input.length > PLACE_LIMITS.strokes)
    return `A drawing has ${PLACE_LIMITS.strokes} strokes at most.`;
  let points = 0;
  const strokes: Stroke[] = [];
  for (const raw of input as unknown[]) {
    const drawn = (raw as Partial<Stroke> | null)?.points;
    points += Array.isArray(drawn) ? drawn.length : 0;
    if (points > PLACE_LIMITS.points)
      return "This drawing is too long for one mark. Lift the pen and go on with a new one.";
    const stroke = readStroke(raw);
    if (!stroke) return "A stroke of this drawing cannot be read.";
    strokes.push(stroke);
  }
  return strokes;
}

function readStroke(input: unknown): Stroke | null {
  const { ink, width: given, points } = (input ?? {}) as Partial<Stroke>;
  const width = number(given, 0.05, 10);
  if (!INKS.includes(ink as Ink) || width === null) return null;
  if (!Array.isArray(points) || points.length === 0) return null;
  const read = points.map((p) =>
    Array.isArray(p)
      ? [number(p[0], -5, 105), number(p[1], -5, 105), number(p[2] ?? 0.5, 0, 1)]
      : [null],
  );
  if (read.some((p) => p.some((n) => n === null))) return null;
  return {
    ink: ink as Ink,
    width,
    points: read.map(([x, y, p]) => [hundredths(x!), hundredths(y!), hundredths(p!)]),
  };
}

function number(value: unknown, least: number, most: number): number | null {
  return typeof value === "number" && Number.isFinite(value) && value >= least && value <= most
    ? value
    : null;
}

function readArea(input: unknown): Area | null {
  const { x, y, w, h } = (input ?? {}) as Record<string, unknown>;
  const read = [x, y, w, h].map((n) => number(n, -1, 101));
  return read.some((n) => n === null)
    ? null
    : clampArea({ x: read[0]!, y: read[1]!, w: read[2]!, h: read[3]! });
}

function readWords(input: unknown): PageWords | null {
  const { start, end, boxes } = (input ?? {}) as Record<string, unknown>;
  const [from, to] = [number(start, 0, 10_000_000), number(end, 0, 10_000_000)];
  if (
    from === null ||
    to === null ||
    to < from ||
    !Array.isArray(boxes) ||
    boxes.length > PLACE_LIMITS.boxes
  )
    return null;
  const read = boxes.map(readArea);
  return read.some((b) => b === null)
    ? null
    : { start: Math.floor(from), end: Math.floor(to), boxes: read as Area[] };
}
