/** Days of the ribbon on which something of a hand-out ends, counted from its first day. */
export type Ends = {
  due: number;
  closes: number | null;
  promised: number | null;
  /** When feedback goes back by itself. */
  goesBack: number | null;
};

/** The last day of a line of the ribbon. @example lastDayOf({ due: 3, closes: 5, promised: null, goesBack: null }) // 5 */
export const lastDayOf = ({ due, closes, promised, goesBack }: Ends): number =>
  Math.max(due, closes ?? 0, promised ?? 0, goesBack ?? 0);
