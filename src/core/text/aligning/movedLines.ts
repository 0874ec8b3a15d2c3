import { hasLetters, isShort, onceInBoth } from "./linesInPlace";

type Pair = [number, number];

/**
 * Equal lines that have no counterpart in place, and really moved. A line of several words is the same line
 * wherever it stands (of several equal ones in order). A line of one or two says little of itself: it has moved where
 * it stands once in both texts, as in a list that was sorted, but not where it took another's place, as an answer
 * does that was changed; and with what it stood under, as a cell does with its row. A number that left one cell and
 * came up in another has not moved, unless its row did.
 *
 * @param inPlace the pairs that kept their order, rising
 */
export function movedLines(
  before: readonly string[],
  after: readonly string[],
  inPlace: readonly Pair[],
): Pair[] {
  const search = new Search(before, after, inPlace);
  search.takeTelling();
  search.takeSingle();
  search.takeNeighbours();
  return search.moved;
}

/** More than any list of school work needs, whose rows are taken away one after the other. */
const PASSES = 40;

/** Whether what a line stands under, past numbers, is among those accounted for: else it is another row's. */
function standsUnder(keys: readonly string[], known: ReadonlySet<number>, line: number): boolean {
  let n = line - 1;
  while (n >= 0 && !known.has(n) && !hasLetters(keys[n]!)) n -= 1;
  return n < 0 || known.has(n);
}

/** Share of its lines that a list still has when it was put in another order. */
const LISTED = 0.7;

class Search {
  readonly moved: Pair[] = [];
  private readonly usedBefore: Map<number, number>;
  private readonly usedAfter: Map<number, number>;

  constructor(
    private readonly before: readonly string[],
    private readonly after: readonly string[],
    private readonly inPlace: readonly Pair[],
  ) {
    this.usedBefore = new Map(inPlace);
    this.usedAfter = new Map(inPlace.map(([i, j]) => [j, i]));
  }

  takeTelling(): void {
    const waiting = new Map<string, number[]>();
    this.after.forEach((key, j) => {
      if (this.usedAfter.has(j) || isShort(key)) return;
      const places = waiting.get(key);
      if (places) places.push(j);
      else waiting.set(key, [j]);
    });
    // Taken from the end of a turned list, which costs nothing.
    for (const places of waiting.values()) places.reverse();
    this.before.forEach((key, i) => {
      const j = this.usedBefore.has(i) ? undefined : waiting.get(key)?.pop();
      if (j !== undefined) this.take(i, j);
    });
  }

  takeSingle(): void {
    const single = onceInBoth(this.before, this.after).filter(
      ([i, j]) => !this.usedBefore.has(i) && !this.usedAfter.has(j) && hasLetters(this.before[i]!),
    );
    const changed = this.replacedOne();
    // Most of them elsewhere: the list was put in another order, and two that changed places did just that.
    const sorted = single.length > this.inPlace.length;
    const free = single.filter(
      ([i, j]) => sorted || !(changed.before.has(i) || changed.after.has(j)),
    );
    const list = sorted && this.isList(single.length);
    for (const [i, j] of list ? free : this.withoutLeftBehind(free)) this.take(i, j);
  }

  /** Whether nearly every line stands for itself: a list, where nothing stands under anything. */
  private isList(single: number): boolean {
    return (
      single + this.inPlace.length >= LISTED * this.before.length && this.before.every(hasLetters)
    );
  }

  /** Whether a line stays with what it stood under depends on whether that has moved too: until nothing changes. */
  private withoutLeftBehind(pairs: Pair[]): Pair[] {
    for (let pass = 0; pass < PASSES; pass += 1) {
      const before = new Set([...this.usedBefore.keys(), ...pairs.map(([i]) => i)]);
      const after = new Set([...this.usedAfter.keys(), ...pairs.map(([, j]) => j)]);
      const kept = pairs.filter(
        ([i, j]) => standsUnder(this.before, before, i) && standsUnder(this.after, after, j),
      );
      if (kept.length === pairs.length) return kept;
      pairs = kept;
    }
    return [];
  }

  /** The list grows as it is walked: what stands behind a line that moved has moved with it. */
  takeNeighbours(): void {
    for (const [i, j] of this.moved)
      for (const step of [1, -1]) {
        const [x, y] = [i + step, j + step];
        const key = this.before[x];
        if (key === undefined || key !== this.after[y]) continue;
        if (this.usedBefore.has(x) || this.usedAfter.has(y)) continue;
        // A row begins with its name: a number before it is another row's.
        if (step === -1 && !hasLetters(key)) continue;
        this.take(x, y);
      }
  }

  private take(i: number, j: number): void {
    this.moved.push([i, j]);
    this.usedBefore.set(i, j);
    this.usedAfter.set(j, i);
  }

  /** Lines that are the only one gone from, or come to, a place between two that stayed. */
  private replacedOne(): { before: Set<number>; after: Set<number> } {
    const alone = { before: new Set<number>(), after: new Set<number>() };
    let [i, j] = [0, 0];
    for (const [x, y] of [...this.inPlace, [this.before.length, this.after.length] as Pair]) {
      if (x - i === 1 && y - j === 1) {
        alone.before.add(i);
        alone.after.add(j);
      }
      [i, j] = [x + 1, y + 1];
    }
    return alone;
  }
}
