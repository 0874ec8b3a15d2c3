import type { AnsweredMark } from "@/core/views/views";
import { itemOf } from "@/core/marks/place";
import { answeredTone, sayWhole, type PlacedMark } from "./drawn";
import type { DrawnMark } from "../text/RichText";

/** Marks that came back as they are drawn on the words of a text; those that stand elsewhere are left out. */
export const drawnOnWords = (marks: readonly AnsweredMark[]): DrawnMark[] =>
  marks.flatMap(({ at, ...mark }) =>
    at
      ? [
          {
            id: mark.id,
            kind: mark.kind,
            tone: answeredTone(mark),
            ...at,
            replacement: mark.replacement,
            body: mark.body,
            ink: mark.ink,
            label: sayWhole(mark),
          },
        ]
      : [],
  );

/** A mark that stands on a file, not on the writing. */
export const isOnFile = (mark: Pick<AnsweredMark, "place">): boolean => itemOf(mark.place) !== null;

/** A mark that came back as it is drawn on a page, a picture or beside a recording. */
export function placedMark(mark: AnsweredMark): PlacedMark {
  return { ...mark, tone: answeredTone(mark), label: sayWhole(mark), fixed: true };
}
