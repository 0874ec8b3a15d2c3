import type { Day } from "../time/zone";
import type { Audience } from "./plan";

export type Member = {
  studentId: string;
  joinedOn: Day;
  leftOn: Day | null;
  groups: readonly string[];
};

/**
 * Who gets a hand-out: the students it is meant for who are in the section on the day it is handed out
 * or join later, and have not left before it is due.
 *
 * Someone who joins owes what is due on that day or later, not what was due before; someone who leaves
 * owes nothing that is due on that day or later. What either did stays.
 *
 * @param dueDay the hand-out's due day
 */
export function studentsFor(
  audience: Audience,
  members: readonly Member[],
  today: Day,
  dueDay: Day,
): string[] {
  return members
    .filter((m) => isMeant(audience, m) && owes(m, today, dueDay))
    .map((m) => m.studentId);
}

export function isMeant(audience: Audience, member: Pick<Member, "studentId" | "groups">): boolean {
  if (audience.kind === "section") return true;
  return (
    audience.students.includes(member.studentId) ||
    member.groups.some((id) => audience.groups.includes(id))
  );
}

/** @example owes({ joinedOn: "2026-10-12", leftOn: null }, "2026-10-12", "2026-10-09") // false: it was due before */
export function owes(
  member: Pick<Member, "joinedOn" | "leftOn">,
  today: Day,
  dueDay: Day,
): boolean {
  const here = member.joinedOn <= today && (member.leftOn === null || member.leftOn > today);
  return here && member.joinedOn <= dueDay && (member.leftOn === null || member.leftOn > dueDay);
}
