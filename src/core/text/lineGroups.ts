import type { Alignment } from "./aligning/align";
import { indicesIn } from "./aligning/indices";
import type { Range } from "./selectors";

/** Lines of the earlier text and those that became of them, each in order; at least one of either. */
export type LineGroup = { before: Range[]; after: Range[] };

/** Share of both lines' words that makes them one line, changed. */
const SHARED = 0.3;
/** Share of one line's words that makes it part of the other, as half of a split paragraph is. */
const MOST = 0.5;

/**
 * Which lines became which, by where their words went: one of one, several of one (it was split), one of several
 * (they were merged), or several of several (wrapped anew). In the order of the later text.
 */
export function lineGroups(
  { beforeTokens, afterTokens, toAfter }: Alignment,
  earlier: readonly Range[],
  later: readonly Range[],
): LineGroup[] {
  const [own, theirs] = [
    earlier.map((line) => indicesIn(beforeTokens, [line])),
    later.map((line) => indicesIn(afterTokens, [line])),
  ];
  const lineOf = new Int32Array(afterTokens.length).fill(-1);
  theirs.forEach((words, j) => words.forEach((n) => (lineOf[n] = j)));
  const groups = new Groups();
  own.forEach((words, i) => {
    const shared = new Map<number, number>();
    for (const n of words) {
      const j = toAfter[n] === -1 ? -1 : lineOf[toAfter[n]!]!;
      if (j !== -1) shared.set(j, (shared.get(j) ?? 0) + 1);
    }
    for (const [j, count] of shared) {
      const [a, b] = [count / words.length, count / theirs[j]!.length];
      if (Math.min(a, b) >= SHARED || Math.max(a, b) > MOST) groups.join(i, j);
    }
  });
  return groups.all().map(({ before, after }) => ({
    before: before.map((i) => earlier[i]!),
    after: after.map((j) => later[j]!),
  }));
}

type Members = { before: number[]; after: number[] };

/** Connected lines. */
class Groups {
  private readonly ofEarlier = new Map<number, Members>();
  private readonly ofLater = new Map<number, Members>();

  join(i: number, j: number): void {
    const [a, b] = [this.ofEarlier.get(i), this.ofLater.get(j)];
    const group = a ?? b ?? { before: [], after: [] };
    if (a && b && a !== b) this.moveAll(b, group);
    if (!a) this.addEarlier(i, group);
    if (!b) this.addLater(j, group);
  }

  all(): Members[] {
    const groups = [...new Set(this.ofLater.values())];
    const rising = (x: number, y: number) => x - y;
    for (const group of groups) {
      group.before.sort(rising);
      group.after.sort(rising);
    }
    return groups.sort((a, b) => a.after[0]! - b.after[0]!);
  }

  private moveAll(from: Members, to: Members): void {
    for (const i of from.before) this.addEarlier(i, to);
    for (const j of from.after) this.addLater(j, to);
  }

  private addEarlier(i: number, group: Members): void {
    group.before.push(i);
    this.ofEarlier.set(i, group);
  }

  private addLater(j: number, group: Members): void {
    group.after.push(j);
    this.ofLater.set(j, group);
  }
}
