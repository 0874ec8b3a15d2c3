import ical, { ICalAlarmType, ICalCalendarMethod } from "ical-generator";

/** One due date of a person's feed. */
export type FeedEntry = {
  uid: string;
  title: string;
  detail: string;
  at: Date;
  changedAt: Date;
  url: string;
};

/**
 * A private calendar of due dates as iCalendar (RFC 5545). Each due date is an event of no length at its
 * instant, in UTC, so that every calendar shows it right wherever it is read.
 *
 * @param alarmMinutes a VALARM that many minutes before; null: none
 */
export function writeDueFeed(
  name: string,
  entries: readonly FeedEntry[],
  alarmMinutes: number | null,
  now: Date,
): string {
  const calendar = ical({
    name,
    prodId: { company: "Almanac", product: "due dates", language: "EN" },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 3600,
  });
  for (const entry of entries) {
    const event = calendar.createEvent({
      id: entry.uid,
      start: entry.at,
      end: entry.at,
      stamp: now,
      lastModified: entry.changedAt,
      summary: entry.title,
      description: entry.detail,
      url: entry.url,
    });
    if (alarmMinutes !== null)
      event.createAlarm({
        type: ICalAlarmType.display,
        triggerBefore: alarmMinutes * 60,
        description: entry.title,
      });
  }
  return calendar.toString();
}
