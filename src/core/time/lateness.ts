import { saySpan } from "./words";

export type Deadline = {
  due: Date;
  /** Minutes after `due` that still count as on time. */
  graceMinutes: number;
};

export type Lateness = { late: false } | { late: true; from: Date; to: Date };

/**
 * Whether a hand-in was late, and from when it counts.
 *
 * On time means: stored at or before due + grace, to the millisecond. Once past that, lateness is
 * counted from *due*, not from the end of the grace.
 *
 * @example lateness({ due: 16:00, graceMinutes: 10 }, 16:10) // { late: false }
 * @example lateness({ due: 16:00, graceMinutes: 10 }, 16:11) // { late: true, from: 16:00, to: 16:11 }
 */
export function lateness({ due, graceMinutes }: Deadline, handedInAt: Date): Lateness {
  const lastMoment = due.getTime() + graceMinutes * 60_000;
  return handedInAt.getTime() <= lastMoment
    ? { late: false }
    : { late: true, from: due, to: handedInAt };
}

/**
 * @example sayLateness(deadline, handedInAt, zone)
 *   // "on time" · "in the grace time" · "2 days 3 h late"
 */
export function sayLateness(deadline: Deadline, handedInAt: Date, zone: string): string {
  const found = lateness(deadline, handedInAt);
  if (found.late) return `${saySpan(found.from, found.to, zone)} late`;
  return handedInAt.getTime() > deadline.due.getTime() ? "on time (within the grace)" : "on time";
}
