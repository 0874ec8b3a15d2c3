import { beforeEach, describe, expect, test } from "@jest/globals";
import { Problem, Unreachable } from "../client";
import { testWorld, type TestWorld } from "../keeping/testing";
import { MarkAnswers, type Given, type Shown } from "./MarkAnswers";

/** A student's answers to marks, against a server that can be gone, slow, or of another opinion. */
const DONE: Given = { request: "done", decision: null };
const OPEN: Given = { request: "open", decision: null };
let world: TestWorld;
let server: Map<string, Given>;
let asked: string[];
let fate: ("ok" | "gone" | "lost" | "no" | "401")[];

beforeEach(() => {
  [world, server, asked, fate] = [testWorld(), new Map(), [], []];
});

async function send(markId: string, given: Given): Promise<{ openRequests: number }> {
  asked.push(`${markId} ${given.request ?? given.decision}`);
  const next = fate.shift() ?? "ok";
  if (next === "gone") throw new Unreachable();
  if (next === "no") throw new Problem(409, "That is over.", null, {}, null);
  if (next === "401") throw new Problem(401, "Sign in again.", null, {}, null);
  server.set(markId, given);
  if (next === "lost") throw new Unreachable();
  return { openRequests: [...server.values()].filter((g) => g.request === "open").length };
}

/** A page with two marks; `shown` is what stands on it. */
async function open() {
  const shown = new Map<string, Shown>([
    ["a", { ...OPEN }],
    ["b", { request: null, decision: null }],
  ]);
  const answers = new MarkAnswers("p", send, world.world);
  const end = answers.start({
    shown: (id) => shown.get(id),
    show: (id, what) => shown.set(id, what),
    onAnswered: () => {},
  });
  await world.settle();
  return { answers, shown, end };
}

describe("what a student answers to a mark", () => {
  test("is shown at once and sent; then nothing of it is left on the device", async () => {
    const { answers, shown } = await open();
    const taken = answers.answer("a", DONE);
    expect(shown.get("a")).toEqual(DONE);
    expect(answers.getState().waits).toBe(true);
    expect(await taken).toBe(true);
    expect([server.get("a"), world.stored.size]).toEqual([DONE, 0]);
    expect(answers.getState()).toEqual({ waits: false, problem: null });
  });
  test("stays shown without a connection, and goes when it is back; of two only the last is needed", async () => {
    const { answers, shown } = await open();
    fate = ["gone", "gone"];
    const first = answers.answer("a", DONE);
    void answers.answer("b", { request: null, decision: "accepted" });
    await world.settle();
    const second = answers.answer("a", OPEN);
    expect([shown.get("a"), server.size, world.stored.size]).toEqual([OPEN, 0, 2]);
    await world.wake();
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(server.get("a")).toEqual(OPEN);
    expect(server.get("b")).toEqual({ request: null, decision: "accepted" });
    expect(world.stored.size).toBe(0);
  });
  test("an answer that was lost is asked again by the timer", async () => {
    const { answers } = await open();
    fate = ["lost"];
    void answers.answer("a", DONE);
    await world.settle();
    expect(answers.getState().waits).toBe(true);
    await world.pass(1000);
    expect(asked).toEqual(["a done", "a done"]);
    expect(answers.getState().waits).toBe(false);
  });
  test("a no is told, and the mark stands as before; the next yes takes the words away", async () => {
    const { answers, shown } = await open();
    fate = ["no"];
    expect(await answers.answer("a", DONE)).toBe(false);
    expect(shown.get("a")).toMatchObject(OPEN);
    expect([answers.getState().problem, world.stored.size]).toEqual(["That is over.", 0]);
    expect(await answers.answer("a", DONE)).toBe(true);
    expect(answers.getState().problem).toBeNull();
  });
  test("a closed tab's answer is shown and sent by the next page; the one that was left says nothing any more", async () => {
    const left = await open();
    fate = ["gone"];
    void left.answers.answer("a", DONE);
    await world.settle();
    left.end();
    fate = ["gone"];
    const next = await open();
    expect(next.shown.get("a")).toEqual(DONE);
    void next.answers.answer("a", OPEN);
    await world.pass(60_000);
    await world.wake();
    expect(server.get("a")).toEqual(OPEN);
    expect(asked.filter((what) => what === "a done")).toHaveLength(2);
  });
  test("who must sign in again finds it afterwards", async () => {
    const { answers, shown, end } = await open();
    fate = ["401"];
    expect(await answers.answer("a", DONE)).toBe(true);
    expect([shown.get("a"), world.stored.size]).toEqual([DONE, 1]);
    expect(answers.getState()).toMatchObject({ waits: false, problem: "Sign in again." });
    end();
    await open();
    expect([server.get("a"), world.stored.size]).toEqual([DONE, 0]);
  });
  test("what was left for a mark that is not there any more is forgotten", async () => {
    await world.world.device.keep("answer p gone", DONE, 0);
    await open();
    expect([world.stored.size, asked]).toEqual([0, []]);
  });
});
