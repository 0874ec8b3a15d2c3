import ICAL from "ical.js";
import { addDays, dayOf, wallToInstant, type Day } from "../time/zone";

/** Something in a calendar file that covers days: a holiday, a closure; or an event with a time of day. */
export type CalendarEntry = {
  /** The same in the next edition of the file: UID, and the occurrence where the event recurs. */
  key: string;
  name: string;
  /** Both days included. */
  startsOn: Day;
  endsOn: Day;
  allDay: boolean;
  recurring: boolean;
};
export type CalendarFile = { entries: CalendarEntry[]; faults: string[]; notes: string[] };

export const CALENDAR_LIMITS = { characters: 5_000_000, events: 5_000, entries: 3_000 } as const;

/**
 * Reads the events of an iCalendar file (RFC 5545) that touch the days from `from` to `to`.
 *
 * DTEND of an all-day event is exclusive; without DTEND or DURATION it is that one day (section
 * 3.6.1). Recurring events are expanded within the window only, so a rule without end is no danger;
 * EXDATE, RDATE and changed occurrences (RECURRENCE-ID) are honoured. Times are read in their TZID and
 * turned into days of the school's zone. Cancelled events are left out.
 */
export function readCalendarFile(
  text: string,
  window: { from: Day; to: Day },
  zone: string,
): CalendarFile {
  if (text.length > CALENDAR_LIMITS.characters)
    return fault(
      `The file has ${Math.round(text.length / 1_000_000)} million characters; Almanac reads calendars of up to ${CALENDAR_LIMITS.characters / 1_000_000} million.`,
    );
  const count = (text.match(/^BEGIN:VEVENT/gim) ?? []).length;
  if (count > CALENDAR_LIMITS.events)
    return fault(
      `The file has ${count.toLocaleString("en")} events; Almanac reads up to ${CALENDAR_LIMITS.events.toLocaleString("en")}. Export the school’s holidays alone, or a shorter time.`,
    );
  let roots: ICAL.Component[];
  try {
    const parsed: unknown = ICAL.parse(text.replace(/^\uFEFF/, ""));
    // A stream can hold several calendars; one of them comes without the outer list.
    const list = Array.isArray((parsed as unknown[])[0]) ? (parsed as unknown[]) : [parsed];
    roots = list.map((one) => new ICAL.Component(one as unknown[]));
  } catch (error) {
    return fault(
      `This is not a calendar file that can be read: ${(error as Error).message.slice(0, 160)}.`,
    );
  }
  if (!roots.some((root) => root.name === "vcalendar"))
    return fault("This is not a calendar file: it does not begin with BEGIN:VCALENDAR.");
  const file: CalendarFile = { entries: [], faults: [], notes: [] };
  for (const root of roots) readEvents(root, { window, zone, file });
  file.entries.sort((a, b) => a.startsOn.localeCompare(b.startsOn) || a.name.localeCompare(b.name));
  if (count === 0) file.notes.push("There is no event in this file.");
  return file;
}

const fault = (words: string): CalendarFile => ({ entries: [], faults: [words], notes: [] });

type Reading = { window: { from: Day; to: Day }; zone: string; file: CalendarFile };

function readEvents(root: ICAL.Component, reading: Reading): void {
  const zones = root.getAllSubcomponents("vtimezone");
  for (const part of zones) ICAL.TimezoneService.register(part);
  const events = root
    .getAllSubcomponents("vevent")
    .map((part) => ({ part, event: new ICAL.Event(part) }));
  const changed = events.flatMap(({ event }) => (event.isRecurrenceException() ? [event] : []));
  for (const { part, event } of events) {
    if (event.isRecurrenceException()) continue;
    try {
      readEvent(part, event, changed, reading);
    } catch (error) {
      reading.file.faults.push(
        `“${(event.summary ?? event.uid ?? "an event").slice(0, 80)}” cannot be read: ${(error as Error).message.slice(0, 120)}.`,
      );
    }
  }
  for (const part of zones) ICAL.TimezoneService.remove(String(part.getFirstPropertyValue("tzid")));
}

