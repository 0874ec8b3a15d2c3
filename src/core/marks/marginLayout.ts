export type MarginNote = {
  id: string;
  /** Where it would stand by itself, from the top of the margin. */ wanted: number;
  height: number;
};

/**
 * Where the notes of a margin stand: in the order given, none over another, each as near as can be to
 * its words.
 *
 * With the heights above it taken off, a note's wanted place becomes a number that must not be smaller
 * than the one before: fitting a rising sequence to given numbers with the least sum of squared
 * displacements (isotonic regression). Neighbours that are too close are pooled and share their mean
 * (pool adjacent violators, linear time). Nothing stands above the top.
 *
 * @param notes in the order of their words
 * @param gap space between two notes, in the same unit as heights
 * @returns the top of each note, by id
 */
export function layOutMargin(notes: readonly MarginNote[], gap: number): Map<string, number> {
  const pools: { sum: number; count: number }[] = [];
  const offsets: number[] = [];
  let above = 0;
  for (const note of notes) {
    offsets.push(above);
    pools.push({ sum: Math.max(0, note.wanted) - above, count: 1 });
    above += note.height + gap;
    while (pools.length > 1 && mean(pools.at(-2)!) >= mean(pools.at(-1)!)) {
      const last = pools.pop()!;
      const previous = pools.at(-1)!;
      previous.sum += last.sum;
      previous.count += last.count;
    }
  }
  const tops = new Map<string, number>();
  let n = 0;
  for (const pool of pools) {
    for (let k = 0; k < pool.count; k += 1, n += 1)
      tops.set(notes[n]!.id, Math.max(0, mean(pool)) + offsets[n]!);
  }
  return tops;
}

const mean = ({ sum, count }: { sum: number; count: number }) => sum / count;
