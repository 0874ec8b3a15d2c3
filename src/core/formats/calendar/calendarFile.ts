import { shorten } from "../../text/shorten";
import ICAL from "ical.js";
import { addDays, dayOf, type Day } from "../../time/zone";
import { occurrences, TooOften } from "./occurrences";
import { Times, type Moment } from "./times";

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
export type CalendarFile = {
  entries: CalendarEntry[];
  faults: string[];
  notes: string[];
  /** Time zones the file names and does not tell of: a person is to say what they mean. */
  unknownZones: string[];
};

export const CALENDAR_LIMITS = { characters: 5_000_000, events: 5_000, entries: 3_000 } as const;

/**
 * Reads the events of an iCalendar file (RFC 5545) that touch the days from `from` to `to`.
 *
 * DTEND of an all-day event is exclusive; without DTEND or DURATION it is that one day (section
 * 3.6.1). Recurring events are expanded within the window only, so a rule without end is no danger;
 * EXDATE, RDATE and changed occurrences (RECURRENCE-ID) are honoured, also where the event they belong to is not
 * in the file. Times are read in their TZID and turned into days of the school's zone. What is cancelled is left out.
 *
 * @param zones what unknown time zones of the file mean (IANA names), as far as a person has said
 */
export function readCalendarFile(
  text: string,
  window: { from: Day; to: Day },
  zone: string,
  zones: Readonly<Record<string, string>> = {},
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
  const file: CalendarFile = { entries: [], faults: [], notes: [], unknownZones: [] };
  const times = new Times(zone, zones);
  for (const root of roots) readEvents(root, { window, times, file });
  file.unknownZones = [...times.unknown].sort();
  file.entries.sort((a, b) => a.startsOn.localeCompare(b.startsOn) || a.name.localeCompare(b.name));
  if (file.entries.length > CALENDAR_LIMITS.entries) {
    file.entries.length = CALENDAR_LIMITS.entries;
    file.notes.push(
      `Only the first ${CALENDAR_LIMITS.entries.toLocaleString("en")} entries were read.`,
    );
  }
  if (count === 0) file.notes.push("There is no event in this file.");
  return file;
}

const fault = (words: string): CalendarFile => ({
  entries: [],
  faults: [words],
  notes: [],
  unknownZones: [],
});

type Reading = { window: { from: Day; to: Day }; times: Times; file: CalendarFile };

/** An event of the file, with what of it can be read at once. */
type Event = {
  part: ICAL.Component;
  uid: string;
  name: string;
  start: Moment;
  end: Moment | null;
  /** Which occurrence it changes; null: it is an event of its own. */
  changes: Moment | null;
  cancelled: boolean;
  sequence: number;
};

function readEvents(root: ICAL.Component, reading: Reading): void {
  const zones = root.getAllSubcomponents("vtimezone");
  for (const part of zones) ICAL.TimezoneService.register(part);
  const byUid = new Map<string, Event[]>();
  for (const part of root.getAllSubcomponents("vevent"))
    guarded(reading, part, () => {
      const event = readEvent(part, reading.times);
      byUid.set(event.uid, [...(byUid.get(event.uid) ?? []), event]);
    });
  for (const events of byUid.values())
    guarded(reading, events[0]!.part, () => addAll(events, reading));
  for (const part of zones) ICAL.TimezoneService.remove(String(part.getFirstPropertyValue("tzid")));
}

/** What cannot be read of one event is said, and does not take the others with it. */
function guarded({ file }: Reading, part: ICAL.Component, read: () => void): void {
  const name = nameOf(part) || String(part.getFirstPropertyValue("uid") ?? "an event");
  try {
    read();
  } catch (error) {
    if (error instanceof TooOften)
      file.notes.push(`“${name}” repeats too often to be days of a calendar, and is left out.`);
    else
      file.faults.push(
        `“${shorten(name, 80)}” cannot be read: ${(error as Error).message.slice(0, 120)}.`,
      );
  }
}

const nameOf = (part: ICAL.Component): string =>
  String(part.getFirstPropertyValue("summary") ?? "").trim();

function readEvent(part: ICAL.Component, times: Times): Event {
  const [start] = times.of(part, "dtstart");
  if (!start) throw new Error("it has no DTSTART");
  const name = nameOf(part);
  const status = String(part.getFirstPropertyValue("status")).toUpperCase();
  return {
    part,
    uid: String(part.getFirstPropertyValue("uid") ?? `${name} ${start.name}`),
    name,
    start,
    end: endOf(part, start, times),
    changes: times.of(part, "recurrence-id")[0] ?? null,
    cancelled: status === "CANCELLED",
    sequence: Number(part.getFirstPropertyValue("sequence") ?? 0),
  };
}

