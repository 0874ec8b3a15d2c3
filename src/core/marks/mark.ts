import type { Range } from "../text/selectors";
import { areaOf, isPoint, type Place, type Stroke } from "./place";
import { POINTS_FAULT, SIGNED_POINTS } from "./signedPoints";

/**
 * The marks a teacher puts on work. A *note* is a margin note, a pin or a time note, by where it stands;
 * *edits* are the proof-reader's four; *stamps* say what they say by their sign; *ink* is drawn.
 */
export const MARK_KINDS = [
  "note",
  "insert",
  "delete",
  "replace",
  "transpose",
  "tick",
  "cross",
  "question",
  "star",
  "stamp",
  "ink",
] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

export const NATURES = ["remark", "request", "praise"] as const;
export type Nature = (typeof NATURES)[number];

export type Mark = Range & {
  id: string;
  kind: MarkKind;
  nature: Nature;
  /** What the teacher says (light Markdown, see `noteText`); may be empty for edits, stamps and ink. The text of an own stamp. */
  body: string;
  /** The words to put in, for `insert`, `replace` and `transpose`. */
  replacement: string;
  /** The words it was made on, kept so that it can be shown when they are gone. */
  quote: string;
  /** Where it stands; left out in what was handed back before marks could stand on files: on the text. */
  place?: Place;
  /** What was drawn, for `ink`. */
  strokes?: Stroke[];
  /** The student's own sentence, where the note corrects it: what stands in the note's quotation is held against it. */
  sentence?: string;
  /** The rubric's criterion it speaks to, and points given or taken (decimal text with its sign). */
  criterionId?: string | null;
  points?: string | null;
  /** A voice clip that says it, beside or in place of the words. */
  clipId?: string | null;
};

export type Edit = Mark & { kind: "insert" | "delete" | "replace" | "transpose" };

const EDITS: readonly MarkKind[] = ["insert", "delete", "replace", "transpose"];
const STAMPS: readonly MarkKind[] = ["tick", "cross", "question", "star", "stamp"];

export const isEdit = (mark: Pick<Mark, "kind">): boolean => EDITS.includes(mark.kind);
export const isStamp = (mark: Pick<Mark, "kind">): boolean => STAMPS.includes(mark.kind);

/** How a stamp looks and what it says; an own stamp shows its text. */
export const STAMP_SIGNS: Readonly<Partial<Record<MarkKind, { sign: string; words: string }>>> = {
  tick: { sign: "✓", words: "well seen" },
  cross: { sign: "✗", words: "look again" },
  question: { sign: "?", words: "I do not follow" },
  star: { sign: "★", words: "especially good" },
};

/** A kind may be put on: words (with `start` and `end`), a place of a page or picture, a moment, the whole. */
export function mayStand(kind: MarkKind, place: Place): boolean {
  const { on } = place;
  if (isEdit({ kind })) return on === "text" || on === "page";
  if (kind === "ink") return on === "page" || on === "picture" || areaOf(place) !== null;
  return true;
}

type Faulty = Pick<
  Mark,
  | "kind"
  | "nature"
  | "body"
  | "replacement"
  | "place"
  | "strokes"
  | "points"
  | "sentence"
  | "clipId"
> &
  Range;

/** Everything wrong with a mark that is about to be kept, by field; empty when it is right. */
export function faultsOf(mark: Faulty, textLength: number): Record<string, string> {
  const faults: Record<string, string> = {};
  const place = mark.place ?? { on: "text" };
  if (place.on === "text") {
    if (mark.start < 0 || mark.end > textLength || mark.start > mark.end)
      faults.start = "The mark lies outside the text.";
    if (mark.start === mark.end && mark.kind !== "insert")
      faults.end = "Select the words that the mark is about.";
  }
  if (!mayStand(mark.kind, place))
    faults.kind =
      mark.kind === "ink"
        ? "Ink goes on pages, pictures and the stills of a film."
        : "Edits go on words.";
  else if (place.on === "page" && isEdit(mark) && !place.words)
    faults.place = "Select the words on the page that the edit is about.";
  if (mark.kind === "ink" && !(mark.strokes && mark.strokes.length > 0))
    faults.strokes = "Nothing is drawn yet.";
  if (
    mark.kind === "note" &&
    mark.body.trim() === "" &&
    !mark.clipId &&
    !(place.on === "time" && mark.strokes?.length)
  )
    faults.body = "Write or say something in the note, or delete it.";
  if (mark.kind === "stamp" && (mark.body.trim() === "" || mark.body.length > 40))
    faults.body = "A stamp says something, in 40 characters at most.";
  if (
    (mark.kind === "insert" || mark.kind === "replace" || mark.kind === "transpose") &&
    mark.replacement === ""
  )
    faults.replacement = "Write the words to put in.";
  if (mark.nature === "request" && isStamp(mark))
    faults.nature = "A stamp asks for nothing; add a note to ask.";
  if (mark.points !== undefined && mark.points !== null && !SIGNED_POINTS.test(mark.points))
    faults.points = POINTS_FAULT;
  return faults;
}

/** What a mark is called, by its kind and where it stands. */
export function nameOfMark({ kind, place }: Pick<Mark, "kind" | "place">): string {
  if (isEdit({ kind })) return "edit";
  if (kind === "ink") return "ink";
  if (isStamp({ kind })) return "stamp";
  switch (place?.on) {
    case "page":
      return place.words ? "margin note" : isPoint(place.area) ? "pin" : "pin on an area";
    case "picture":
      return isPoint(place.area) ? "pin" : "pin on an area";
    case "time":
      return "time note";
    case "whole":
      return "note on the whole";
    default:
      return "margin note";
  }
}

/**
 * The words with their first and last exchanged (of a single word: its first and last selected letters):
 * what the proof-reader's transposition asks for. Null where there is nothing to exchange.
 *
 * @example transposed("blue sky") // "sky blue"
 * @example transposed("wind and rain") // "rain and wind"
 * @example transposed("ei") // "ie"
 */
export function transposed(words: string): string | null {
  const found = /^(\s*)(\S+)(\s+(?:.*\s)?)(\S+)(\s*)$/su.exec(words);
  if (found)
    return found[2] === found[4] ? null : `${found[1]}${found[4]}${found[3]}${found[2]}${found[5]}`;
  const letters = [...new Intl.Segmenter("en", { granularity: "grapheme" }).segment(words)].map(
    (s) => s.segment,
  );
  if (letters.length < 2 || letters.some((l) => /\s/u.test(l)) || letters[0] === letters.at(-1))
    return null;
  return [letters.at(-1), ...letters.slice(1, -1), letters[0]].join("");
}

/** What an edit asks for, in words; for readers, cards and those who do not read the signs. */
export function sayEdit(mark: Pick<Mark, "kind" | "quote" | "replacement">): string {
  switch (mark.kind) {
    case "insert":
      return `Put in “${mark.replacement}” here.`;
    case "delete":
      return `Take out “${mark.quote}”.`;
    case "transpose":
      return `Change places: “${mark.quote}” becomes “${mark.replacement}”.`;
    default:
      return mark.replacement === ""
        ? `Take out “${mark.quote}”.`
        : `Instead of “${mark.quote}”: “${mark.replacement}”.`;
  }
}
