/** What waits for a teacher of one hand-out, as far as its place among the others follows from it. */
export type Waits = {
  /** When it was promised back; null: nothing was promised. */
  promisedAt: Date | null;
  /** Pieces of the promised round that are not back yet. */
  owed: number;
  /** Since when the oldest of what waits is there; null: nothing that has a time. */
  oldestAt: Date | null;
};

/** A promise that has passed while something of it is not back. */
export const isBroken = ({ promisedAt, owed }: Waits, now: Date): boolean =>
  promisedAt !== null && promisedAt < now && owed > 0;

const DAY = 86_400_000;
const FAR = Number.MAX_SAFE_INTEGER;

/**
 * Orders what waits by how much it presses: broken promises first, the longest broken before the others; then by how
 * many whole days the oldest piece waits, and of equals the one that is promised sooner.
 */
export function byPressing(a: Waits, b: Waits, now: Date): number {
  const keys = (waits: Waits): [number, number, number] => {
    const promised = waits.promisedAt?.getTime() ?? FAR;
    const broken = isBroken(waits, now);
    const days = waits.oldestAt ? Math.floor((now.getTime() - waits.oldestAt.getTime()) / DAY) : -1;
    return [broken ? 0 : 1, broken ? promised : -days, promised];
  };
  const [first, second] = [keys(a), keys(b)];
  const at = first.findIndex((key, n) => key !== second[n]);
  return at < 0 ? 0 : first[at]! - second[at]!;
}
