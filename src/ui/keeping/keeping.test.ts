import { beforeEach, describe, expect, test } from "@jest/globals";
import { Problem, Unreachable } from "../client";
import { Keeper, type Keeping } from "./Keeper";
import { Pressed } from "./Pressed";
import { backOff } from "./reach";
import { testWorld, type TestWorld } from "./testing";

/** Keeping and sending, with a clock and a server of the tests' own. */
type Text = { text: string };
let world: TestWorld;
let server: { value: Text; revision: number };
let asked: string[];
let fate: (Error | "lost" | "ok")[];
const no = (status: number, theirs: unknown = null) =>
  new Problem(status, `No (${status}).`, null, {}, theirs);

/** A server that keeps one text by its revision. */
async function send(value: Text, revision: number): Promise<{ revision: number }> {
  asked.push(value.text);
  const next = fate.shift() ?? "ok";
  if (next instanceof Error) throw next;
  if (revision !== server.revision) throw no(412, structuredClone(server));
  server = { value: structuredClone(value), revision: revision + 1 };
  if (next === "lost") throw new Unreachable();
  return { revision: server.revision };
}
const keeper = (more: Partial<Keeping<Text, { revision: number }>> = {}, from = server) =>
  new Keeper<Text, { revision: number }>(
    {
      key: "text",
      pauseMs: 900,
      send,
      isSame: (a, b) => a.text === b.text,
      theirs: ({ theirs }) => theirs as { value: Text; revision: number },
      ...more,
    },
    structuredClone(from),
    world.world,
  );
const write = (to: Keeper<Text, { revision: number }>, text: string) => to.change(() => ({ text }));

beforeEach(() => {
  world = testWorld();
  server = { value: { text: "begun" }, revision: 3 };
  asked = [];
  fate = [];
});

describe("what is written", () => {
  test("is on the device at once, on the server after the pause, once for many letters", async () => {
    const mine = keeper();
    for (const text of ["a", "ab", "abc"]) {
      write(mine, text);
      await world.pass(300);
    }
    expect([mine.getState().stage, asked]).toEqual(["changed", []]);
    expect(world.stored.get("text")).toMatchObject({
      value: { value: { text: "abc" } },
      revision: 3,
    });
    await world.pass(900);
    expect([mine.getState().stage, asked, server.revision]).toEqual(["saved", ["abc"], 4]);
    expect(world.stored.size).toBe(0);
    await world.pass(60_000);
    expect([await mine.flush(), asked.length]).toEqual([true, 1]);
  });
  test("while it is on its way goes after it, on the revision that one made", async () => {
    const mine = keeper();
    write(mine, "first");
    const sent = mine.flush();
    while (asked.length === 0) await Promise.resolve();
    write(mine, "second");
    await sent;
    expect(mine.getState().stage).toBe("changed");
    await world.pass(900);
    expect([asked, server.value.text, mine.getState().revision]).toEqual([
      ["first", "second"],
      "second",
      5,
    ]);
  });
  test("goes by itself when there is a server again: later each time, at once when the browser says so", async () => {
    const mine = keeper();
    mine.start();
    fate = Array.from({ length: 4 }, () => new Unreachable());
    write(mine, "in a tunnel");
    await world.pass(900);
    expect(mine.getState().stage).toBe("waiting");
    await world.pass(backOff(0) + backOff(1));
    expect([asked.length, mine.getState().stage]).toEqual([3, "waiting"]);
    await world.wake();
    expect(asked.length).toBe(4);
    await world.wake();
    expect([server.value.text, mine.getState().stage, world.timers()]).toEqual([
      "in a tunnel",
      "saved",
      0,
    ]);
  });
  test.each([500, 503])("goes again when the server is unwell (%s)", async (status) => {
    const mine = keeper();
    fate = [no(status)];
    write(mine, "x");
    await world.pass(900 + backOff(0));
    expect([server.value.text, mine.getState().stage]).toEqual(["x", "saved"]);
  });
  test("refused: it says so, is on the device, and is not sent again until it is changed", async () => {
    const mine = keeper();
    fate = [no(422)];
    write(mine, "no score");
    expect(await mine.flush()).toBe(false);
    expect([mine.getState().stage, world.stored.size]).toEqual(["refused", 1]);
    await world.pass(600_000);
    await world.wake();
    expect(asked.length).toBe(1);
    write(mine, "8");
    await world.pass(900);
    expect([server.value.text, mine.getState().stage]).toEqual(["8", "saved"]);
  });
  test("leaving sends what waits, once, and nothing that is sent already", async () => {
    const mine = keeper();
    const leave = mine.start();
    write(mine, "x");
    await mine.flush();
    leave();
    await world.settle();
    expect(asked).toEqual(["x"]);
    const again = mine.start();
    write(mine, "y");
    again();
    await world.pass(60_000);
    expect(asked).toEqual(["x", "y"]);
  });
  test("a device without room: that is said, and the server has it all the same", async () => {
    world.noRoom();
    const mine = keeper();
    write(mine, "x");
    await world.settle();
    expect(mine.getState().deviceKeeps).toBe(false);
    await world.pass(900);
    expect(server.value.text).toBe("x");
  });
});

