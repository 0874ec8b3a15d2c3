import { isWall } from "@/core/handouts/checkDates";

/** `2026-10-16T16:00` as `Fri 16 Oct, 16:00`; it is the school's wall clock, whatever this device's zone. */
export function sayWall(wall: string | null | undefined): string {
  // Browsers read much that is no time ("nonsense:00Z" among it), so it is checked first.
  if (!wall || !isWall(wall)) return "…";
  return new Date(`${wall}:00Z`).toLocaleString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: "UTC",
  });
}

/** The zone of the school whose page this is (the frame says it); undefined: the device's own. */
const schoolZone = (): string | undefined =>
  typeof document === "undefined"
    ? undefined
    : document.querySelector<HTMLElement>("[data-school-zone]")?.dataset.schoolZone;

/** The time of day in the school, as every other time on its pages; a device may be elsewhere. @example sayClock(at) // "09:05" */
export const sayClock = (at: Date): string =>
  at.toLocaleTimeString("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    timeZone: schoolZone(),
  });

/** `2026-10-16` as `Fri 16 Oct`. */
export function sayDate(day: string): string {
  return new Date(`${day}T12:00:00Z`).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
}

export const WEEKDAYS = [
  "Monday",
  "Tuesday",
  "Wednesday",
  "Thursday",
  "Friday",
  "Saturday",
  "Sunday",
] as const;
