import type { Area } from "./place";

/**
 * Between a place on a page as it is shown (per cent, upright, from the top left) and the PDF's own space
 * (points of 1/72 inch, from the bottom left, before the page is turned).
 *
 * ISO 32000-1:2008, 7.7.3.3: /Rotate turns the page clockwise when shown, in steps of 90 degrees; what is
 * shown is the CropBox within the MediaBox (14.11.2). Both are in `box` here, cut to each other already.
 */
export type PageShape = {
  /** Lower left corner and size, in points. */ box: { x: number; y: number; w: number; h: number };
  /** Degrees, clockwise. */ rotate: number;
};

export type Point = { x: number; y: number };

const turnOf = ({ rotate }: PageShape) => (((Math.round(rotate / 90) * 90) % 360) + 360) % 360;

/** The size of the page as shown, in points. */
export function shownSize(shape: PageShape): { w: number; h: number } {
  const { w, h } = shape.box;
  return turnOf(shape) % 180 === 0 ? { w, h } : { w: h, h: w };
}

/** @example toPdfPoint({ box: { x: 0, y: 0, w: 200, h: 100 }, rotate: 90 }, { x: 0, y: 0 }) // { x: 0, y: 0 } */
export function toPdfPoint(shape: PageShape, { x, y }: Point): Point {
  const { box } = shape;
  const size = shownSize(shape);
  const u = (x / 100) * size.w;
  const v = (y / 100) * size.h;
  switch (turnOf(shape)) {
    case 90:
      return { x: box.x + v, y: box.y + u };
    case 180:
      return { x: box.x + box.w - u, y: box.y + v };
    case 270:
      return { x: box.x + box.w - v, y: box.y + box.h - u };
    default:
      return { x: box.x + u, y: box.y + box.h - v };
  }
}

/** The same, back. */
export function fromPdfPoint(shape: PageShape, { x, y }: Point): Point {
  const { box } = shape;
  const size = shownSize(shape);
  const shown = (u: number, v: number) => ({ x: (u / size.w) * 100, y: (v / size.h) * 100 });
  switch (turnOf(shape)) {
    case 90:
      return shown(y - box.y, x - box.x);
    case 180:
      return shown(box.x + box.w - x, y - box.y);
    case 270:
      return shown(box.y + box.h - y, box.x + box.w - x);
    default:
      return shown(x - box.x, box.y + box.h - y);
  }
}

/** An area in the PDF's space: its lower left corner and size, in points. */
export function toPdfArea(shape: PageShape, { x, y, w, h }: Area): Area {
  const a = toPdfPoint(shape, { x, y });
  const b = toPdfPoint(shape, { x: x + w, y: y + h });
  return {
    x: Math.min(a.x, b.x),
    y: Math.min(a.y, b.y),
    w: Math.abs(a.x - b.x),
    h: Math.abs(a.y - b.y),
  };
}
