/** A small deterministic source of chance (mulberry32): the same seed gives the same school. */
export type Random = () => number;

export function seeded(seed: number | string): Random {
  let state = typeof seed === "number" ? seed >>> 0 : hash(seed);
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** FNV-1a, so that a name can be a seed. */
function hash(text: string): number {
  let h = 0x811c9dc5;
  for (let n = 0; n < text.length; n += 1) h = Math.imul(h ^ text.charCodeAt(n), 0x01000193);
  return h >>> 0;
}

export const chance = (random: Random, p: number): boolean => random() < p;
export const upTo = (random: Random, n: number): number => Math.floor(random() * n);
export const between = (random: Random, low: number, high: number): number =>
  low + upTo(random, high - low + 1);
export const anyOf = <T>(random: Random, list: readonly T[]): T => list[upTo(random, list.length)]!;

/** `count` different items in their own order. */
export function someOf<T>(random: Random, list: readonly T[], count: number): T[] {
  const indices = list.map((_, n) => n);
  for (let n = indices.length - 1; n > 0; n -= 1) {
    const m = upTo(random, n + 1);
    [indices[n], indices[m]] = [indices[m]!, indices[n]!];
  }
  return indices
    .slice(0, count)
    .sort((a, b) => a - b)
    .map((n) => list[n]!);
}

/** Ids that look like UUIDv7 of `at` but come from the seed. */
export function seededIds(random: Random, at: Date): () => string {
  const time = at.getTime().toString(16).padStart(12, "0");
  const hex = (digits: number) =>
    Array.from({ length: digits }, () => upTo(random, 16).toString(16)).join("");
  return () =>
    `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${anyOf(random, ["8", "9", "a", "b"])}${hex(3)}-${hex(12)}`;
}
