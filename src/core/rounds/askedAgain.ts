import type { Place } from "../marks/place";
import { takenAlong, wholeMark, type Mark } from "../marks/schema";
import type { AnsweredMark } from "../views/views";

/**
 * A request of an earlier round as it is asked again in this one: the same words, on the words it was about as
 * they now stand, where it can be changed like any mark. On a file that is still there it stands where it stood;
 * what it stood on being gone, it becomes a note on the whole. An edit becomes a note: the words it would have
 * changed are others now.
 *
 * @param text the text of the version it is asked on
 */
export function askedAgain(earlier: AnsweredMark, id: string, text: string): Mark {
  const { at, ...before } = earlier;
  const mark = wholeMark({ ...before, ...(at ?? {}) });
  const stands = standsAgain(earlier, text);
  const drawn = stands.place.on === "text" || earlier.gone ? [] : mark.strokes;
  return wholeMark({
    ...takenAlong(mark),
    ...stands,
    id,
    kind: mark.kind === "ink" && drawn.length > 0 ? "ink" : "note",
    strokes: drawn,
    nature: "request",
    body: sayAgain(mark),
  });
}

const ON_THE_WHOLE = { place: { on: "whole", itemId: null } satisfies Place, start: 0, end: 0 };

function standsAgain(
  { at, place, gone, quote }: AnsweredMark,
  text: string,
): Pick<Mark, "place" | "start" | "end" | "quote"> {
  if (place.on !== "text")
    return gone ? { ...ON_THE_WHOLE, quote } : { place, start: 0, end: 0, quote };
  if (at) {
    const end = Math.max(at.end, at.start + 1);
    return { place, start: at.start, end, quote: text.slice(at.start, at.end) };
  }
  // Its words are gone: on the first letter, as a place that is listed and stands nowhere else.
  return text === "" ? { ...ON_THE_WHOLE, quote } : { place, start: 0, end: 1, quote };
}

function sayAgain({ body, replacement, clipId }: Mark): string {
  return body || replacement || (clipId ? "" : "Please do this.");
}
