import { allItSays } from "@/core/marks/schema";
import type { DeskPiece, DraftMark, EarlierMark } from "@/core/views/deskViews";

export type Ruling = EarlierMark["ruling"];

/** Why nothing can be put on the work, before anybody writes it. */
export const NOTHING_TO_MARK =
  "Nothing is handed in yet, so there is nothing that a mark could stand on. The overall note (o) and the thread reach the student.";

/**
 * A change to the draft of a piece, as data: what it does can be shown before the server has it, kept on the device,
 * and turned round. A mark is named whole, as it is to be; `versionId` is the version it was made on.
 */
export type Change =
  | { what: "add"; mark: DraftMark; versionId: string }
  | { what: "put"; mark: DraftMark; before: DraftMark | null }
  | { what: "remove"; mark: DraftMark }
  | { what: "rule"; markId: string; ruling: Ruling; before: Ruling; likely?: boolean };

/** Changes to one thing go to the server one after the other; to different things side by side. */
export const laneOf = (change: Change): string =>
  change.what === "rule" ? `ruling ${change.markId}` : change.mark.id;

/** The change that takes this one back. A mark that was added and deleted comes back by being changed. */
export function inverseOf(change: Change): Change {
  switch (change.what) {
    case "add":
      return { what: "remove", mark: change.mark };
    case "put":
      return change.before
        ? { what: "put", mark: change.before, before: change.mark }
        : { what: "remove", mark: change.mark };
    case "remove":
      return { what: "put", mark: change.mark, before: null };
    case "rule":
      return { ...change, ruling: change.before, before: change.ruling };
  }
}

const inOrder = (marks: DraftMark[]) => marks.sort((a, b) => a.start - b.start);

/** The piece as it is when the change has happened. */
export function applied(piece: DeskPiece, change: Change): DeskPiece {
  if (change.what === "rule") {
    const { markId, ruling } = change;
    const earlier = piece.earlier.map((m) => (m.id === markId ? { ...m, ruling } : m));
    return { ...piece, earlier };
  }
  const others = piece.marks.filter((m) => m.id !== change.mark.id);
  if (change.what === "remove") return { ...piece, marks: others };
  return { ...piece, marks: inOrder([...others, change.mark]) };
}

/**
 * Two changes to one thing of which the server knows neither, as one; null: nothing is left to do, undefined: they
 * stay two.
 */
export function joined(first: Change, then: Change): Change | null | undefined {
  if (first.what === "rule" && then.what === "rule")
    return first.before === then.ruling ? null : { ...then, before: first.before };
  if (first.what === "rule" || then.what === "rule") return undefined;
  if (first.what === "add") {
    if (then.what === "remove") return null;
    return { ...first, mark: then.mark };
  }
  if (first.what === "put" && then.what === "put") return { ...then, before: first.before };
  if (first.what === "put" && then.what === "remove") return then;
  return undefined;
}

/** Whether the thing is as the change left it: only then can the change be taken back. */
export function stillHolds(piece: DeskPiece, change: Change): boolean {
  if (change.what === "rule") {
    const found = piece.earlier.find((m) => m.id === change.markId);
    return found !== undefined && (found.ruling ?? null) === change.ruling;
  }
  const found = piece.marks.find((m) => m.id === change.mark.id);
  if (change.what === "remove") return found === undefined;
  return found !== undefined && allItSays(found) === allItSays(change.mark);
}

/** What was written in it, for the sentence that says it was refused. */
export const wordsOf = (change: Change): string =>
  change.what === "rule" || change.what === "remove"
    ? ""
    : change.mark.body || change.mark.replacement;
