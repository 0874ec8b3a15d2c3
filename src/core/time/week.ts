import { addDays, wallToInstant, type Day } from "./zone";
import { mondayOf } from "./term";

/** A week at the school: its Monday and Sunday, and the instants between which it lies (the end is the next week's). */
export type Week = { monday: Day; sunday: Day; begins: Date; ends: Date };

/** The week a day lies in (ISO 8601: from Monday), by the school's clock, also where that is changed within it. */
export function weekOf(day: Day, zone: string): Week {
  const monday = mondayOf(day);
  const midnight = (on: Day) => wallToInstant(`${on}T00:00`, zone).at;
  return {
    ...{ monday, sunday: addDays(monday, 6) },
    ...{ begins: midnight(monday), ends: midnight(addDays(monday, 7)) },
  };
}

/** Whether a moment lies in it. */
export const isInWeek = (at: Date, { begins, ends }: Week): boolean => begins <= at && at < ends;
