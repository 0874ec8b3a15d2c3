import ICAL from "ical.js";

// The library folds after so many octets and then puts a space before what follows: 75 with it (section 3.1).
ICAL.foldLength = 74;

/** One due date of a person's feed. */
export type FeedEntry = {
  uid: string;
  title: string;
  detail: string;
  at: Date;
  changedAt: Date;
  /** Rises whenever something of it changed, its due time above all. */
  sequence: number;
  /** It is no longer asked for: calendars that have it take it out. */
  cancelled: boolean;
  url: string;
};

/**
 * A private calendar of due dates as iCalendar (RFC 5545). Each due date is an event of no length at its
 * instant, in UTC, so that every calendar shows it right wherever it is read: an event with DTSTART and no DTEND
 * ends when it begins (section 3.6.1).
 *
 * @param alarmMinutes a VALARM that many minutes before; null: none
 */
export function writeDueFeed(
  name: string,
  entries: readonly FeedEntry[],
  alarmMinutes: number | null,
  now: Date,
): string {
  const calendar = new ICAL.Component("vcalendar");
  const properties = {
    version: "2.0",
    prodid: "-//Almanac//due dates//EN",
    method: "PUBLISH",
    "x-wr-calname": name,
    name,
    "x-published-ttl": "PT1H",
  };
  for (const [key, value] of Object.entries(properties)) calendar.addPropertyWithValue(key, value);
  for (const entry of entries) calendar.addSubcomponent(eventOf(entry, alarmMinutes, now));
  return `${calendar.toString()}\r\n`;
}

function eventOf(entry: FeedEntry, alarmMinutes: number | null, now: Date): ICAL.Component {
  const event = new ICAL.Component("vevent");
  const properties = {
    uid: entry.uid,
    dtstamp: utc(now),
    "last-modified": utc(entry.changedAt),
    sequence: entry.sequence,
    status: entry.cancelled ? "CANCELLED" : "CONFIRMED",
    dtstart: utc(entry.at),
    summary: entry.title,
    description: entry.detail,
    url: entry.url,
    transp: "TRANSPARENT",
  };
  for (const [key, value] of Object.entries(properties)) event.addPropertyWithValue(key, value);
  if (alarmMinutes !== null && !entry.cancelled)
    event.addSubcomponent(alarmOf(entry.title, alarmMinutes));
  return event;
}

function alarmOf(title: string, minutes: number): ICAL.Component {
  const alarm = new ICAL.Component("valarm");
  alarm.addPropertyWithValue("action", "DISPLAY");
  alarm.addPropertyWithValue("description", title);
  alarm.addPropertyWithValue("trigger", ICAL.Duration.fromSeconds(-60 * minutes));
  return alarm;
}

/** An instant as calendars take it, in UTC. */
export const utc = (at: Date): ICAL.Time => ICAL.Time.fromJSDate(at, true);
