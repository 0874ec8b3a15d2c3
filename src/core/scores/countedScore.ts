import { sayLateness, type Deadline } from "../time/lateness";
import { deduct, sayDeduction, startedUnits, type LatePolicy, type SchoolTime } from "./latePolicy";
import { sayPoints, type Scale } from "./scales";

/** A score with what lateness took off: `raw` was earned, `points` count, `deduction` is the sum in words. */
export type Counted = { points: string; raw: string; shown: string; deduction: string };

/**
 * The score that counts: what was earned, less what the hand-out's late policy takes off for this version.
 *
 * @param version when it was due and from when its lateness counts; null: nothing was handed in
 * @param earned points as exact decimals, and as the scale shows them
 */
export function countedScore(
  { policy, scale }: { policy: LatePolicy; scale: Scale },
  version: (Deadline & { countedAt: Date }) | null,
  earned: { points: string; shown: string },
  school: SchoolTime,
): Counted {
  const raw = earned.points;
  if (!version || policy.kind !== "deduct" || scale.possible === null)
    return { points: raw, raw, shown: earned.shown, deduction: "" };
  const units = startedUnits(version, version.countedAt, policy.per, school);
  const taken = deduct(policy, units, raw, scale.possible);
  const { points } = taken;
  const late = sayLateness(version, version.countedAt, school.zone);
  const deduction = sayDeduction(policy, taken, { raw, possible: scale.possible, late });
  return { points, raw, shown: deduction ? sayPoints(points, scale) : earned.shown, deduction };
}
