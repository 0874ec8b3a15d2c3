import type { HandBackContent } from "../rounds/cameBack";

/** Whether there is a score in it that could wait. */
export const hasScore = (content: HandBackContent): boolean =>
  content.points !== null ||
  Object.keys(content.picks ?? {}).length > 0 ||
  (content.judgements ?? []).length > 0 ||
  content.marks.some((mark) => Boolean(mark.points));

/**
 * What a round says that only asks for revision, where the teacher does not want its score told: the levels stay,
 * which say what would be more; the figure does not.
 */
export function withoutScore(content: HandBackContent): HandBackContent {
  const { raw, shown, deduction, ...rest } = content;
  void [raw, shown, deduction];
  return { ...rest, scoreTyped: "", points: null, possible: null, untold: true };
}

/**
 * What is handed back where the score comes later: all that is said, and nothing that a score could be read from —
 * no points, no levels, no points on marks, no judgement of an answer.
 */
export function withhold(content: HandBackContent): HandBackContent {
  const { raw, shown, deduction, rubric, ...rest } = content;
  void [raw, shown, deduction, rubric];
  return {
    ...rest,
    scoreTyped: "",
    points: null,
    possible: null,
    picks: {},
    marks: content.marks.map((mark) => ({ ...mark, points: null })),
    judgements: [],
    withheld: true,
  };
}
