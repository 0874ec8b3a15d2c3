import type { Range } from "../selectors";
import type { Token } from "../tokens";

/** Indices of the tokens that lie within the ranges; tokens are in order of their place. */
export function indicesIn(all: readonly Token[], ranges: readonly Range[]): number[] {
  const indices: number[] = [];
  for (const { start, end } of ranges) {
    let low = 0;
    let high = all.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (all[middle]!.start < start) low = middle + 1;
      else high = middle;
    }
    for (let n = low; n < all.length && all[n]!.end <= end; n += 1) indices.push(n);
  }
  return indices;
}

/** The first and the last of the words around one that went to the same word as it: they were joined. */
export function joinedWith(toAfter: Int32Array, word: number): { first: number; last: number } {
  let [first, last] = [word, word];
  while (first > 0 && toAfter[first - 1] === toAfter[word]) first -= 1;
  while (last + 1 < toAfter.length && toAfter[last + 1] === toAfter[word]) last += 1;
  return { first, last };
}
