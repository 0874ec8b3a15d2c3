import type { Part } from "../handouts/parts";
import { sayParts } from "../handouts/parts";

/** What a teacher says of the round that a revision opens: how many there will be, and which parts are to be worked on. */
export type AskedOfRound = {
  /** Rounds from the one that opens now on; null: as many as it needs. */ more: number | null;
  /** Parts by id; none: all of them. */ parts: string[];
};
export const MOST_MORE = 9;

/** The same as it is kept with a hand-back: in words, which stay as they were. */
export type SaidOfRound = { more: number | null; parts: { id: string; name: string }[] };

/** Those of the parts that are asked for, by name; all of them is the same as none. */
export function saidOfRound(
  { more, parts }: AskedOfRound,
  all: readonly Part[],
): SaidOfRound | null {
  const chosen = all.filter((part) => parts.includes(part.id));
  const some = chosen.length === all.length ? [] : chosen;
  if (more === null && some.length === 0) return null;
  return { more, parts: some.map((part) => ({ id: part.id, name: sayParts([part]) })) };
}

/** @example sayAsked({ more: 1, parts: [] }, 2) // ["Round 2 is the last."] */
export function sayAsked({ more, parts }: SaidOfRound, next: number): string[] {
  const names = parts.map((part) => part.name);
  const list =
    names.length > 1 ? `${names.slice(0, -1).join(", ")} and ${names.at(-1)!}` : names.join("");
  return [
    list ? `To revise: ${list}. The rest can stay as it is.` : "",
    sayMore(more, next),
  ].filter(Boolean);
}

function sayMore(more: number | null, next: number): string {
  if (more === null) return "";
  return more === 1
    ? `Round ${next} is the last.`
    : `There are ${more} more rounds, this one counted.`;
}
