import type { DeskPiece, DraftMark, EarlierMark } from "@/core/views/deskViews";
import { downThePage, sayWhole, toneOf, type PlacedMark } from "../../marks/drawn";
import type { DrawnMark } from "../../text/RichText";
import type { Composing } from "./Composer";

/** What is drawn on the writing: earlier notes, the draft's marks, and the one being written. */
export function drawnMarks(
  piece: DeskPiece,
  shown: readonly DraftMark[],
  composing: Composing | null,
): DrawnMark[] {
  const earlier = piece.earlier
    .filter((m) => m.at !== null && m.kind === "note" && m.ruling !== "again")
    .map((m): DrawnMark => ({
      id: m.id,
      kind: "note",
      tone:
        m.ruling === "settled" || m.request === "done" || m.nature !== "request"
          ? "settled"
          : "request",
      start: m.at!.start,
      end: m.at!.end,
      replacement: "",
      label: sayEarlier(m),
    }));
  const fresh: DrawnMark[] =
    composing?.place.on === "text"
      ? [
          {
            id: "composing",
            kind: "note",
            tone: "note",
            start: composing.start,
            end: Math.max(composing.end, composing.start + (composing.kind === "insert" ? 0 : 1)),
            replacement: "",
            label: "new mark",
          },
        ]
      : [];
  return [
    ...earlier,
    ...shown
      .filter((m) => m.place.on === "text")
      .map((m): DrawnMark => ({
        id: m.id,
        kind: m.kind,
        tone: toneOf(m),
        start: m.start,
        end: m.end,
        replacement: m.replacement,
        body: m.body,
        ink: m.ink,
        label: sayWhole(m),
      })),
    ...fresh,
  ];
}

/** A mark of an earlier round, with what became of it: the teacher's word goes before the student's. */
const sayEarlier = (mark: EarlierMark): string =>
  `round ${mark.round}, ${sayWhole(mark.ruling === "settled" ? { ...mark, request: "settled" } : mark)}`;

/** What is drawn on pages, pictures and beside recordings, from top to bottom. */
export function placedMarks(
  piece: DeskPiece,
  shown: readonly DraftMark[],
  composing: Composing | null,
): PlacedMark[] {
  const earlier = piece.earlier
    .filter((m) => m.place.on !== "text" && !m.gone && m.ruling !== "again")
    .map((m): PlacedMark => ({
      ...m,
      tone: m.request === "open" ? "request" : "settled",
      label: sayEarlier(m),
      fixed: true,
    }));
  const own = shown
    .filter((m) => m.place.on !== "text")
    .map((m): PlacedMark => ({ ...m, tone: toneOf(m), label: sayWhole(m), fixed: false }));
  const fresh: PlacedMark[] =
    composing && composing.place.on !== "text"
      ? [
          {
            id: "composing",
            kind: "note",
            body: "",
            replacement: "",
            quote: "",
            place: composing.place,
            strokes: [],
            tone: "note",
            label: "new mark",
            fixed: true,
          },
        ]
      : [];
  return [...earlier, ...own, ...fresh].sort((a, b) => downThePage(a) - downThePage(b));
}
