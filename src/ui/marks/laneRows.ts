/** In per cent of a lane: on a narrow phone a finger's least (24 px, WCAG 2.2, 2.5.8) is about so much. */
const LEAST = 15;
/** More would be higher than what it stands under. */
const MOST_ROWS = 5;

/**
 * In which row each mark of a lane stands, so that none lies on another: the highest that is free where it begins.
 *
 * @param spans where each begins and ends, in per cent, in the order of their beginnings
 * @example laneRows([[10, 10], [12, 12], [60, 70]]) // [0, 1, 0]
 */
export function laneRows(spans: readonly (readonly [from: number, to: number])[]): number[] {
  const ends: number[] = [];
  return spans.map(([from, to], n) => {
    const free = ends.findIndex((end) => end <= from);
    const next = ends.length < MOST_ROWS ? ends.length : n % MOST_ROWS;
    const row = free === -1 ? next : free;
    ends[row] = Math.max(to, from + LEAST);
    return row;
  });
}
