import { paceOf as paceOfPile } from "../desk/pace";
import type { PartKind } from "../handouts/parts";

/** How long one piece took a teacher at the Desk. */
export type Taken = { handOutId: string; kind: string; seconds: number };

/**
 * A teacher's own pace at a kind of work, in seconds a piece: the median of this very hand-out where enough of it was
 * read, else of work of the same kind, else of all; null where too little was read to tell.
 */
export function paceOf(
  taken: readonly Taken[],
  { handOutId, kind }: Pick<Taken, "handOutId" | "kind">,
): number | null {
  const groups = [
    taken.filter((t) => t.handOutId === handOutId),
    taken.filter((t) => t.kind === kind),
    taken,
  ];
  const paces = groups.map((group) => paceOfPile(group.map(({ seconds }) => seconds)));
  return paces.find((pace) => pace !== null)?.median ?? null;
}

/** Whole minutes for so many pieces, never none where there is something to read. */
export const minutesFor = (pieces: number, pace: number | null): number | null =>
  pace === null || pieces === 0 ? null : Math.max(1, Math.round((pieces * pace) / 60));

/** @example sayMinutes(75) // "1 h 15" */
export function sayMinutes(minutes: number): string {
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return `${Math.floor(minutes / 60)} h${rest === 0 ? "" : ` ${String(rest).padStart(2, "0")}`}`;
}

/** The order in which a kind of part says what a piece of work is, where there are several. */
const SAYS: readonly PartKind[] = ["film", "sound", "photos", "files", "questions", "writing"];

/** What kind of work it is, for its pace: the part that takes longest to look at. */
export const kindOfWork = (parts: readonly { kind: PartKind }[]): PartKind | "on paper" =>
  SAYS.find((kind) => parts.some((part) => part.kind === kind)) ?? "on paper";
