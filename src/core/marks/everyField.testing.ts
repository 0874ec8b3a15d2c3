import type { Place } from "./place";
import { MARK_TABLE, wholeMark, type Mark, type MarkField } from "./schema";

export const FILM = "00000000-0000-7000-8000-0000000000f1";
export const CRITERION = "00000000-0000-7000-8000-0000000000c1";
export const CLIP_ID = "00000000-0000-7000-8000-0000000000d1";

const onStill: Place = {
  on: "time",
  itemId: FILM,
  from: 3.5,
  to: 6,
  area: { x: 10, y: 20, w: 30, h: 5 },
};

/**
 * A value for every field of a mark that is not nothing: tests take them through every copy. A field that is
 * added to the table and not here makes `everyFieldMark` say so.
 */
const SAMPLES: { [F in MarkField]: Mark[F] } = {
  id: "00000000-0000-7000-8000-0000000000a1",
  kind: "note",
  nature: "request",
  start: 3,
  end: 9,
  quote: "the rain",
  body: "Look *again*.",
  replacement: "the drizzle",
  place: onStill,
  strokes: [
    {
      ink: "ember",
      width: 0.5,
      points: [
        [1, 2, 0.5],
        [30.25, 40, 1],
      ],
    },
  ],
  sentence: "It was the rain.",
  criterionId: CRITERION,
  points: "-0.5",
  ink: "plum",
  clipId: CLIP_ID,
};

/** A mark that has something in every field; its place is on a film's still unless `on` says otherwise. */
export function everyFieldMark(on: Partial<Mark> = {}): Mark {
  for (const [field, { nothing }] of MARK_TABLE) {
    if (SAMPLES[field] === undefined || SAMPLES[field] === nothing)
      throw new Error(`Give “${field}” a value here that is not nothing.`);
  }
  return wholeMark({ ...SAMPLES, ...on });
}