function readEvent(
  part: ICAL.Component,
  event: ICAL.Event,
  changed: readonly ICAL.Event[],
  reading: Reading,
): void {
  if (String(part.getFirstPropertyValue("status")).toUpperCase() === "CANCELLED") return;
  const uid = event.uid || `${event.summary} ${event.startDate?.toString()}`;
  if (!event.startDate) throw new Error("it has no DTSTART");
  for (const other of changed) if (other.uid === event.uid) event.relateException(other);
  if (event.isRecurring()) return expand(event, uid, reading);
  const end = ends(part) ? event.endDate : null;
  const times = { start: event.startDate, end, recurring: false };
  add(entryOf(uid, event.summary, times, reading.zone), reading);
}

const ends = (part: ICAL.Component) => part.hasProperty("dtend") || part.hasProperty("duration");

/** Steps beyond which a rule is given up: one that repeats every second would otherwise never reach the window. */
const MOST_STEPS = 20_000;

function expand(event: ICAL.Event, uid: string, reading: Reading): void {
  const { window, zone, file } = reading;
  const iterator = event.iterator();
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const next = iterator.next();
    if (!next) return;
    const { item, startDate, endDate } = event.getOccurrenceDetails(next);
    const end = ends(item.component) ? endDate : null;
    const times = { start: startDate, end, recurring: true };
    const entry = entryOf(`${uid} ${next.toString()}`, item.summary, times, zone);
    if (dayFrom(next, zone) > addDays(window.to, 1)) return;
    add(entry, reading);
    if (file.entries.length >= CALENDAR_LIMITS.entries) {
      file.notes.push(
        `Only the first ${CALENDAR_LIMITS.entries.toLocaleString("en")} days were read.`,
      );
      return;
    }
  }
  file.notes.push(`“${event.summary}” repeats too often to be followed to the end.`);
}

function add(entry: CalendarEntry, { window, file }: Reading): void {
  if (entry.endsOn >= window.from && entry.startsOn <= window.to) file.entries.push(entry);
}

/** The last day of what ends then: exclusive for all-day events; what ends at midnight does not touch the next day. */
function lastDay(start: ICAL.Time, end: ICAL.Time, zone: string): Day {
  if (end.isDate) return addDays(dayFrom(end, zone), -1);
  const instant = Math.max(instantOf(start, zone).getTime(), instantOf(end, zone).getTime() - 1);
  return dayOf(new Date(instant), zone);
}

type Times = { start: ICAL.Time; end: ICAL.Time | null; recurring: boolean };

function entryOf(
  key: string,
  summary: string | null,
  { start, end, recurring }: Times,
  zone: string,
): CalendarEntry {
  const startsOn = dayFrom(start, zone);
  const last = end ? lastDay(start, end, zone) : startsOn;
  return {
    key: key.slice(0, 300),
    name: (summary ?? "").trim().slice(0, 120) || "(no name)",
    startsOn,
    endsOn: last < startsOn ? startsOn : last,
    allDay: start.isDate,
    recurring,
  };
}

const pad = (n: number, width = 2) => String(n).padStart(width, "0");
const wallOf = (time: ICAL.Time) =>
  `${pad(time.year, 4)}-${pad(time.month)}-${pad(time.day)}T${pad(time.hour)}:${pad(time.minute)}`;
const dayFrom = (time: ICAL.Time, zone: string): Day =>
  time.isDate ? wallOf(time).slice(0, 10) : dayOf(instantOf(time, zone), zone);

/**
 * A time with a TZID whose VTIMEZONE is in the file, or in UTC, is an instant already. Many files name
 * an IANA zone and leave VTIMEZONE out: then that zone is used. A floating time is the school's own.
 */
function instantOf(time: ICAL.Time, zone: string): Date {
  if (time.zone !== ICAL.Timezone.localTimezone) return time.toJSDate();
  const named = (time as { timezone?: string }).timezone;
  return wallToInstant(wallOf(time), named && isZone(named) ? named : zone).at;
}

function isZone(name: string): boolean {
  try {
    return Boolean(new Intl.DateTimeFormat("en", { timeZone: name }));
  } catch {
    return false;
  }
}
