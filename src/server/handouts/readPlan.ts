import { toDecimal } from "@/core/scores/decimal";
import { checkDates, isWall, type HandOutDates } from "@/core/handouts/checkDates";
import type { Plan, PlanRow } from "@/core/handouts/plan";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { picturesOf } from "@/core/text/richDoc";
import { wallToInstant } from "@/core/time/zone";

type Faults = Record<string, string>;

/**
 * The dates of a row as instants.
 *
 * @returns beside them the faults, by the field of the form that they are about
 */
export function readDates(
  row: Pick<PlanRow, "opens" | "due" | "closes" | "promised">,
  { at, pastIsMeant }: { at: string; pastIsMeant: boolean },
  now: Date,
  zone: string,
): { dates: HandOutDates; faults: Faults } {
  const faults: Faults = {};
  const instant = (field: "opens" | "due" | "closes" | "promised") => {
    const wall = row[field];
    if (!wall) return null;
    if (isWall(wall)) return wallToInstant(wall, zone).at;
    faults[`${at}.${field}`] = "This is not a date and a time.";
    return null;
  };
  const due = instant("due");
  if (!row.due) faults[`${at}.due`] = "Say when it is due.";
  const dates = {
    opensAt: instant("opens") ?? now,
    dueAt: due ?? now,
    closesAt: instant("closes"),
    promisedAt: instant("promised"),
  };
  const wrong = due ? checkDates(dates, now, pastIsMeant) : {};
  for (const [field, words] of Object.entries(wrong)) faults[`${at}.${field}`] ??= words;
  return { dates, faults };
}

/** Late policy with its numbers as decimals. */
export function cleanPolicy(late: LatePolicy): LatePolicy {
  return late.kind === "deduct"
    ? {
        ...late,
        percent: toDecimal(late.percent),
        floorPercent: toDecimal(late.floorPercent || "0"),
      }
    : late;
}

/** Every upload a plan refers to, with the version it is for (null: for everyone). */
export function uploadsOf(
  plan: Plan,
): { uploadId: string; versionId: string | null; picture: boolean }[] {
  return [
    ...picturesOf(plan.work.instructions).map((uploadId) => ({
      uploadId,
      versionId: null,
      picture: true,
    })),
    ...plan.work.versions.flatMap((v) =>
      picturesOf(v.instructions).map((uploadId) => ({ uploadId, versionId: v.id, picture: true })),
    ),
    ...plan.work.materials.flatMap((m) =>
      m.kind === "file" ? [{ uploadId: m.uploadId, versionId: null, picture: false }] : [],
    ),
  ];
}
