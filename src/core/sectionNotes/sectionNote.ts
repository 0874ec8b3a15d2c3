import { isTeacher, type Standing } from "../access/access";

/**
 * A section note is a teacher's word to all the students of one hand-out; students may answer it to the whole class,
 * as the section's owner has set it.
 */
export const CLASS_ANSWERS = ["none", "read first", "at once"] as const;
/** Whether students answer to the class: not at all, once a teacher has read it, or at once. */
export type ClassAnswers = (typeof CLASS_ANSWERS)[number];

export type Said = {
  /** By the one who asks. */ mine: boolean;
  /** Whether the class may see it. */ shown: boolean;
  /** Taken away again. */ taken: boolean;
};

/**
 * What becomes of an answer when it is sent.
 *
 * @example answerIs("student", "read first") // "waits"
 */
export function answerIs(standing: Standing, set: ClassAnswers): "shown" | "waits" | "refused" {
  if (isTeacher(standing) || (standing === "student" && set === "at once")) return "shown";
  return standing === "student" && set === "read first" ? "waits" : "refused";
}

/**
 * Whether someone sees what was said to a class, in a display or in a look. A student's answer that waits is seen by that student and the section's teachers
 * alone; what was taken away by nobody, except that its author still sees that a teacher took it away.
 */
export function seesSaid(standing: Standing, said: Said): boolean {
  if (said.taken) return said.mine && !isTeacher(standing);
  return said.shown || said.mine || isTeacher(standing);
}

/** A teacher takes away anything, a student what is their own. */
export function mayTakeAway(standing: Standing, said: Said): boolean {
  return !said.taken && (isTeacher(standing) || said.mine);
}
