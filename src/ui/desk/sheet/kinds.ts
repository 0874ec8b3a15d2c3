import { isEdit, isStamp, nameOfMark } from "@/core/marks/mark";
import type { DraftMark } from "@/core/views/deskViews";

/** Kinds of mark that can be shown or hidden, by what they are called. */
export function kindKey(mark: Pick<DraftMark, "kind" | "place">): string {
  if (isStamp(mark)) return "stamps";
  if (mark.kind === "ink") return "ink";
  if (isEdit(mark)) return "edits";
  return nameOfMark(mark).startsWith("pin") ? "pins" : "notes";
}
