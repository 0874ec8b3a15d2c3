import { COMMENT_TABLE, wholeComment, type BankComment } from "./schema";

const SAMPLES: BankComment = {
  text: "Which *unit*, {name}?",
  shorthand: "unit",
  nature: "request",
  favourite: 4,
  folder: "Measuring/Units",
  tags: ["units", "tables"],
  share: "school",
  courseId: "00000000-0000-7000-8000-0000000000e1",
  kind: "replace",
  replacement: "mm",
  criterion: "Evidence",
  points: "-0.5",
  clipId: "00000000-0000-7000-8000-0000000000d1",
};

/** A comment that has something in every field; a field added to the table and not here makes this say so. */
export function everyFieldComment(given: Partial<BankComment> = {}): BankComment {
  for (const [field, { nothing }] of COMMENT_TABLE) {
    if (SAMPLES[field] === undefined || SAMPLES[field] === nothing)
      throw new Error(`Give “${field}” a value here that is not nothing.`);
  }
  return wholeComment({ ...SAMPLES, ...given });
}
