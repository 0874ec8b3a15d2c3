/** Emoji by their usual names: `:cloud` while one writes. The first name is the usual one, the rest are what else it is found by. */
export type Emoji = { emoji: string; names: readonly string[] };

/**
 * What is typed after a colon, if it can be the name of an emoji: two letters at least, after a space or at the beginning,
 * so that times (16:30) and "note: this" are left alone.
 *
 * @example pendingEmoji("Well done :st", 13) // { from: 10, query: "st" }
 */
export function pendingEmoji(text: string, caret: number): { from: number; query: string } | null {
  const found = /(?:^|[\s([])(:([a-z][a-z0-9_+-]+))$/i.exec(text.slice(0, caret));
  return found ? { from: caret - found[1]!.length, query: found[2]!.toLowerCase() } : null;
}

/** Emoji for a name or a part of one: the one called so first, then those that begin with it, in the list's own order. */
export function findEmoji(list: readonly Emoji[], query: string, most: number): Emoji[] {
  const ranks = [
    ({ names }: Emoji) => names[0] === query,
    ({ names }: Emoji) => names.includes(query),
    ({ names }: Emoji) => names.some((name) => name.startsWith(query)),
    ({ names }: Emoji) => names.some((name) => name.includes(query)),
  ];
  const rank = (entry: Emoji) => {
    const found = ranks.findIndex((isSo) => isSo(entry));
    return found === -1 ? ranks.length : found;
  };
  return list
    .map((entry, n) => ({ entry, n, rank: rank(entry) }))
    .filter((found) => found.rank < 4)
    .sort((a, b) => a.rank - b.rank || a.n - b.n)
    .slice(0, most)
    .map((found) => found.entry);
}
