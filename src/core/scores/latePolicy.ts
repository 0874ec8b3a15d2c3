import Big from "big.js";
import { sayCount } from "../text/sayCount";
import { lateness, type Deadline } from "../time/lateness";
import { addSchoolDays, type SchoolCalendar } from "../time/term";
import { addDays, dayOf, instantToWall, weekdayOf, wallToInstant } from "../time/zone";

/**
 * What being late does to a score.
 *
 * `flag`: it is shown, nothing is taken off. `deduct`: `percent` of the possible points for each
 * started day (or school day), but never below `floorPercent` of the possible points. `closed`: nothing
 * is taken after *closes*; until then late work is only flagged.
 */
export type LatePolicy =
  | { kind: "flag" }
  | { kind: "closed" }
  | { kind: "deduct"; percent: string; per: LateUnit; floorPercent: string };
export const LATE_UNITS = ["day", "school day"] as const;
export type LateUnit = (typeof LATE_UNITS)[number];

export const ONLY_FLAG: LatePolicy = { kind: "flag" };

/** Where the school is: its calendar, and the zone its wall clocks show. */
export type SchoolTime = { calendar: SchoolCalendar; zone: string };

/** Past this nothing changes any more: 100 % is long gone. */
const MOST_UNITS = 400;

/**
 * The days, or school days, that have started since due: 0 when on time (with grace), 1 from the first
 * late moment until the same time of the next (school) day, and so on.
 *
 * A school day ends, for this, at the time of day at which the work was due: due Friday 16:00 and
 * handed in Monday 15:00 is one started school day, Tuesday 09:10 is two. A weekend adds none.
 *
 * @example startedUnits({ due: fri16, graceMinutes: 0 }, tue0910, "school day", school) // 2
 */
export function startedUnits(
  deadline: Deadline,
  handedInAt: Date,
  per: LateUnit,
  { calendar, zone }: SchoolTime,
): number {
  if (!lateness(deadline, handedInAt).late) return 0;
  const wall = instantToWall(deadline.due, zone);
  const [day, clock] = [wall.slice(0, 10), wall.slice(10)];
  let end = day;
  for (let n = 1; n <= MOST_UNITS; n += 1) {
    const next = per === "day" ? addDays(end, 1) : addSchoolDays(end, 1, calendar);
    // Where the calendar has no further school day, the one that has started does not end.
    if (next <= end || handedInAt <= wallToInstant(`${next}${clock}`, zone).at) return n;
    end = next;
  }
  return MOST_UNITS;
}

export type Deduction = {
  units: number;
  /** The floor kept it from being more. */ floored: boolean;
  /** Points taken off, as an exact decimal; never more than brings the score to the floor. */ off: string;
  /** The score that counts. */ points: string;
};

/**
 * The score after what lateness takes off.
 *
 * points − units · percent · possible, but not below floorPercent · possible; a score that was already
 * below the floor stays as it is. All decimals are exact; the result has three places at most,
 * rounded half up, as every score.
 *
 * @example deduct({ kind: "deduct", percent: "10", per: "school day", floorPercent: "0" }, 2, "41", "50")
 *   // { units: 2, floored: false, off: "10", points: "31" }
 */
export function deduct(
  policy: LatePolicy,
  units: number,
  points: string,
  possible: string,
): Deduction {
  const raw = new Big(points);
  if (policy.kind !== "deduct" || units === 0)
    return { units, floored: false, off: "0", points: raw.toString() };
  const share = new Big(possible).div(100);
  const floor = share.times(policy.floorPercent);
  const lowest = raw.lt(floor) ? raw : floor;
  const wanted = raw.minus(share.times(policy.percent).times(units));
  const floored = wanted.lt(lowest);
  const after = (floored ? lowest : wanted).round(3, Big.roundHalfUp);
  return { units, floored, off: raw.minus(after).toString(), points: after.toString() };
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const sayMoment = (at: Date, zone: string) =>
  `${DAYS[weekdayOf(dayOf(at, zone)) - 1]} ${instantToWall(at, zone).slice(11)}`;
const started = (n: number, unit: LateUnit) => sayCount(n, `started ${unit}`);

/**
 * The policy in a sentence, with an example of this very hand-out.
 *
 * The example hands in on the second day after due, at 09:10: far enough to show what days mean.
 *
 * @param possible null: not scored in points, so a deduction is said in percent
 * @example sayLatePolicy(policy, friday16, "50", school)
 *   // "10 % for each started school day. Handed in Tuesday 09:10, due Friday 16:00: 2 started school days, 10 of 50 points off."
 */
export function sayLatePolicy(
  policy: LatePolicy,
  due: Date,
  possible: string | null,
  school: SchoolTime,
): string {
  if (policy.kind === "flag") return "Late work is marked as late; nothing is taken off.";
  if (policy.kind === "closed")
    return "Late work is marked as late until it closes; after that nothing can be handed in.";
  const day = dayOf(due, school.zone);
  const next =
    policy.per === "school day" ? addSchoolDays(day, 2, school.calendar) : addDays(day, 2);
  const example = wallToInstant(`${next}T09:10`, school.zone).at;
  const units = startedUnits({ due, graceMinutes: 0 }, example, policy.per, school);
  const total = new Big(possible ?? "100").toString();
  const { off } = deduct(policy, units, total, total);
  const floor = new Big(policy.floorPercent || "0").gt(0)
    ? `, down to ${policy.floorPercent} %`
    : "";
  return `${policy.percent} % for each started ${policy.per}${floor}. Handed in ${sayMoment(example, school.zone)}, due ${sayMoment(due, school.zone)}: ${started(units, policy.per)}, ${off} of ${total} ${possible === null ? "percent" : "points"} off.`;
}

/**
 * The sum behind a score, spelt out; empty when nothing was taken off.
 *
 * @param late how late it is, as it is said everywhere; what is counted are the days that this began
 * @example "41, 3 days 17 h late, 2 started school days: − 10 (10 % of 50 each) = 31"
 */
export function sayDeduction(
  policy: LatePolicy,
  { units, floored, off, points }: Deduction,
  { raw, possible, late }: { raw: string; possible: string; late: string },
): string {
  if (policy.kind !== "deduct" || off === "0") return "";
  return `${new Big(raw).toString()}, ${late}, ${started(units, policy.per)}: − ${off} (${policy.percent} % of ${new Big(possible).toString()} each${floored ? `, not below ${policy.floorPercent} %` : ""}) = ${points}`;
}
