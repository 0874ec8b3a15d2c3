import type { MarkKind } from "@/core/marks/schema";
import type { Ink } from "@/core/marks/place";

/** What a pointer does on a page or picture. */
export type Tool =
  | { kind: "words" }
  | { kind: "pin" }
  | { kind: "ink"; ink: Ink; width: number }
  | { kind: "eraser" }
  | { kind: "stamp"; stamp: MarkKind; text: string };

export const WORDS: Tool = { kind: "words" };
/** Pages are shown from this small to this large; 1 is as wide as the sheet. */
export const clampZoom = (zoom: number, least = 0.4): number => Math.min(4, Math.max(least, zoom));
export const ZOOM_STEP = 1.25;

/** Stroke widths in per cent of the page's width: fine, middle, broad. */
export const WIDTHS = [0.25, 0.5, 1.1] as const;
export const INK: Tool = { kind: "ink", ink: "plum", width: WIDTHS[1] };
