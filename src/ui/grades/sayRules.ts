import type { GradeRules } from "@/core/grades/rules";

/** The rules of a grade in sentences, for who wants to follow it with a pencil. */
export function sayRules(rules: GradeRules): string[] {
  return [
    rules.way === "weights"
      ? "Each category: its points divided by its possible points, times its weight. These are added and divided by the weights that count."
      : "All points of all work, divided by all possible points.",
    rules.missing === "zero"
      ? "What was due and did not come counts as 0."
      : "What was due and did not come is left out.",
    ...(rules.way === "weights"
      ? [
          rules.emptyWeights === "spread"
            ? "A category in which nothing counts yet gives its weight to the others."
            : "A category in which nothing counts yet keeps its weight, and brings nothing.",
        ]
      : []),
    "Excused work is left out. Extra credit adds points and asks for none. What is dropped is what helps most; one always stays.",
    `Rounded once, at the end, to ${PLACES[rules.decimals]}; a half goes ${rules.round === "half up" ? "up" : "to the even digit"}.`,
  ];
}

const PLACES = ["a whole number", "one place", "two places"] as const;
