import { scoreOf, type Picks, type Rubric } from "./rubric";

/**
 * The score when levels are chosen: one that is empty, or was the rubric's sum so far, follows to the new sum;
 * one that a teacher typed otherwise stays.
 *
 * @param typed the score as it stands, exactly as it was typed
 * @param possible the points of the work; null: it has none, and nothing follows
 */
export function scoreFollows(
  rubric: Rubric,
  { before, after }: { before: Picks; after: Picks },
  typed: string,
  possible: string | null,
): string {
  if (possible === null) return typed;
  const old = scoreOf(rubric, before, possible);
  if (typed !== "" && typed !== old) return typed;
  return scoreOf(rubric, after, possible) ?? (typed === old ? "" : typed);
}
