/** How a section's grade comes about. Percents are of 100. */
export type GradeRules = {
  /** `weights`: categories by their weights; `points`: all points together. */
  way: "weights" | "points";
  /** What was due and did not come: as nought, or left out of the sum. */
  missing: "zero" | "left out";
  /** Weights of categories in which nothing counts yet: given to the others, or kept (nothing is earned there). */
  emptyWeights: "spread" | "kept";
  /** Places after the point; rounded once, at the end. */
  decimals: 0 | 1 | 2;
  round: "half up" | "half even";
  /** Steps of a scale, the highest first: from this percent on the grade has this name; none: percent alone. */
  scale: GradeStep[];
  /** Whether students and their guardians see the grade and its sum. */
  shown: boolean;
};
export type GradeStep = { from: string; name: string };

export const USUAL_RULES: GradeRules = {
  way: "weights",
  missing: "zero",
  emptyWeights: "spread",
  decimals: 1,
  round: "half up",
  scale: [],
  shown: false,
};
export const MOST_STEPS = 20;

/** A scale of the school, with its rounding; a section takes it as its own, and what is changed here later moves no grade there. */
export type GradeScale = Pick<GradeRules, "decimals" | "round" | "scale"> & { name: string };
export const MOST_SCALES = 12;

/** What is wrong with the scales of a school, by field; empty: nothing. */
export function checkScales(scales: readonly GradeScale[]): Record<string, string> {
  const wrong: Record<string, string> = {};
  const names = scales.map(({ name }) => name.trim().toLowerCase());
  scales.forEach(({ scale }, n) => {
    if (names[n] === "") wrong[`scales[${n}].name`] = "Name this scale.";
    else if (names.indexOf(names[n]!) !== n)
      wrong[`scales[${n}].name`] = "Two scales have this name.";
    if (scale.length === 0) wrong[`scales[${n}].scale[0]`] = "A scale has one step at least.";
    for (const [step, words] of Object.entries(checkScale(scale)))
      wrong[`scales[${n}].scale[${step}]`] = words;
  });
  return wrong;
}

/** What is wrong with the steps of a scale, by its number; empty: nothing. */
export function checkScale(scale: readonly GradeStep[]): Record<number, string> {
  const wrong: Record<number, string> = {};
  scale.forEach(({ from, name }, n) => {
    if (name.trim() === "") wrong[n] = "Name this step, such as B+.";
    else if (!/^\d{1,3}(\.\d{1,2})?$/.test(from))
      wrong[n] = "From which percent on? A number such as 85.";
    else if (n > 0 && Number(from) >= Number(scale[n - 1]!.from))
      wrong[n] = "Steps go down: this one begins lower than the one above it.";
  });
  return wrong;
}
