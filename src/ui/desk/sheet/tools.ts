import type { MarkKind } from "@/core/marks/mark";
import type { Ink } from "@/core/marks/place";

/** What a pointer does on a page or picture. */
export type Tool = { kind: "words" } | { kind: "pin" } | { kind: "ink"; ink: Ink; width: number } | { kind: "eraser" } | { kind: "stamp"; stamp: MarkKind; text: string };

export const WORDS: Tool = { kind: "words" };
/** Stroke widths in per cent of the page's width: fine, middle, broad. */
export const WIDTHS = [0.25, 0.5, 1.1] as const;
