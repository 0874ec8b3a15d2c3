import ICAL from "ical.js";
import { dayOf, wallToInstant, type Day } from "../../time/zone";

/** Times of one file: which zone a name in it means. */
export class Times {
  /** Names of zones that are neither in the file nor known: what they mean has to be asked. */
  readonly unknown = new Set<string>();

  /**
   * @param school the zone of times that name none
   * @param given what a person said that names mean
   */
  constructor(
    readonly school: string,
    private readonly given: Readonly<Record<string, string>>,
  ) {}

  /**
   * The times of a property, in order, each checked: a day that is in no calendar is a fault of the file.
   *
   * @throws Error saying which
   */
  of(part: ICAL.Component, name: string): Moment[] {
    return part.getAllProperties(name).flatMap((property) => {
      for (const raw of (property.jCal as unknown[]).slice(3)) requireReal(raw, name);
      const named = property.getFirstParameter("tzid");
      return property.getValues().map((value: ICAL.Time | ICAL.Period) => {
        const time = value instanceof ICAL.Period ? value.start : value;
        return new Moment(time, typeof named === "string" ? named : null, this);
      });
    });
  }

  zoneOf(name: string | null): string {
    if (name === null) return this.school;
    const meant = this.given[name] ?? name;
    if (isZone(meant)) return meant;
    this.unknown.add(name);
    return this.school;
  }
}

/** A date or a time of day as a file has it: a wall-clock time, and the zone whose wall it is on. */
export class Moment {
  constructor(
    readonly time: ICAL.Time,
    private readonly zoneName: string | null,
    private readonly times: Times,
  ) {}

  /** The school's zone, whose days count. */
  get zone(): string {
    return this.times.school;
  }

  get isDate(): boolean {
    return this.time.isDate;
  }

  /** The wall-clock time as if it were UTC: what rules of repetition count in. */
  get wall(): Date {
    const { year, month, day, hour, minute, second } = this.time;
    return new Date(Date.UTC(year, month - 1, day, hour, minute, second));
  }

  /** The same zone at another wall-clock time. */
  at(wall: Date): Moment {
    const time = this.time.clone();
    time.resetTo(
      wall.getUTCFullYear(),
      wall.getUTCMonth() + 1,
      wall.getUTCDate(),
      wall.getUTCHours(),
      wall.getUTCMinutes(),
      wall.getUTCSeconds(),
      this.time.zone ?? undefined,
    );
    time.isDate = this.isDate;
    return new Moment(time, this.zoneName, this.times);
  }

  /**
   * A time with a TZID whose VTIMEZONE is in the file, or in UTC, is an instant already. Many files name
   * an IANA zone and leave VTIMEZONE out: then that zone is used. A floating time is the school's own.
   */
  get instant(): Date {
    const { time } = this;
    if (!time.isDate && time.zone && time.zone !== ICAL.Timezone.localTimezone)
      return time.toJSDate();
    const zone = time.isDate ? this.times.school : this.times.zoneOf(this.zoneName);
    return wallToInstant(this.wall.toISOString().slice(0, 16), zone).at;
  }

  /** The day in the school's zone. */
  get day(): Day {
    return this.isDate
      ? this.wall.toISOString().slice(0, 10)
      : dayOf(this.instant, this.times.school);
  }

  /** What tells this occurrence from others of its event. */
  get name(): string {
    return this.time.toString();
  }
}

function isZone(name: string): boolean {
  try {
    return Boolean(new Intl.DateTimeFormat("en", { timeZone: name }));
  } catch {
    return false;
  }
}

/** A library would make 3 March of 31 February. */
function requireReal(raw: unknown, name: string): void {
  const texts = (Array.isArray(raw) ? raw : [raw]).map(String);
  // The second half of a period may be a duration.
  for (const text of texts.filter((one) => !/^[-+]?P/.test(one)))
    if (!isReal(text)) throw new Error(`${name.toUpperCase()} ${text} is no date of any calendar`);
}

function isReal(text: string): boolean {
  const parts = /^(\d{4})-(\d{2})-(\d{2})(?:T(\d{2}:\d{2}:\d{2}))?/.exec(text);
  if (!parts) return false;
  const [year, month, day] = parts.slice(1, 4).map(Number) as [number, number, number];
  const real = new Date(Date.UTC(year, month - 1, day));
  const isDay = real.getUTCMonth() === month - 1 && real.getUTCDate() === day;
  return (
    isDay && (parts[4] === undefined || /^([01]\d|2[0-3]):[0-5]\d:([0-5]\d|60)$/.test(parts[4]))
  );
}
