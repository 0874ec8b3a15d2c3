import Big from "big.js";
import type { GivenMark } from "./schema";

/**
 * What the marks of a piece give and take in points, for the teacher's eye while scoring: exact decimals with
 * their sign; null where no mark carries any.
 *
 * @example sumOfPoints([{ points: "2" }, { points: "-0.5" }]) // "+1.5"
 */
export function sumOfPoints(marks: readonly Pick<GivenMark, "points">[]): string | null {
  const given = marks.flatMap((m) => (m.points ? [m.points.replace(/^\+/, "")] : []));
  if (given.length === 0) return null;
  const sum = given.reduce((total, points) => total.plus(points), new Big(0));
  return sum.gt(0) ? `+${sum.toString()}` : sum.toString();
}
