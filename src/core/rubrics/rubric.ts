import Big from "big.js";

/**
 * A rubric: criteria, each with its levels. A holistic rubric has one criterion. Points are exact
 * decimals as text; a level can span a range (`points` to `most`). A criterion's weight multiplies what
 * it earns and what it can earn.
 */
export type Level = {
  id: string;
  name: string;
  points: string;
  /** The upper end, where the level is a range. */ most: string | null;
  descriptor: string;
};
export type Criterion = { id: string; name: string; note: string; weight: string; levels: Level[] };
export type Rubric = {
  criteria: Criterion[];
  /** A choice may lie halfway between two neighbouring levels. */ halves?: boolean;
};

export const RUBRIC_LIMITS = { criteria: 40, levels: 12, text: 2000 } as const;

export type Pick = {
  levelId: string;
  /** Within the level's range; the level's own points where it has none. */ points: string;
};
export type Picks = Readonly<Record<string, Pick>>;

const top = (level: Level) => new Big(level.most ?? level.points);

/** What a rubric can earn altogether: per criterion its highest level, times its weight. */
export function possibleOf({ criteria }: Rubric): string {
  return criteria
    .reduce(
      (sum, c) =>
        sum.plus(
          c.levels
            .reduce((best, l) => (top(l).gt(best) ? top(l) : best), new Big(0))
            .times(c.weight),
        ),
      new Big(0),
    )
    .toString();
}

/**
 * The points of the levels that were chosen, brought to the hand-out's possible points; null until
 * every criterion has one.
 *
 * @example scoreOf(rubric, picks, "50") // 12 of 16 in the rubric: "37.5"
 */
export function scoreOf(rubric: Rubric, picks: Picks, possible: string): string | null {
  const all = new Big(possibleOf(rubric));
  if (all.eq(0) || rubric.criteria.some((c) => !picks[c.id])) return null;
  const earned = rubric.criteria.reduce(
    (sum, c) => sum.plus(new Big(picks[c.id]!.points).times(c.weight)),
    new Big(0),
  );
  return earned.times(possible).div(all).round(3, Big.roundHalfUp).toString();
}

/** The id of the criterion that a comment is made for, by its name; null where the rubric has none of that name. */
export function criterionNamed(rubric: Rubric | null | undefined, name: string): string | null {
  return rubric?.criteria.find((c) => c.name.toLowerCase() === name.toLowerCase())?.id ?? null;
}

/** One choice that can be made: a level, or the place halfway to the next one above. */
export type Step = { levelId: string; points: string; half: boolean; name: string };

/**
 * All choices of a criterion, the least first; with half levels where the rubric allows them. A half level
 * is kept as the lower level with the points midway.
 *
 * @example stepsOf(criterion, true).map((s) => s.points) // ["1", "1.5", "2"]
 */
export function stepsOf({ levels }: Criterion, halves: boolean): Step[] {
  const rising = [...levels].sort((a, b) => new Big(a.points).cmp(b.points));
  return rising.flatMap((level, n): Step[] => {
    const whole: Step = { levelId: level.id, points: level.points, half: false, name: level.name };
    const next = rising[n + 1];
    if (!halves || !next || !new Big(next.points).gt(top(level))) return [whole];
    return [
      whole,
      {
        levelId: level.id,
        points: midway(top(level), next),
        half: true,
        name: `between ${level.name} and ${next.name}`,
      },
    ];
  });
}

const midway = (from: Big, { points }: Level) =>
  from.plus(points).div(2).round(3, Big.roundHalfUp).toString();

/** How a choice reads: the level's name, or that it lies between two. */
export function sayPick(criterion: Criterion, pick: Pick): string {
  const level = criterion.levels.find((l) => l.id === pick.levelId);
  if (!level) return "";
  if (new Big(pick.points).lte(top(level))) return level.name;
  return (
    stepsOf(criterion, true).find((s) => s.half && s.levelId === pick.levelId)?.name ?? level.name
  );
}

/** What the chosen levels earn so far, in the rubric's own points and brought to the possible ones; for showing while choosing. */
export function sumOf(
  rubric: Rubric,
  picks: Picks,
): { earned: string; of: string; chosen: number } {
  const chosen = rubric.criteria.filter((c) => picks[c.id]);
  return {
    earned: chosen
      .reduce((sum, c) => sum.plus(new Big(picks[c.id]!.points).times(c.weight)), new Big(0))
      .toString(),
    of: possibleOf(rubric),
    chosen: chosen.length,
  };
}

/** What is wrong with a rubric, in words; empty when it can be used. */
export function faultsOfRubric({ criteria }: Rubric): string[] {
  const faults: string[] = [];
  if (criteria.length === 0) faults.push("A rubric needs a criterion.");
  if (criteria.length > RUBRIC_LIMITS.criteria)
    faults.push(`A rubric has ${RUBRIC_LIMITS.criteria} criteria at most.`);
  return [...faults, ...criteria.flatMap((c, n) => faultsOfCriterion(c, n + 1))];
}

function faultsOfCriterion(c: Criterion, number: number): string[] {
  const faults: string[] = [];
  const name = c.name.trim() || `Criterion ${number}`;
  if (!c.name.trim()) faults.push(`Criterion ${number} has no name.`);
  if (c.levels.length === 0) faults.push(`“${name}” has no levels.`);
  if (c.levels.length > RUBRIC_LIMITS.levels)
    faults.push(`“${name}” has more than ${RUBRIC_LIMITS.levels} levels.`);
  if (!isDecimal(c.weight) || new Big(c.weight).lte(0))
    faults.push(`The weight of “${name}” is not a number above 0.`);
  for (const level of c.levels) {
    const fault = faultOfLevel(level);
    if (fault) faults.push(`The points of “${level.name || "a level"}” in “${name}” ${fault}.`);
  }
  return faults;
}

function faultOfLevel({ points, most }: Level): string | null {
  if (!isDecimal(points) || (most !== null && !isDecimal(most))) return "are not a number";
  return most !== null && new Big(most).lt(points) ? "run backwards" : null;
}

export const isDecimal = (text: string): boolean => /^\d{1,5}(\.\d{1,3})?$/.test(text);

/**
 * The choices that can be kept when a rubric is replaced by a newer version of itself: criterion and
 * level are still there, and the points still lie within the level.
 */
export function carryPicks(picks: Picks, to: Rubric): { kept: Picks; lost: number } {
  const kept: Record<string, Pick> = {};
  let lost = 0;
  for (const [criterionId, pick] of Object.entries(picks)) {
    const criterion = to.criteria.find((c) => c.id === criterionId);
    const level = criterion?.levels.find((l) => l.id === pick.levelId);
    if (!criterion || !level) lost += 1;
    else {
      const half =
        to.halves &&
        stepsOf(criterion, true).some(
          (s) => s.levelId === level.id && new Big(s.points).eq(pick.points),
        );
      const within =
        half ||
        (new Big(pick.points).gte(level.points) &&
          new Big(pick.points).lte(level.most ?? level.points));
      kept[criterionId] = { levelId: level.id, points: within ? pick.points : level.points };
    }
  }
  return { kept, lost };
}

/** The points of a level as read: `3` or `3–4`. */
export const sayLevelPoints = (level: Level): string =>
  level.most && level.most !== level.points ? `${level.points}–${level.most}` : level.points;
