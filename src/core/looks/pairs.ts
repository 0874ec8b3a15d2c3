/** Who reads whose work: by the writer's id, the reader's. */
export type Pairs = ReadonlyMap<string, string>;

/**
 * Who reads whose, drawn so that everyone gives one look and gets one, and nobody reads their own. What was drawn
 * before stays as far as it can: who left is bridged, who is new is put between two. Readers who were asked already
 * keep their writer wherever another place for the new one is left.
 *
 * @param here those who take part now; fewer than two make no pair
 * @param before what was drawn before; empty for the first draw
 * @param random from 0 up to 1, as Math.random
 * @param asked writers who have asked their reader already
 * @example drawPairs(["a", "b"], new Map(), () => 0) // a → b, b → a
 */
export function drawPairs(
  here: readonly string[],
  before: Pairs,
  random: () => number,
  asked: ReadonlySet<string> = new Set(),
): Map<string, string> {
  const all = new Set(here);
  if (all.size < 2) return new Map();
  const pairs = bridged(all, before);
  const waiting = shuffled(
    [...all].filter((id) => !pairs.has(id)),
    random,
  );
  for (const id of waiting) putBetween(pairs, id, asked);
  return pairs;
}

/** The pairs of those who are still here: where a reader left, the one whose work they read is passed on. */
function bridged(here: ReadonlySet<string>, before: Pairs): Map<string, string> {
  const pairs = new Map<string, string>();
  for (const writer of before.keys()) {
    if (!here.has(writer)) continue;
    let reader = before.get(writer);
    // Each step leaves one who is gone; a ring of n has n of them at most.
    for (let n = 0; n < before.size && reader !== undefined && !here.has(reader); n += 1)
      reader = before.get(reader);
    if (reader !== undefined && here.has(reader) && reader !== writer) pairs.set(writer, reader);
  }
  return pairs;
}

/** Puts one who has no pair yet between a writer and their reader; the first two make a ring of their own. */
function putBetween(pairs: Map<string, string>, id: string, asked: ReadonlySet<string>): void {
  const writers = [...pairs.keys()];
  const free = writers.find((w) => !asked.has(w)) ?? writers[0];
  if (free === undefined) return void pairs.set(id, id);
  const reader = pairs.get(free)!;
  pairs.set(free, id);
  pairs.set(id, reader);
}

/** In an order drawn by lot (Fisher and Yates). */
function shuffled<T>(list: readonly T[], random: () => number): T[] {
  const out = [...list];
  for (let n = out.length - 1; n > 0; n -= 1) {
    const other = Math.floor(random() * (n + 1));
    [out[n], out[other]] = [out[other]!, out[n]!];
  }
  return out;
}
