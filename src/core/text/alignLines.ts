import type { Range } from "./selectors";
import { lineRanges, tokens } from "./tokens";

/** Lines of an earlier text that answer to lines of a later one; several where one was split or two were merged. */
export type Stretch = { before: Range[]; after: Range[] };

/** Share of a line's word pairs that must stand in the other for the two to be the same line, changed. */
export const LINES_ALIKE = 0.3;

/** A heading or a cell of fewer word pairs than this is compared by single words, and by length too. */
export const FEW = 3;

export function pairLines(before: string, after: string): Stretch[] {
  const earlier = lineRanges(before);
  const later = lineRanges(after);
  const stretches: Stretch[] = [];
  const waiting = new Map<string, number[]>();
  later.forEach((range, i) => {
    const key = squeeze(after, range);
    waiting.set(key, [...(waiting.get(key) ?? []), i]);
  });
  const usedLater = new Set<number>();
  const changed: number[] = [];
  earlier.forEach((range, i) => {
    const twin = waiting.get(squeeze(before, range))?.shift();
    if (twin === undefined) changed.push(i);
    else {
      usedLater.add(twin);
      stretches.push({ before: [range], after: [later[twin]!] });
    }
  });
  const fresh = later.map((_, i) => i).filter((i) => !usedLater.has(i));
  return [
    ...stretches,
    ...joinAlike(
      before,
      after,
      changed.map((i) => earlier[i]!),
      fresh.map((i) => later[i]!),
    ),
  ];
}

/** Lines that hold enough of each other's word pairs, joined into stretches (connected groups). */
function joinAlike(before: string, after: string, earlier: Range[], later: Range[]): Stretch[] {
  const shinglesBefore = earlier.map((range) => shingles(before, range));
  const shinglesAfter = later.map((range) => shingles(after, range));
  const candidates: Candidate[] = [];
  shinglesBefore.forEach((a, i) => {
    shinglesAfter.forEach((b, j) => {
      const score =
        a.size < FEW || b.size < FEW
          ? shortLinesAlike(before, after, earlier[i]!, later[j]!)
          : overlap(a, b);
      if (score > LINES_ALIKE) candidates.push({ i, j, score });
    });
  });
  candidates.sort((x, y) => y.score - x.score || Math.abs(x.i - x.j) - Math.abs(y.i - y.j));

  return group(candidates, shinglesBefore, shinglesAfter).map((indices) => ({
    before: indices.before.sort(byPlace).map((n) => earlier[n]!),
    after: indices.after.sort(byPlace).map((n) => later[n]!),
  }));
}

type Candidate = { i: number; j: number; score: number };
const byPlace = (a: number, b: number) => a - b;

/**
 * The best counterpart of each side is taken; a further one joins only if it brings word pairs that
 * nobody in the stretch accounts for yet, as the other half of a split paragraph does.
 */
function group(
  candidates: readonly Candidate[],
  shinglesBefore: readonly ReadonlySet<string>[],
  shinglesAfter: readonly ReadonlySet<string>[],
): { before: number[]; after: number[] }[] {
  const groupOfLater = new Map<number, number>();
  const groupOfEarlier = new Map<number, number>();
  const groups: { before: number[]; after: number[] }[] = [];
  const claims = claimsOf();
  for (const { i, j } of candidates) {
    const gi = groupOfEarlier.get(i);
    const gj = groupOfLater.get(j);
    if (gi !== undefined && gj !== undefined) continue;
    const [a, b] = [shinglesBefore[i]!, shinglesAfter[j]!];
    const shared = [...a].filter((s) => b.has(s));
    const enough = LINES_ALIKE * Math.min(a.size, b.size);
    if (!claims.claim([`b${i}`, `a${j}`], shared, enough)) continue;
    const joins = gi ?? gj ?? groups.push({ before: [], after: [] }) - 1;
    if (gi === undefined) {
      groupOfEarlier.set(i, joins);
      groups[joins]!.before.push(i);
    }
    if (gj === undefined) {
      groupOfLater.set(j, joins);
      groups[joins]!.after.push(j);
    }
  }
  return groups;
}

/** The word pairs that lines of either side account for already. */
function claimsOf() {
  const claimed = new Map<string, ReadonlySet<string>>();
  const of = (line: string) => [...(claimed.get(line) ?? [])];
  return {
    /** Claims the pairs for both lines, unless one has some already and too few of these are new. */
    claim(lines: readonly string[], shared: readonly string[], enough: number): boolean {
      const known = new Set(lines.flatMap(of));
      const fresh = shared.filter((s) => !known.has(s)).length;
      if (known.size > 0 && fresh < enough) return false;
      for (const line of lines) claimed.set(line, new Set([...of(line), ...shared]));
      return true;
    },
  };
}

export function squeeze(text: string, { start, end }: Range): string {
  return text.slice(start, end).replace(/\s+/g, " ").trim();
}

/** The pairs of neighbouring words of a stretch, in lower case; of a single word, the word. */
export function shingles(text: string, range: Range): Set<string> {
  const words = tokens(text, range.start, range.end)
    .map((t) => t.text.toLowerCase())
    .filter((word) => /[\p{L}\p{N}]/u.test(word));
  if (words.length === 1) return new Set(words);
  return new Set(words.slice(1).map((word, n) => `${words[n]} ${word}`));
}

/** Dice's coefficient of the words of two short lines; below three fifths they are not one line. */
function shortLinesAlike(before: string, after: string, a: Range, b: Range): number {
  const words = (text: string, { start, end }: Range) =>
    new Set(tokens(text, start, end).map((t) => t.text.toLowerCase()));
  const [x, y] = [words(before, a), words(after, b)];
  const score = (2 * [...x].filter((word) => y.has(word)).length) / (x.size + y.size);
  return score >= 0.6 ? score : 0;
}

/** Share of the smaller set that stands in the larger, so that half of a split paragraph counts in full. */
export function overlap(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  const [small, large] = a.size <= b.size ? [a, b] : [b, a];
  if (small.size === 0) return 0;
  let shared = 0;
  for (const item of small) if (large.has(item)) shared += 1;
  return shared / small.size;
}
