import ICAL from "ical.js";
import { RRule, type Options } from "rrule";
import type { Moment } from "./times";

const DAY = 86_400_000;

/** Wall-clock times, as if in UTC. */
type Span = { from: Date; to: Date };

/** Rules that fill days with occurrences are nothing a calendar of school days can hold. */
export class TooOften extends Error {}

/**
 * When an event recurs within a span, by its rules (RFC 5545, section 3.8.5.3) and its further dates, in order. Its
 * start is always the first (section 3.8.5.3: "the DTSTART property value SHOULD be synchronized", and counts either way).
 * The library's expansion is used as it is; two things are done before it, so that the work is bounded by the
 * span and not by how long ago the rule began or how rarely it can be met.
 *
 * @throws TooOften
 */
export function occurrences(
  start: Moment,
  rules: readonly ICAL.Recur[],
  further: readonly Moment[],
  span: Span,
): Moment[] {
  const walls = new Set([start.wall.getTime(), ...further.map(({ wall }) => wall.getTime())]);
  for (const rule of rules) for (const wall of expand(rule, start, span)) walls.add(wall.getTime());
  return [...walls]
    .filter((wall) => wall >= span.from.getTime() && wall <= span.to.getTime())
    .sort((a, b) => a - b)
    .map((wall) => start.at(new Date(wall)));
}

function expand(recur: ICAL.Recur, start: Moment, span: Span): Date[] {
  const text = recur.toString().replace(/;?UNTIL=[^;]*/, "");
  const options = RRule.parseString(text);
  if (options.freq === undefined || options.freq > RRule.DAILY) throw new TooOften();
  const [begin, until] = [nearer(start.wall, options, span.from), untilOf(recur, start)];
  const far = shiftFor(begin, span.to);
  const rule = new RRule({
    ...asYearly(options),
    dtstart: new Date(begin.getTime() + far),
    until: until && new Date(until.getTime() + far),
  });
  return rule
    .between(new Date(span.from.getTime() + far), new Date(span.to.getTime() + far), true)
    .map((wall) => new Date(wall.getTime() - far));
}

/** The Gregorian calendar repeats every 400 years, weekdays included (146,097 days are whole weeks). */
const CYCLE = 146_097 * DAY;

/**
 * The library looks for the next time until the year 9999. Of a rule that never holds that is eight thousand years;
 * moved by whole cycles it is four hundred.
 */
function shiftFor(begin: Date, end: Date): number {
  const last = Math.max(begin.getUTCFullYear(), end.getUTCFullYear());
  return Math.max(0, Math.floor((9_990 - last) / 400)) * CYCLE;
}

/** UNTIL in UTC is an instant; occurrences are wall-clock times. A date holds for the whole day. */
function untilOf(recur: ICAL.Recur, start: Moment): Date | null {
  const { until } = recur;
  if (!until) return null;
  const { year, month, day, hour, minute, second } = until;
  const wall = new Date(Date.UTC(year, month - 1, day, hour, minute, second));
  if (until.isDate) return new Date(wall.getTime() + DAY - 1000);
  if (until.zone !== ICAL.Timezone.utcTimezone || start.isDate) return wall;
  // The wall that shows this instant where the event is: off by the zone's distance, which the instant tells.
  const there = start.at(wall);
  return new Date(wall.getTime() + (wall.getTime() - there.instant.getTime()));
}

/**
 * A rule that began long ago begins just before the span instead: whole steps later, so that it meets the same days.
 * Rules that count from their start cannot be moved.
 */
function nearer(start: Date, { freq, interval, count }: Partial<Options>, from: Date): Date {
  const step = (freq === RRule.DAILY ? DAY : 7 * DAY) * (interval ?? 1);
  if (count || (freq !== RRule.DAILY && freq !== RRule.WEEKLY)) return start;
  const steps = Math.floor((from.getTime() - start.getTime()) / step) - 1;
  return steps > 0 ? new Date(start.getTime() + steps * step) : start;
}

/** Every day on which something holds is every year each day on which it holds; asked so, what never holds is soon known. */
function asYearly(options: Partial<Options>): Partial<Options> {
  const { freq, interval, bymonth, bymonthday, bysetpos } = options;
  const daily = freq === RRule.DAILY && (interval ?? 1) === 1 && !bysetpos;
  return daily && (bymonth || bymonthday) ? { ...options, freq: RRule.YEARLY } : options;
}
