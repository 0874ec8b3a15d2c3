/**
 * The score beside a rubric whose levels change. It follows the rubric's sum for as long as it is that sum, or blank;
 * one that was typed stays, and is never written over.
 *
 * @param score as it stands in its field; "" where none
 * @param before the sum until now, as a score; null until all criteria have a level
 * @param after the sum from now on
 */
export function scoreBeside(score: string, before: string | null, after: string | null): string {
  const typed = score !== "" && score !== before;
  return typed ? score : (after ?? "");
}
