/** A score as it was typed into the draft of a round; "" where it was taken away. */
export type TypedScore = { round: number; typed: string; by: string; at: Date };

/** What one teacher types within so long, in milliseconds, is one score that was being made up. */
const PAUSE_MS = 120_000;

/**
 * The history of a draft's score without what was typed on the way: of what one teacher typed within two minutes the
 * last alone, and nothing where it came out as it was.
 *
 * @param all in the order in which they were typed
 * @example 9:00 "7", 9:01 "7.5", 9:30 "8" → "7.5", "8"
 */
export function typedScores(all: readonly TypedScore[]): TypedScore[] {
  const rounds = new Map<number, TypedScore[]>();
  for (const one of all) {
    const own = rounds.get(one.round) ?? [];
    rounds.set(one.round, own);
    if (isOnTheWay(own.at(-1), one)) own.pop();
    if ((own.at(-1)?.typed ?? "") !== one.typed) own.push(one);
  }
  return [...rounds.values()].flat();
}

const isOnTheWay = (before: TypedScore | undefined, next: TypedScore): boolean =>
  before !== undefined &&
  before.by === next.by &&
  next.at.getTime() - before.at.getTime() <= PAUSE_MS;
