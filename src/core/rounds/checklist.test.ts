import { describe, expect, test } from "@jest/globals";
import { wholeMark } from "../marks/schema";
import type { AnsweredMark } from "../views/views";
import { checklist, leftOf, nextTask, sayTasks } from "./checklist";

const mark = (id: string, facts: Partial<AnsweredMark>): AnsweredMark => ({
  ...wholeMark({
    ...{ id, kind: "note", nature: "remark", start: 0, end: 1, quote: "x" },
    ...{ body: "?", replacement: "" },
  }),
  ...{ round: 1, at: { start: 0, end: 1 }, gone: false },
  ...{ request: null, decision: null, messages: [], ...facts },
});

const MARKS = [
  mark("r1", { nature: "request", request: "open", clipId: "c0" }),
  mark("praise", { nature: "praise" }),
  mark("e1", { kind: "delete" }),
  mark("v1", { clipId: "c1" }),
  mark("r2", { nature: "request", request: "done" }),
  mark("old", { nature: "request", request: "settled" }),
  mark("e2", { kind: "replace", decision: "declined" }),
];
const heard = (clip: string) => clip === "c9";
const tasks = checklist(MARKS, heard);

describe("a round as a checklist", () => {
  test("what asks for something, in the order of the work; a request with a voice is one", () => {
    expect(tasks.map((task) => [task.mark.id, task.kind, task.over])).toEqual([
      ["r1", "request", false],
      ["e1", "edit", false],
      ["v1", "voice", false],
      ["r2", "request", true],
      ["e2", "edit", true],
    ]);
    expect(sayTasks(tasks)).toBe("2 requests · 2 edits · 1 voice note");
    expect(leftOf(tasks)).toBe(3);
    const gone = mark("gone", { nature: "request", request: "open", at: null, gone: true });
    expect(checklist([gone, ...MARKS], heard).at(-1)!.mark.id).toBe("gone");
    expect(leftOf(checklist(MARKS, (clip) => clip === "c1"))).toBe(2);
  });
  test("the next that is left, both ways and round the end", () => {
    const next = (chosen: string | null, by: 1 | -1 = 1) => nextTask(tasks, chosen, by)?.mark.id;
    expect([next(null), next("r1"), next("v1"), next("e2")]).toEqual(["r1", "e1", "r1", "r1"]);
    expect([next(null, -1), next("r1", -1), next("e1", -1)]).toEqual(["v1", "v1", "r1"]);
    const done = checklist([mark("r", { nature: "request", request: "done" })], heard);
    expect(nextTask(done, null)).toBeNull();
    expect(nextTask([], null)).toBeNull();
  });
});
