"use client";

import { useEffect, useEffectEvent } from "react";
import { leftOf, nextTask, sayTasks, type Task } from "@/core/rounds/checklist";
import { sayEdit } from "@/core/marks/mark";
import { sayNote } from "@/core/text/noteText";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { goToTask } from "./goToTask";

/** What is to be done about each mark: one at a time at its place, or all edits at once. */
export type TaskActs = {
  onChoose: (markId: string) => void;
  /** Null: no edit here can be decided by the page. */
  onDecideAll: ((decision: "accepted" | "declined") => void) | null;
};

/**
 * A round as a checklist: what is left is counted down, each line leads to its words, and F8 goes through what is
 * left, also while one writes.
 */
export function Checklist({
  tasks,
  chosen,
  acts,
}: {
  tasks: readonly Task[];
  chosen: string | null;
  acts: TaskActs;
}) {
  const go = (task: Task | null) => {
    if (!task) return;
    acts.onChoose(task.mark.id);
    goToTask(task.mark.id);
  };
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.key !== "F8" || event.ctrlKey || event.altKey || event.metaKey) return;
    event.preventDefault();
    go(nextTask(tasks, chosen, event.shiftKey ? -1 : 1));
  });
  useEffect(() => {
    const keys = (event: KeyboardEvent) => onKey(event);
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, []);
  if (tasks.length === 0) return null;
  const left = leftOf(tasks);
  const edits = tasks.filter((task) => task.kind === "edit" && !task.over);
  return (
    <section
      id="to-do"
      aria-label="What to do in this round"
      className="sticky top-0 z-20 mb-5 border-y border-line-strong bg-paper py-2"
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <p className="min-w-0 flex-1 font-serif text-lg">
          {sayTasks(tasks)}{" "}
          <span
            role="status"
            className={classes(
              "font-sans text-sm whitespace-nowrap",
              left > 0 ? "font-semibold text-ember" : "text-moss",
            )}
          >
            {left > 0 ? `${left} left` : "✓ all done"}
          </span>
        </p>
        <Button
          small
          className="max-sm:min-h-11"
          disabled={left === 0}
          onClick={() => go(nextTask(tasks, chosen, -1))}
          aria-label="The one before"
        >
          ↑
        </Button>
        <Button
          small
          ink="tide"
          className="max-sm:min-h-11"
          disabled={left === 0}
          onClick={() => go(nextTask(tasks, chosen))}
        >
          Next <kbd className="text-xs opacity-80 max-lg:hidden">F8</kbd>
        </Button>
      </div>
      <details className="mt-1" open={tasks.length <= 4 ? undefined : false}>
        <summary className="label cursor-pointer max-sm:leading-[2.75rem]">each of them</summary>
        <ol className="max-h-56 overflow-y-auto">
          {tasks.map((task) => (
            <li key={task.mark.id}>
              <button
                type="button"
                aria-current={task.mark.id === chosen ? "true" : undefined}
                onClick={() => go(task)}
                className={classes(
                  "flex min-h-8 w-full cursor-pointer items-baseline gap-2 border-t border-line px-1 text-left text-sm hover:bg-sunk max-sm:min-h-11",
                  task.mark.id === chosen && "bg-tide-wash",
                )}
              >
                <span aria-hidden="true" className={task.over ? "text-moss" : "text-ember"}>
                  {task.over ? "✓" : "○"}
                </span>
                <span className="sr-only">{task.over ? "done: " : "left: "}</span>
                <span className="label shrink-0">{WORDS[task.kind]}</span>
                <span className="min-w-0 flex-1 truncate">{sayTask(task)}</span>
              </button>
            </li>
          ))}
        </ol>
        {edits.length > 1 && acts.onDecideAll ? (
          <p className="flex flex-wrap gap-2 pt-2">
            <Button small className="max-sm:min-h-11" onClick={() => acts.onDecideAll!("accepted")}>
              Accept all {edits.length} edits
            </Button>
            <Button small className="max-sm:min-h-11" onClick={() => acts.onDecideAll!("declined")}>
              Decline all
            </Button>
          </p>
        ) : null}
      </details>
    </section>
  );
}

const WORDS = { request: "do", edit: "edit", voice: "hear" } as const;

function sayTask({ mark, kind }: Task): string {
  if (kind === "edit") return sayEdit(mark);
  if (mark.body) return sayNote(mark.body);
  return mark.quote ? `about “${mark.quote}”` : "a voice on the whole";
}
