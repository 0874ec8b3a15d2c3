import ICAL from "ical.js";
import { utc } from "./dueFeed";

export type PlannedSitting = { starts: Date; ends: Date; lines: string[] };

/**
 * Stretches of reading as iCalendar (RFC 5545): each an event that takes time, in UTC. Its UID is of its teacher and its
 * beginning, so that a plan that is fetched again takes the place of the one before.
 */
export function writePlanCalendar(
  sittings: readonly PlannedSitting[],
  { who, now }: { who: string; now: Date },
): string {
  const calendar = new ICAL.Component("vcalendar");
  calendar.addPropertyWithValue("version", "2.0");
  calendar.addPropertyWithValue("prodid", "-//Almanac//reading plan//EN");
  calendar.addPropertyWithValue("method", "PUBLISH");
  for (const { starts, ends, lines } of sittings) {
    const event = new ICAL.Component("vevent");
    const properties = {
      uid: `reading-${starts.getTime()}-${who}@almanac`,
      dtstamp: utc(now),
      dtstart: utc(starts),
      dtend: utc(ends),
      summary: `Read: ${lines.join("; ")}`,
      description: lines.join("\n"),
    };
    for (const [key, value] of Object.entries(properties)) event.addPropertyWithValue(key, value);
    calendar.addSubcomponent(event);
  }
  return `${calendar.toString()}\r\n`;
}