describe("changed elsewhere", () => {
  const elsewhere = (text: string) => {
    server = { value: { text }, revision: server.revision + 1 };
  };
  test.each([
    ["mine", "mine"],
    ["theirs", "theirs"],
  ] as const)("both are there, nothing is sent until one is chosen: %s", async (which, text) => {
    const mine = keeper();
    elsewhere("theirs");
    write(mine, "mine");
    await world.pass(900);
    expect(mine.getState()).toMatchObject({
      stage: "conflict",
      value: { text: "mine" },
      theirs: { value: { text: "theirs" } },
    });
    write(mine, "mine");
    await world.pass(60_000);
    expect([await mine.flush(), asked.length]).toEqual([false, 1]);
    expect(mine.choose(which)).toEqual({ text });
    await world.pass(900);
    expect([server.value.text, mine.getState().stage, mine.getState().theirs]).toEqual([
      text,
      "saved",
      null,
    ]);
    expect(world.stored.size).toBe(0);
  });
  test("what another teacher saved is taken over only where nothing of one's own waits", () => {
    const mine = keeper();
    mine.takeOver({ text: "theirs" }, 4);
    expect(mine.getState()).toMatchObject({ value: { text: "theirs" }, revision: 4 });
    write(mine, "mine");
    mine.takeOver({ text: "later" }, 5);
    expect(mine.getState()).toMatchObject({ value: { text: "mine" }, revision: 4 });
  });
});

describe("a tab that was closed", () => {
  const left = async (text: string) => {
    const closed = keeper();
    fate = [new Unreachable()];
    write(closed, text);
    await closed.flush();
    fate = [];
    asked = [];
  };
  test("what it left is put back and sent", async () => {
    await left("left");
    const mine = keeper();
    expect(await mine.recover()).toEqual({ text: "left" });
    await world.settle();
    expect([server.value.text, world.stored.size]).toEqual(["left", 0]);
  });
  test("with a newer one on the server both are shown", async () => {
    await left("left");
    server = { value: { text: "newer" }, revision: 4 };
    const mine = keeper();
    expect(await mine.recover()).toEqual({ text: "left" });
    expect(mine.getState()).toMatchObject({
      stage: "conflict",
      theirs: { value: { text: "newer" } },
    });
    await world.pass(60_000);
    expect(server.value.text).toBe("newer");
  });
  test("the same as the server has, or something typed since: nothing is put back", async () => {
    await left("begun");
    expect(await keeper().recover()).toBeNull();
    await left("left");
    const mine = keeper();
    write(mine, "typed already");
    expect(await mine.recover()).toBeNull();
  });
  test("a copy that stays for times without a connection is put back over an older page, and not sent", async () => {
    const before = structuredClone(server);
    const first = keeper({ staysOnDevice: true });
    write(first, "saved");
    await first.flush();
    asked = [];
    const old = keeper({ staysOnDevice: true }, before);
    expect(await old.recover()).toEqual({ text: "saved" });
    await world.pass(60_000);
    expect([asked, old.getState().revision, old.getState().stage]).toEqual([[], 4, "saved"]);
  });
});

test("what another act stored, took over or found out is so here too", async () => {
  const mine = keeper({ staysOnDevice: true });
  write(mine, "shown on the way");
  mine.storedAs(7);
  await world.pass(60_000);
  expect([asked, mine.getState().stage, mine.getState().revision]).toEqual([[], "saved", 7]);
  mine.conflictWith({ value: { text: "other" }, revision: 9 });
  expect(mine.choose("theirs")).toEqual({ text: "other" });
  mine.handedOver();
  await world.settle();
  expect([mine.getState().revision, world.stored.size]).toEqual([10, 0]);
  write(mine, "thrown away");
  await mine.stop();
  await world.pass(60_000);
  expect([asked, world.stored.size]).toEqual([[], 0]);
});

describe("what is pressed once", () => {
  let told: string[];
  const act = () =>
    new Pressed<string, string>(
      {
        key: "hand-in",
        async send(what) {
          asked.push(what);
          const next = fate.shift() ?? "ok";
          if (next instanceof Error) throw next;
          return `receipt of ${what}`;
        },
      },
      world.world,
    );
  const start = (pressed: Pressed<string, string>) =>
    pressed.start({
      onAnswered: (receipt) => told.push(receipt),
      onRefused: (error) => told.push((error as Error).message),
    });
  beforeEach(() => {
    told = [];
  });
  test("goes when what it needs is there, and until there is an answer", async () => {
    const mine = act();
    start(mine);
    fate = [new Unreachable(), no(503)];
    await mine.press("letter");
    expect([asked, world.stored.size, mine.getState().act]).toEqual([[], 1, "letter"]);
    mine.isReady(true);
    await world.settle();
    expect(mine.getState().reached).toBe(false);
    await world.pass(backOff(0) + backOff(1));
    expect([told, world.stored.size, mine.getState()]).toEqual([
      ["receipt of letter"],
      0,
      { act: null, reached: true },
    ]);
    await world.pass(600_000);
    expect(asked.length).toBe(3);
  });
  test("is gone on with by a page that is opened later", async () => {
    const closed = act();
    const leave = start(closed);
    closed.isReady(true);
    fate = [new Unreachable()];
    await closed.press("letter");
    leave();
    const mine = act();
    mine.isReady(true);
    start(mine);
    await world.settle();
    expect([told, world.stored.size]).toEqual([["receipt of letter"], 0]);
  });
  test("can be taken back for as long as nobody has answered", async () => {
    const mine = act();
    start(mine);
    mine.isReady(true);
    fate = [new Unreachable()];
    await mine.press("letter");
    await mine.unpress();
    await world.pass(600_000);
    await world.wake();
    expect([asked.length, told, world.stored.size]).toEqual([1, [], 0]);
  });
  test("refused: that is said, and it is not tried again", async () => {
    const mine = act();
    start(mine);
    mine.isReady(true);
    fate = [no(409)];
    await mine.press("letter");
    await world.pass(600_000);
    expect([asked.length, told, mine.getState().act]).toEqual([1, ["No (409)."], null]);
  });
});
