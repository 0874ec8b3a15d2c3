import type { HandOutFormView } from "../views/handOutViews";
import { wallToInstant } from "../time/zone";
import { isMeant } from "./audience";
import { checkDates, isWall, notesOnDates, sayLoad, type DateNote } from "./checkDates";
import type { PlanRow } from "./plan";

export type RowCheck = {
  /** By field of the row: what cannot be. */
  faults: Record<string, string>;
  /** What can be, and should be known. */
  notes: DateNote[];
  load: string | null;
  /** Who would get it. */
  students: string[];
  /** Nothing is wrong but that it is due in the past, which can be meant. */
  onlyPast: boolean;
};

/** Checks a row of "who and when" as it is typed. @param form what the page knows of the sections */
export function checkRow(
  row: PlanRow,
  form: Pick<HandOutFormView, "now" | "zone" | "calendar" | "sections" | "dueDays">,
  { pastIsMeant = false } = {},
): RowCheck {
  const section = form.sections.find((s) => s.id === row.sectionId);
  const groupsOf = (id: string) =>
    section!.groups.filter((g) => g.members.includes(id)).map((g) => g.id);
  const students = (section?.students ?? [])
    .map((s) => s.id)
    .filter((studentId) => isMeant(row.audience, { studentId, groups: groupsOf(studentId) }));
  const at = (wall: string | null) =>
    wall && isWall(wall) ? wallToInstant(wall, form.zone).at : null;
  const now = wallToInstant(form.now, form.zone).at;
  const dueAt = at(row.due);
  if (!dueAt)
    return {
      faults: { due: "Say when it is due." },
      notes: [],
      load: null,
      students,
      onlyPast: false,
    };
  const dates = {
    opensAt: at(row.opens) ?? now,
    dueAt,
    closesAt: at(row.closes),
    promisedAt: at(row.promised),
  };
  const strict = checkDates(dates, now);
  const faults = checkDates(dates, now, pastIsMeant);
  const day = row.due.slice(0, 10);
  return {
    faults,
    notes: notesOnDates(row, form.calendar, form.zone, form.now.slice(0, 10)),
    load: sayLoad(students, new Map(Object.entries(form.dueDays)), day),
    students,
    onlyPast: dueAt <= now && Object.keys(strict).every((field) => field === "due"),
  };
}
