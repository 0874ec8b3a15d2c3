import type { Range } from "../text/selectors";

/** The marks a teacher puts on writing. Offsets are of the version's plain text (`text/plainText`). */
export const MARK_KINDS = ["note", "insert", "delete", "replace", "tick", "cross"] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

export const NATURES = ["remark", "request"] as const;
export type Nature = (typeof NATURES)[number];

export type Mark = Range & {
  id: string;
  kind: MarkKind;
  nature: Nature;
  /** What the teacher says; may be empty for edits, ticks and crosses. */
  body: string;
  /** The words to put in, for `insert` and `replace`. */
  replacement: string;
  /** The words it was made on, kept so that it can be shown when they are gone. */
  quote: string;
};

export type Edit = Mark & { kind: "insert" | "delete" | "replace" };

export function isEdit(mark: Pick<Mark, "kind">): boolean {
  return mark.kind === "insert" || mark.kind === "delete" || mark.kind === "replace";
}

/** Everything wrong with a mark that is about to be kept, by field; empty when it is right. */
export function faultsOf(mark: Pick<Mark, "kind" | "nature" | "body" | "replacement"> & Range, textLength: number): Record<string, string> {
  const faults: Record<string, string> = {};
  if (mark.start < 0 || mark.end > textLength || mark.start > mark.end) faults.start = "The mark lies outside the text.";
  if (mark.start === mark.end && mark.kind !== "insert") faults.end = "Select the words that the mark is about.";
  if (mark.kind === "note" && mark.body.trim() === "") faults.body = "Write something in the note, or delete it.";
  if ((mark.kind === "insert" || mark.kind === "replace") && mark.replacement === "") faults.replacement = "Write the words to put in.";
  if (mark.nature === "request" && (mark.kind === "tick" || mark.kind === "cross")) faults.nature = "A tick or a cross asks for nothing; add a note to ask.";
  return faults;
}