function endOf(part: ICAL.Component, start: Moment, times: Times): Moment | null {
  const [end] = times.of(part, "dtend");
  if (end) return end;
  const duration = part.getFirstPropertyValue("duration");
  if (!(duration instanceof ICAL.Duration)) return null;
  return start.at(new Date(start.wall.getTime() + duration.toSeconds() * 1000));
}

/** All events of one UID: the event, or several that carry its name by mistake, and its changed occurrences. */
function addAll(events: readonly Event[], reading: Reading): void {
  const masters = mastersOf(events.filter((event) => event.changes === null));
  const changed = events.filter((event) => event.changes !== null);
  masters.forEach((event, n) => {
    const key = n === 0 ? event.uid : `${event.uid} ${event.start.name}`;
    if (event.cancelled) return;
    if (isRecurring(event)) addRecurring(event, key, n === 0 ? changed : [], reading);
    else add(entryOf(key, event, event, false), reading);
  });
  // Cancelled as a whole, with what was changed of it.
  if (masters[0]?.cancelled) return;
  for (const event of changed)
    if (!event.cancelled)
      add(entryOf(`${event.uid} ${event.changes!.name}`, event, event, true), reading);
}

/** Of editions of one event the newest; of events that only share a UID all that differ. */
function mastersOf(events: readonly Event[]): Event[] {
  const newest = Math.max(...events.map((event) => event.sequence));
  const seen = new Map<string, Event>();
  for (const event of events)
    if (event.sequence === newest) seen.set(`${event.name} ${event.start.name}`, event);
  return [...seen.values()].sort((a, b) => a.start.wall.getTime() - b.start.wall.getTime());
}

const isRecurring = ({ part }: Event): boolean =>
  part.hasProperty("rrule") || part.hasProperty("rdate");

const DAY = 86_400_000;

function addRecurring(
  event: Event,
  key: string,
  changed: readonly Event[],
  reading: Reading,
): void {
  const { part, start, end } = event;
  const { window, times } = reading;
  const length = end ? end.wall.getTime() - start.wall.getTime() : 0;
  const span = {
    from: new Date(Date.parse(window.from) - 2 * DAY - Math.max(0, length)),
    to: new Date(Date.parse(window.to) + 2 * DAY),
  };
  const rules = part.getAllProperties("rrule").map((rule) => rule.getFirstValue() as ICAL.Recur);
  const left = occurrences(start, rules, times.of(part, "rdate"), span).filter(
    isNone([...times.of(part, "exdate"), ...changed.map((other) => other.changes!)]),
  );
  const following = changed
    .filter(
      (other) =>
        String(
          other.part.getFirstProperty("recurrence-id")?.getFirstParameter("range"),
        ).toUpperCase() === "THISANDFUTURE",
    )
    .sort((a, b) => a.changes!.wall.getTime() - b.changes!.wall.getTime());
  for (const occurrence of left) {
    const later = following.findLast((other) => other.changes!.wall <= occurrence.wall);
    if (later?.cancelled) continue;
    const moved = later ? later.start.wall.getTime() - later.changes!.wall.getTime() : 0;
    const from = occurrence.at(new Date(occurrence.wall.getTime() + moved));
    const until = end && from.at(new Date(from.wall.getTime() + length));
    add(
      entryOf(`${key} ${occurrence.name}`, later ?? event, { start: from, end: until }, true),
      reading,
    );
  }
}

/** Whether an occurrence is none of these: by the instant, and by the day where a day is named. */
function isNone(taken: readonly Moment[]): (occurrence: Moment) => boolean {
  const days = new Set(taken.filter((moment) => moment.isDate).map((moment) => moment.day));
  const instants = new Set(taken.filter((m) => !m.isDate).map((m) => m.instant.getTime()));
  return (occurrence) =>
    !days.has(occurrence.wall.toISOString().slice(0, 10)) &&
    !instants.has(occurrence.instant.getTime());
}

function add(entry: CalendarEntry, { window, file }: Reading): void {
  if (entry.endsOn >= window.from && entry.startsOn <= window.to) file.entries.push(entry);
}

function entryOf(
  key: string,
  { name }: Pick<Event, "name">,
  { start, end }: Pick<Event, "start" | "end">,
  recurring: boolean,
): CalendarEntry {
  const startsOn = start.day;
  const last = end ? lastDay(start, end) : startsOn;
  return {
    key: key.slice(0, 300),
    name: name.slice(0, 120) || "(no name)",
    startsOn,
    endsOn: last < startsOn ? startsOn : last,
    allDay: start.isDate,
    recurring,
  };
}

/** The last day of what ends then: exclusive for all-day events; what ends at midnight does not touch the next day. */
function lastDay(start: Moment, end: Moment): Day {
  if (end.isDate) return addDays(end.day, -1);
  const instant = Math.max(start.instant.getTime(), end.instant.getTime() - 1);
  return dayOf(new Date(instant), start.zone);
}
