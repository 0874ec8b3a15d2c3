import { isEdit } from "../marks/mark";
import { sayCount } from "../text/sayCount";
import type { AnsweredMark } from "../views/views";

/** What a student has to do about a mark of a round: do it, decide on it, hear it. */
export type TaskKind = "request" | "edit" | "voice";
export type Task = {
  mark: AnsweredMark;
  kind: TaskKind;
  /** Done, decided, or heard. */
  over: boolean;
};

const NAMES: Readonly<Record<TaskKind, string>> = {
  request: "request",
  edit: "edit",
  voice: "voice note",
};

/**
 * A round as its student works it off, in the order of the marks given: each request, each edit, each voice note that
 * is neither. Praise and remarks ask for nothing and are not in it; nor is what a teacher has settled.
 *
 * @param heard whether the student has listened to a clip
 */
export function checklist(
  marks: readonly AnsweredMark[],
  heard: (clipId: string) => boolean,
): Task[] {
  // What still has its words comes first, in their order; what lost them is for the end.
  const standing = [...marks.filter((m) => !m.gone), ...marks.filter((m) => m.gone)];
  return standing.flatMap((mark): Task[] => {
    if (mark.request === "open" || mark.request === "done")
      return [{ mark, kind: "request", over: mark.request === "done" }];
    if (mark.request !== null) return [];
    if (isEdit(mark)) return [{ mark, kind: "edit", over: mark.decision !== null }];
    return mark.clipId ? [{ mark, kind: "voice", over: heard(mark.clipId) }] : [];
  });
}

/** @example sayTasks(tasks) // "2 requests · 3 edits · 1 voice note" */
export function sayTasks(tasks: readonly Task[]): string {
  return (["request", "edit", "voice"] as const)
    .map((kind) => [kind, tasks.filter((task) => task.kind === kind).length] as const)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => sayCount(count, NAMES[kind]))
    .join(" · ");
}

export const leftOf = (tasks: readonly Task[]): number => tasks.filter((task) => !task.over).length;

/**
 * The next task that is left after one, round the end; the first where none is chosen. Null: nothing is left.
 *
 * @param by 1 onwards, -1 back
 */
export function nextTask(
  tasks: readonly Task[],
  chosen: string | null,
  by: 1 | -1 = 1,
): Task | null {
  const from = tasks.findIndex((task) => task.mark.id === chosen);
  const start = from === -1 && by === -1 ? tasks.length : from;
  for (let n = 1; n <= tasks.length; n += 1) {
    const task = tasks[(start + by * n + tasks.length * 2) % tasks.length]!;
    if (!task.over) return task;
  }
  return null;
}
