import Big from "big.js";

/** Which of a piece's scores counts when it had several rounds. */
export const FINAL_SCORES = ["latest", "best", "average", "win back"] as const;
export type FinalScore = (typeof FINAL_SCORES)[number];

/** `most`: how many rounds there can be (null: as many as are needed); `winBackPercent`: for "win back" only. */
export type RoundsRule = {
  most: number | null;
  until: Date | null;
  final: FinalScore;
  winBackPercent: string;
};

export const FREE_ROUNDS: RoundsRule = {
  most: null,
  until: null,
  final: "latest",
  winBackPercent: "50",
};

/**
 * The score that counts, from the scores of the rounds in their order; null without any.
 *
 * "win back": of what was lost in the first round, later rounds can win back `winBackPercent` of what
 * they bring beyond it: first + share · (best later − first). With 50 %, 6 and then 10 of 10 make 8.
 * Revising can never lower a "best" or a "win back" score.
 *
 * @param scores exact decimals, the first round first
 * @example finalScore(["6", "10"], { ...rule, final: "win back", winBackPercent: "50" }) // "8"
 */
export function finalScore(
  scores: readonly string[],
  rule: Pick<RoundsRule, "final" | "winBackPercent">,
): string | null {
  if (scores.length === 0) return null;
  const values = scores.map((s) => new Big(s));
  const best = values.reduce((a, b) => (b.gt(a) ? b : a));
  const first = values[0]!;
  switch (rule.final) {
    case "latest":
      return values.at(-1)!.toString();
    case "best":
      return best.toString();
    case "average":
      return values
        .reduce((a, b) => a.plus(b))
        .div(values.length)
        .round(3, Big.roundHalfUp)
        .toString();
    case "win back":
      return first
        .plus(best.minus(first).times(rule.winBackPercent).div(100))
        .round(3, Big.roundHalfUp)
        .toString();
  }
}

/**
 * How the score that counts comes about, spelt out; null with fewer than two scores.
 *
 * @example sayFinalScore(["6", "10"], { final: "win back", winBackPercent: "50" }) // "6 + 50 % of (10 − 6) = 8"
 */
export function sayFinalScore(
  scores: readonly string[],
  rule: Pick<RoundsRule, "final" | "winBackPercent">,
): string | null {
  if (scores.length < 2) return null;
  const plain = scores.map((score) => new Big(score).toString());
  const final = finalScore(scores, rule)!;
  const best = plain.reduce((a, b) => (new Big(b).gt(a) ? b : a));
  switch (rule.final) {
    case "latest":
      return `the latest counts: ${final}`;
    case "best":
      return `the best of ${plain.join(", ")} counts: ${final}`;
    case "average":
      return `(${plain.join(" + ")}) ÷ ${plain.length} = ${final}`;
    case "win back":
      return `${plain[0]} + ${new Big(rule.winBackPercent).toString()} % of (${best} − ${plain[0]}) = ${final}`;
  }
}

/** Why no further round can be opened; null when it can. @param round the round that is handed back now, from 1 */
export function refuseRound(rule: RoundsRule, round: number, due: Date): string | null {
  if (rule.most !== null && round >= rule.most)
    return `This work has ${rule.most} ${rule.most === 1 ? "round" : "rounds"} at most, and this is the last. Hand it back for good, or change the hand-out.`;
  if (rule.until && due > rule.until)
    return "The revision would be due after the day on which the rounds of this work end.";
  return null;
}

/** The rule in words, for the form, the sheet and the student. */
export function sayRounds({ most, final, winBackPercent }: RoundsRule): string {
  if (most === 1) return "one round";
  const count = most === null ? "as many rounds as it needs" : `up to ${most} rounds`;
  const counts = {
    latest: "the latest score counts",
    best: "the best score counts",
    average: "the average counts",
    "win back": `up to ${winBackPercent} % of what was lost can be won back`,
  }[final];
  return `${count}; ${counts}`;
}
