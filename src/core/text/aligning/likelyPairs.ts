/** Up to so many pairs each is looked at; beyond, only those that share something rare. */
export const ALL_PAIRS = 20_000;
/** What stands in more sets than this tells none of them apart. */
const COMMON = 40;
/** The likeliest counterparts that are looked at of one set. */
const BEST = 8;

/**
 * Pairs of sets that may be alike, without comparing each with each: by an index of what the later sets hold
 * (as a search engine does), in time near the number of entries. Few sets are all paired.
 *
 * @returns pairs of indices, those of one earlier set together
 */
export function likelyPairs(
  earlier: readonly ReadonlySet<string>[],
  later: readonly ReadonlySet<string>[],
): [number, number][] {
  if (earlier.length * later.length <= ALL_PAIRS)
    return earlier.flatMap((_, i) => later.map((_set, j): [number, number] => [i, j]));
  const holders = new Map<string, number[]>();
  later.forEach((set, j) => {
    for (const entry of set) {
      const list = holders.get(entry);
      if (!list) holders.set(entry, [j]);
      else if (list.length <= COMMON) list.push(j);
    }
  });
  return earlier.flatMap((set, i) => likeliest(set, holders).map((j): [number, number] => [i, j]));
}

function likeliest(set: ReadonlySet<string>, holders: ReadonlyMap<string, number[]>): number[] {
  const shared = new Map<number, number>();
  for (const entry of set) {
    const list = holders.get(entry);
    if (!list || list.length > COMMON) continue;
    for (const j of list) shared.set(j, (shared.get(j) ?? 0) + 1);
  }
  return [...shared]
    .sort((x, y) => y[1] - x[1] || x[0] - y[0])
    .slice(0, BEST)
    .map(([j]) => j);
}
