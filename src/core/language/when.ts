import { sayDay, sayTime } from "../time/words";
import { dayOf, daysBetween, type Day } from "../time/zone";
import { LOCALES, type Language } from "./languages";
import { sayIn } from "./say";

const NEAR = ["yesterday", "today", "tomorrow"] as const;

/** A day as it is written in this language. @example sayDayIn("fr", "2026-10-16", "2026-10-14") // "ven. 16 oct." */
export function sayDayIn(language: Language, day: Day, today: Day): string {
  if (language === "en") return sayDay(day, today);
  const year = day.slice(0, 4) === today.slice(0, 4) ? {} : ({ year: "numeric" } as const);
  return new Intl.DateTimeFormat(LOCALES[language], {
    ...{ weekday: "short", day: "numeric", month: "short", timeZone: "UTC" },
    ...year,
  } as const).format(new Date(`${day}T12:00:00Z`));
}

/** A time in the school's zone, as `sayTime` has it in English. @example "demain à 16 h 00" */
export function sayTimeIn(language: Language, at: Date, now: Date, zone: string): string {
  if (language === "en") return sayTime(at, now, zone);
  const say = sayIn("time", language);
  const [day, today] = [dayOf(at, zone), dayOf(now, zone)];
  const near = NEAR[daysBetween(today, day) + 1];
  const clock = new Intl.DateTimeFormat(LOCALES[language], {
    ...{ hour: "2-digit", minute: "2-digit", hourCycle: "h23", timeZone: zone },
  } as const).format(at);
  return near
    ? say("near", { day: say(near), clock })
    : say("far", { day: sayDayIn(language, day, today), clock });
}
