/** A score as it was handed back; `shown` as its scale says it. */
export type ScoreFact = {
  round: number;
  /** Decimal text. */ points: string;
  shown: string;
  by: string;
  at: Date;
  /** For the section's teachers alone. */ reason: string;
};

export type ScoreChange = Pick<ScoreFact, "round" | "by" | "at" | "reason"> & {
  was: string;
  is: string;
  /** Whether it rose; else it fell. */ rose: boolean;
};

/**
 * Where a score was changed after it had been handed back: within one round, one after the other. Another round's score
 * is no change of this one, and the same points handed back again are none either.
 *
 * @param facts in the order in which they were handed back
 */
export function scoreChanges(facts: readonly ScoreFact[]): ScoreChange[] {
  return facts.flatMap((fact, n): ScoreChange[] => {
    const before = facts.slice(0, n).findLast((earlier) => earlier.round === fact.round);
    const way = before ? Math.sign(Number(fact.points) - Number(before.points)) : 0;
    if (!before || way === 0) return [];
    const { round, by, at, reason } = fact;
    return [{ round, by, at, reason, was: before.shown, is: fact.shown, rose: way > 0 }];
  });
}

/** @example sayScoreChange({ was: "7 / 10", is: "8 / 10", rose: true }) // "The score rose from 7 / 10 to 8 / 10" */
export const sayScoreChange = ({
  was,
  is,
  rose,
}: Pick<ScoreChange, "was" | "is" | "rose">): string =>
  `The score ${rose ? "rose" : "fell"} from ${was} to ${is}`;
