import { database } from "./db/connection";
import { followTheCalendar } from "./handouts/followTheCalendar";
import { log } from "./log";
import { now } from "./settings";

const EVERY_MS = 5 * 60_000;

/** What happens on a day by itself is looked for when the server starts and every few minutes after. */
export function startCalendarClock(): void {
  const tick = async () => {
    try {
      const sections = await followTheCalendar(database(), now());
      if (sections > 0) log.info({ sections }, "students joined or left on this day");
    } catch (error) {
      log.warn(
        { code: (error as { code?: string }).code },
        "the calendar could not be followed; it is tried again",
      );
    }
    setTimeout(() => void tick(), EVERY_MS).unref();
  };
  setTimeout(() => void tick(), 2000).unref();
}
