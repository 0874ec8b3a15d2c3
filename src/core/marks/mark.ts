import { areaOf, isPoint, type Area, type Place } from "./place";
import { wholeMark, type GivenMark, type Mark, type MarkKind } from "./schema";
import { POINTS_FAULT, SIGNED_POINTS } from "./signedPoints";

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

/** Everything wrong with a mark that is about to be kept, by field; empty when it is right. */
export function faultsOf(given: Omit<GivenMark, "id">, textLength: number): Record<string, string> {
  const mark = wholeMark({ ...given, id: "" });
  return {
    ...(mark.place.on === "text" ? faultsOfRange(mark, textLength) : {}),
    ...faultsOfStanding(mark),
    ...faultsOfWords(mark),
  };
}

function faultsOfRange({ kind, start, end }: Mark, textLength: number): Record<string, string> {
  const outside = start < 0 || end > textLength || start > end;
  const empty = start === end && kind !== "insert";
  return {
    ...(outside ? { start: "The mark lies outside the text." } : {}),
    ...(empty ? { end: "Select the words that the mark is about." } : {}),
  };
}

function faultsOfStanding({ kind, place }: Mark): Record<string, string> {
  if (mayStand(kind, place)) {
    const lacksWords = place.on === "page" && isEdit({ kind }) && !place.words;
    return lacksWords ? { place: "Select the words on the page that the edit is about." } : {};
  }
  return {
    kind:
      kind === "ink"
        ? "Ink goes on pages, pictures and the stills of a film."
        : "Edits go on words.",
  };
}

/** Kinds of edit that put words in. */
const PUTS_IN: readonly MarkKind[] = ["insert", "replace", "transpose"];

function faultOfBody({ kind, body, clipId, place, strokes }: Mark): string | null {
  const isEmpty = body.trim() === "";
  if (kind === "stamp")
    return isEmpty || body.length > 40 ? "A stamp says something, in 40 characters at most." : null;
  if (kind !== "note" || !isEmpty || clipId) return null;
  const isDrawnOnStill = place.on === "time" && strokes.length > 0;
  return isDrawnOnStill ? null : "Write or say something in the note, or delete it.";
}

function faultsOfWords(mark: Mark): Record<string, string> {
  const { kind, nature, strokes, points } = mark;
  const faults: Record<string, string> = {};
  const body = faultOfBody(mark);
  if (body) faults.body = body;
  if (kind === "ink" && strokes.length === 0) faults.strokes = "Nothing is drawn yet.";
  if (PUTS_IN.includes(kind) && mark.replacement === "")
    faults.replacement = "Write the words to put in.";
  if (nature === "request" && isStamp(mark))
    faults.nature = "A stamp asks for nothing; add a note to ask.";
  if (points !== null && !SIGNED_POINTS.test(points)) faults.points = POINTS_FAULT;
  return faults;
}

const nameOfPin = (area: Area) => (isPoint(area) ? "pin" : "pin on an area");

/** What a mark is called, by its kind and where it stands. */
export function nameOfMark({ kind, place }: Pick<GivenMark, "kind" | "place">): string {
  if (isEdit({ kind })) return "edit";
  if (kind === "ink") return "ink";
  if (isStamp({ kind })) return "stamp";
  switch (place?.on) {
    case "page":
      return place.words ? "margin note" : nameOfPin(place.area);
    case "picture":
      return nameOfPin(place.area);
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
