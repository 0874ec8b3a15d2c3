import { isEdit, isStamp, nameOfMark, sayEdit, STAMP_SIGNS } from "@/core/marks/mark";
import type { Mark, Nature } from "@/core/marks/schema";
import { areaOf, itemOf, type Place } from "@/core/marks/place";
import { sayDuration } from "@/core/items/kinds";
import { sayNote } from "@/core/text/noteText";
import type { AnsweredMark } from "@/core/views/views";

/** How a mark looks: what asks is ember, what is settled moss, praise moss with a star, all else tide. */
export type Tone = "note" | "request" | "settled" | "praise";

/** A mark as it is drawn on a page, a picture, or beside a recording. */
export type PlacedMark = Pick<
  Mark,
  "id" | "kind" | "body" | "replacement" | "quote" | "place" | "strokes"
> & {
  clipId?: string | null;
  tone: Tone;
  label: string;
  /** Not of this draft: it can be chosen, not moved. */ fixed: boolean;
};

/** The numbers of the pins of each file, in the order one reads: the same on the pin and on its note. */
export function numbersOf(marks: readonly PlacedMark[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  const pins = marks.filter((m) => m.kind === "note" && areaOf(m.place) !== null);
  return new Map(
    [...pins]
      .sort((a, b) => downThePage(a) - downThePage(b))
      .map((m) => {
        const item = itemOf(m.place)!;
        counts.set(item, (counts.get(item) ?? 0) + 1);
        return [m.id, counts.get(item)!];
      }),
  );
}

const DOWN: { [On in Place["on"]]: (place: Extract<Place, { on: On }>) => number } = {
  text: () => 0,
  whole: () => 0,
  page: ({ page, area }) => page * 1000 + area.y,
  picture: ({ area }) => area.y,
  time: ({ from }) => from,
};

/** Down the file: page after page, from top to bottom. */
export const downThePage = ({ place }: Pick<PlacedMark, "place">): number =>
  DOWN[place.on](place as never);

/** As one reads: what is on the whole, then what is on the text (in the order given), then file after file. */
export function inReadingOrder<M extends Pick<Mark, "place">>(marks: readonly M[]): M[] {
  const files = [...new Set(marks.map((m) => itemOf(m.place)))];
  const rank = (m: M) => {
    const file = itemOf(m.place);
    if (file !== null) return 2 + files.indexOf(file);
    return m.place.on === "whole" ? 0 : 1;
  };
  return [...marks].sort((a, b) => rank(a) - rank(b) || downThePage(a) - downThePage(b));
}

const TONES: Readonly<Record<Nature, Tone>> = {
  remark: "note",
  request: "request",
  praise: "praise",
};
export const toneOf = (mark: Pick<Mark, "nature">): Tone => TONES[mark.nature];

/** The tone of a mark that came back to its student: a request that was answered asks no more. */
export function answeredTone({ request, nature }: Pick<AnsweredMark, "request" | "nature">): Tone {
  if (request === "open") return "request";
  if (request) return "settled";
  return nature === "praise" ? "praise" : "note";
}

/** The sign of a stamp; an own stamp shows its text. */
export const signOf = ({ kind, body }: Pick<Mark, "kind" | "body">): string =>
  kind === "stamp" ? body : (STAMP_SIGNS[kind]?.sign ?? "");

function sayKind(mark: Pick<Mark, "kind" | "nature" | "body" | "place">): string {
  if (mark.kind === "note" && mark.nature !== "remark")
    return `${nameOfMark(mark)} (${mark.nature})`;
  if (mark.kind === "stamp") return `stamp: ${mark.body}`;
  return isStamp(mark) ? `stamp: ${STAMP_SIGNS[mark.kind]?.words ?? mark.kind}` : nameOfMark(mark);
}

/**
 * What a mark is, what became of it, and what it says, in one line, for screen readers and titles.
 *
 * @example sayWhole(mark) // "pin on page 2: Which unit?" · "pin (request), settled: Which unit?"
 */
export function sayWhole(
  mark: Pick<Mark, "kind" | "nature" | "quote" | "replacement" | "body" | "place"> &
    Partial<Pick<AnsweredMark, "request" | "decision">>,
): string {
  const what = sayKind(mark);
  const became = mark.request ?? mark.decision;
  const where = sayPlace(mark.place);
  const said = [isEdit(mark) ? sayEdit(mark) : "", mark.kind === "stamp" ? "" : sayNote(mark.body)]
    .filter(Boolean)
    .join(" ");
  const whole = [what, where].filter(Boolean).join(" ");
  return [became ? `${whole}, ${became}` : whole, said].filter(Boolean).join(": ");
}

/** @example sayPlace({ on: "time", itemId, from: 12, to: 15 }) // "at 0:12 to 0:15" */
export function sayPlace(place: Place): string {
  switch (place.on) {
    case "page":
      return `on page ${place.page}`;
    case "time":
      return `at ${sayDuration(place.from)}${place.to === null ? "" : ` to ${sayDuration(place.to)}`}`;
    default:
      return "";
  }
}
