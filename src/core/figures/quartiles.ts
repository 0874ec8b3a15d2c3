/** What stands in the middle of some numbers, and in the middle of their halves. */
export type Quartiles = { lower: number; median: number; upper: number };

/**
 * Median and quartiles as Tukey's hinges: the medians of the halves, the middle one in both (J. W. Tukey, Exploratory
 * Data Analysis, 1977).
 *
 * @param sorted in rising order, at least one
 */
export function quartilesOf(sorted: readonly number[]): Quartiles {
  const half = Math.ceil(sorted.length / 2);
  return {
    lower: medianOf(sorted.slice(0, half)),
    median: medianOf(sorted),
    upper: medianOf(sorted.slice(-half)),
  };
}

function medianOf(sorted: readonly number[]): number {
  const at = (sorted.length - 1) / 2;
  return (sorted[Math.floor(at)]! + sorted[Math.ceil(at)]!) / 2;
}
