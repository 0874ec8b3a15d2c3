/** What each student got for one question: a share of its points, 0 to 1. A null: no answer that anyone has judged. */
export type ItemScores = { questionId: string; text: string; shares: readonly (number | null)[] };

/** How a question did: for whom it was hard, and whether it told apart who knew the rest. */
export type ItemFigures = {
  questionId: string;
  text: string;
  /** How many it is worked out from. */ answers: number;
  /** The mean share of its points, 0 (nobody) to 1 (everybody); the higher, the easier. */
  difficulty: number | null;
  /**
   * The correlation of its points with the sum of all other questions, -1 to 1; for right and wrong alone the
   * point-biserial. Null where either does not vary, or fewer than three answered.
   */
  discrimination: number | null;
};

const ENOUGH = 3;

/**
 * Item analysis, as usual in classical test theory (common practice; corrected: a question is left out of the sum it is
 * held against). A question without a judged answer counts as nought in the sums of the others.
 *
 * @param items each with one share a student, in the same order of students
 */
export function itemFigures(items: readonly ItemScores[]): ItemFigures[] {
  const sums = items[0]?.shares.map((_, student) => sum(items.map((i) => i.shares[student] ?? 0)));
  return items.map(({ questionId, text, shares }) => {
    const judged = shares.flatMap((share, student) =>
      share === null ? [] : [{ share, rest: sums![student]! - share }],
    );
    return {
      ...{ questionId, text, answers: judged.length },
      difficulty: judged.length === 0 ? null : mean(judged.map((j) => j.share)),
      discrimination:
        judged.length < ENOUGH
          ? null
          : correlation(
              judged.map((j) => j.share),
              judged.map((j) => j.rest),
            ),
    };
  });
}

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
const mean = (values: readonly number[]): number => sum(values) / values.length;
/** Below this a spread is only what floating point leaves over. */
const NOTHING = 1e-12;

/** Pearson's correlation; null where one of the two does not vary. With values 0 and 1 it is the point-biserial. */
export function correlation(xs: readonly number[], ys: readonly number[]): number | null {
  const [mx, my] = [mean(xs), mean(ys)];
  const both = sum(xs.map((x, n) => (x - mx) * (ys[n]! - my)));
  const [vx, vy] = [sum(xs.map((x) => (x - mx) ** 2)), sum(ys.map((y) => (y - my) ** 2))];
  return vx < NOTHING || vy < NOTHING ? null : both / Math.sqrt(vx * vy);
}

/** What the figures say, in words a teacher uses. */
export function sayItem({ difficulty, discrimination }: ItemFigures): string {
  if (difficulty === null) return "nothing judged yet";
  const hard = sayHard(difficulty);
  if (discrimination === null) return hard;
  // Usual marks: clearly below 0 look at the key, below 0.2 weak (common practice, no source).
  if (discrimination < -0.1) return `${hard}; who knows the rest gets it wrong: look at the key`;
  return discrimination < 0.2
    ? `${hard}; says little about who knows the rest`
    : `${hard}; tells apart`;
}

function sayHard(difficulty: number): string {
  if (difficulty >= 0.9) return "nearly everyone has it";
  if (difficulty < 0.3) return "hard for most";
  return "neither easy nor hard";
}
