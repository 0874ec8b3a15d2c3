import type { AnsweredMark } from "@/core/views/views";
import { answeredTone, sayWhole } from "../marks/drawn";
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
            label: sayWhole(mark),
          },
        ]
      : [],
  );
