import { Invalid } from "@/core/refusals";
import { faultAhead } from "@/core/time/ahead";
import { wallToInstant } from "@/core/time/zone";
import type { GivenBatch } from "./batches";

export type Times = { goesAt: Date; nextDueAt: Date | null; scoresAt: Date | null };

/**
 * The instants of an act from the wall-clock times it was given.
 *
 * @throws Invalid where they do not follow one another: now, it goes back, scores come and revisions are due
 */
export function batchTimes(given: GivenBatch, { zone, now }: { zone: string; now: Date }): Times {
  const instant = (wall: string | null) => (wall === null ? null : wallToInstant(wall, zone).at);
  const times: Times = {
    goesAt: instant(given.at) ?? new Date(now.getTime() + given.hold * 1000),
    nextDueAt: given.outcome === "final" ? null : instant(given.due),
    scoresAt: given.scores === "date" ? instant(given.scoresAt) : null,
  };
  const faults = { ...goesFault(given, times, now), ...laterFaults(given, times) };
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  return times;
}

/** What goes in a moment lies ahead by itself. */
function goesFault({ at }: GivenBatch, { goesAt }: Times, now: Date): Record<string, string> {
  const fault = at === null ? null : faultAhead(goesAt, now);
  return fault ? { at: fault } : {};
}

function laterFaults(
  { outcome, scores }: GivenBatch,
  { goesAt, nextDueAt, scoresAt }: Times,
): Record<string, string> {
  const faults: Record<string, string> = {};
  if (outcome === "revise" && !nextDueAt) faults.due = "Say when the revision is due.";
  if (nextDueAt && nextDueAt <= goesAt)
    faults.due = "The revision would be due before it goes back.";
  if (scores === "date" && !scoresAt) faults.scoresAt = "Say when the scores come.";
  if (scoresAt && scoresAt <= goesAt)
    faults.scoresAt = "The scores would come before the feedback. Let them go with it.";
  return faults;
}
