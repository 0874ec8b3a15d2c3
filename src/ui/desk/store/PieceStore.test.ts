import { beforeEach, describe, expect, test } from "@jest/globals";
import { everyFieldMark } from "@/core/marks/everyField.testing";
import { allItSays } from "@/core/marks/schema";
import type { DeskPiece, DraftMark, EarlierMark } from "@/core/views/deskViews";
import { Problem, Unreachable } from "../../client";
import { testWorld, type TestWorld } from "../../keeping/testing";
import type { DeskApi } from "./deskApi";
import { PieceStore } from "./PieceStore";

/** The store of a piece against a server of the test's own, which can be slow, gone, unwell, or of another opinion. */
class Server implements DeskApi {
  marks = new Map<string, DraftMark & { deleted?: boolean }>();
  earlier: EarlierMark[] = [];
  asked: string[] = [];
  /** What happens to the next requests, in order: `lost` does what was asked and answers nothing. */
  fate: ("ok" | "gone" | "lost" | "no" | "500" | "401")[] = [];
  private gate: Promise<void> = Promise.resolve();
  private opened: () => void = () => {};

  hold(): void {
    this.gate = new Promise((resolve) => (this.opened = resolve));
  }
  open(): void {
    this.opened();
  }

  private async answer<T>(what: string, work: () => T): Promise<T> {
    this.asked.push(what);
    await this.gate;
    const fate = this.fate.shift() ?? "ok";
    if (fate === "gone") throw new Unreachable();
    if (fate === "500") throw new Problem(500, "Broken.", null, {}, null);
    if (fate === "401") throw new Problem(401, "Sign in again.", null, {}, null);
    if (fate === "no") throw new Problem(422, "That cannot be.", null, {}, null);
    const done = work();
    if (fate === "lost") throw new Unreachable();
    return structuredClone(done);
  }

  piece(): DeskPiece {
    const marks = [...this.marks.values()].filter((m) => !m.deleted);
    return { id: "p", versionId: "v1", marks, earlier: this.earlier } as unknown as DeskPiece;
  }
  read = () => Promise.resolve(structuredClone(this.piece()));
  add = (_: string, mark: DraftMark) =>
    this.answer(`add ${mark.body}`, () => {
      const known = this.marks.get(mark.id);
      if (known) return known;
      this.marks.set(mark.id, { ...mark, by: "Brandt", revision: 1 });
      return this.marks.get(mark.id)!;
    });
  put = (_: string, mark: DraftMark, revision: number) =>
    this.answer(`put ${mark.body}`, () => {
      const known = this.marks.get(mark.id);
      if (!known) throw new Problem(404, "There is no such thing.", null, {}, null);
      if (known.revision !== revision)
        throw new Problem(412, "This mark was changed since.", null, {}, structuredClone(known));
      this.marks.set(mark.id, { ...mark, by: known.by, revision: revision + 1 });
      return this.marks.get(mark.id)!;
    });
  remove = (_: string, markId: string) =>
    this.answer("remove", () => {
      const known = this.marks.get(markId);
      if (known && !known.deleted) {
        known.deleted = true;
        known.revision += 1;
      }
      return { deleted: true };
    });
  rule = (_: string, markId: string, ruling: EarlierMark["ruling"]) =>
    this.answer(`rule ${ruling}`, () => {
      this.earlier = this.earlier.map((m) => (m.id === markId ? { ...m, ruling } : m));
      return { earlier: this.earlier, marks: this.piece().marks };
    });
}

let server: Server;
let world: TestWorld;
let store: PieceStore;
let ids = 0;
const draft = (body: string): DraftMark => ({
  ...everyFieldMark({ id: `known-${body}`, body, place: { on: "text" }, clipId: null }),
  by: "Brandt",
  commentId: null,
  againOf: null,
  revision: 1,
});
const open = async () => {
  const made = new PieceStore("p", server, world.world, () => `new-${(ids += 1)}`);
  await made.load();
  await world.settle();
  return made;
};
const shown = () => store.getState().piece!.marks.map((m) => m.body);
const onServer = () => server.piece().marks.map((m) => m.body);
const ruling = () => store.getState().piece!.earlier[0]!.ruling ?? null;
const note = (body: string) => store.add({ kind: "note", body, start: 1, end: 4 })!;
const known = () => store.getState().piece!.marks.find((m) => m.id === "known-old")!;

beforeEach(async () => {
  server = new Server();
  server.marks.set("known-old", draft("old"));
  server.earlier = [{ id: "asked", ruling: null } as unknown as EarlierMark];
  world = testWorld();
  store = await open();
});

/** Every kind of change, what it shows, and how the server has it. */
const CHANGES = {
  add: { act: () => void note("new"), after: ["old", "new"], ruled: null },
  change: { act: () => store.change(known(), { body: "other" }), after: ["other"], ruled: null },
  remove: { act: () => store.removeMark(known()), after: [] as string[], ruled: null },
  rule: { act: () => store.rule("asked", "settled"), after: ["old"], ruled: "settled" },
} as const;
type Kind = keyof typeof CHANGES;
const KINDS = Object.keys(CHANGES) as Kind[];
const sorted = (list: readonly string[]) => [...list].sort();
const expectAfter = (kind: Kind, happened: boolean) => {
  const { after, ruled } = CHANGES[kind];
  expect([sorted(shown()), ruling()]).toEqual(happened ? [sorted(after), ruled] : [["old"], null]);
};
const expectServer = (kind: Kind, happened: boolean) => {
  const { after, ruled } = CHANGES[kind];
  expect([sorted(onServer()), server.earlier[0]!.ruling]).toEqual(
    happened ? [sorted(after), ruled] : [["old"], null],
  );
};

describe.each(KINDS)("%s", (kind) => {
  const { act } = CHANGES[kind];
  test("shows at once, reaches the server, is undone and done again", async () => {
    server.hold();
    act();
    expectAfter(kind, true);
    expectServer(kind, false);
    server.open();
    await world.settle();
    expectServer(kind, true);
    expect(world.stored.size).toBe(0);
    for (const happened of [false, true, false, true]) {
      expect(happened ? store.redo() : store.undo()).toBe(true);
      expectAfter(kind, happened);
      await world.settle();
      expectServer(kind, happened);
    }
    expect(store.redo()).toBe(false);
  });
  test("refused: it did not happen, what was written is said, and it can be neither undone nor done again", async () => {
    server.fate = ["no"];
    act();
    await world.settle();
    expectAfter(kind, false);
    expectServer(kind, false);
    expect(store.getState().problem).toMatch(/^That cannot be\./);
    if (kind === "add") expect(store.getState().problem).toContain("You wrote: “new”");
    expect([store.undo(), store.redo()]).toEqual([false, false]);
    expect(world.stored.size).toBe(0);
  });
  test("its answer was lost: it is asked again, happens once, and is no conflict with itself", async () => {
    server.fate = ["lost"];
    act();
    await world.settle();
    expect(store.getState().waits).toBe(true);
    await world.pass(1000);
    expectServer(kind, true);
    expectAfter(kind, true);
    expect([store.getState().problem, store.getState().waits]).toEqual([null, false]);
    store.undo();
    await world.settle();
    expectServer(kind, false);
  });
  test.each(["gone", "500"] as const)(
    "without a server (%s): on the device, undone and done again there, sent when it is back",
    async (fate) => {
      server.fate = Array.from({ length: 9 }, () => fate);
      act();
      await world.settle();
      expect([store.getState().waits, world.stored.size]).toEqual([true, 1]);
      expect(store.undo()).toBe(true);
      expectAfter(kind, false);
      expect(store.redo()).toBe(true);
      expectAfter(kind, true);
      server.fate = [];
      await world.wake();
      expectServer(kind, true);
      expect([store.getState().waits, world.stored.size]).toEqual([false, 0]);
    },
  );
  test("undone without a connection: the server never hears of it", async () => {
    server.fate = ["gone"];
    act();
    await world.settle();
    store.undo();
    await world.wake();
    await world.pass(60_000);
    expectServer(kind, false);
    expectAfter(kind, false);
    expect([store.getState().waits, world.stored.size]).toEqual([false, 0]);
  });
  test("the tab was closed before it was sent: the next one sends it", async () => {
    server.fate = ["gone", "gone"];
    act();
    await world.settle();
    // Another tab, another store: only the device has it.
    server.fate = [];
    store = await open();
    await world.settle();
    expectServer(kind, true);
    expectAfter(kind, true);
    expect(world.stored.size).toBe(0);
    expect(store.undo()).toBe(false);
  });
  test("undone before the answer: it goes to the server and back again, in that order", async () => {
    server.hold();
    act();
    await world.settle();
    expect(store.undo()).toBe(true);
    expectAfter(kind, false);
    server.open();
    await world.settle();
    expectServer(kind, false);
    expect(server.asked.length).toBe(2);
    expect(store.redo()).toBe(true);
    await world.settle();
    expectServer(kind, true);
  });
  test("undone before it is refused: both fall", async () => {
    server.hold();
    server.fate = ["no"];
    act();
    await world.settle();
    store.undo();
    server.open();
    await world.settle();
    expectServer(kind, false);
    expectAfter(kind, false);
    expect([store.undo(), store.redo()]).toEqual([false, false]);
  });
  test("an undo that is refused happens not, and is not there to be done again", async () => {
    act();
    await world.settle();
    server.fate = ["no"];
    store.undo();
    await world.settle();
    expectServer(kind, true);
    expectAfter(kind, true);
    expect(store.redo()).toBe(false);
  });
  test("signed out: it stays on the device for the next time", async () => {
    server.fate = ["401"];
    act();
    await world.settle();
    expect(store.getState().problem).toContain("Sign in again.");
    expect(world.stored.size).toBe(1);
    store = await open();
    await world.settle();
    expectServer(kind, true);
  });
});

describe("two teachers at one piece", () => {
  const theirs = (body: string) => {
    const mark = server.marks.get("known-old")!;
    server.marks.set(mark.id, { ...mark, body, revision: mark.revision + 1 });
  };
  test("a mark that someone else changed is not written over; both are said", async () => {
    theirs("theirs");
    store.change(known(), { body: "mine" });
    await world.settle();
    expect(onServer()).toEqual(["theirs"]);
    expect(shown()).toEqual(["theirs"]);
    expect(store.getState().problem).toContain("You wrote: “mine”");
    expect(store.undo()).toBe(false);
  });
  test("what they did shows when it is read again, under what is still on its way", async () => {
    server.hold();
    store.change(known(), { body: "mine" });
    note("also mine");
    server.marks.set("theirs", { ...draft("theirs"), id: "theirs" });
    await store.load();
    expect(sorted(shown())).toEqual(["also mine", "mine", "theirs"]);
  });
  test("what they changed after me is not undone by me", async () => {
    store.change(known(), { body: "mine" });
    await world.settle();
    theirs("theirs");
    await store.load();
    expect(store.undo()).toBe(true);
    await world.settle();
    expect(onServer()).toEqual(["theirs"]);
    expect(store.getState().problem).toMatch(/^Someone changed this since/);
  });
});

describe("quick changes", () => {
  test("to one mark go in their turn, each on the revision the one before made", async () => {
    for (const body of ["a", "b", "c"]) {
      store.change(known(), { body });
      await Promise.resolve();
    }
    await world.settle();
    expect(onServer()).toEqual(["c"]);
    expect(store.getState().problem).toBeNull();
    for (const body of ["b", "a", "old"]) {
      store.undo();
      await world.settle();
      expect(onServer()).toEqual([body]);
    }
  });
  test("many made, changed and deleted while the server is away come out as they were left", async () => {
    server.fate = Array.from({ length: 4 }, () => "gone" as const);
    const first = note("one");
    await world.settle();
    store.change(
      store.getState().piece!.marks.find((m) => m.id === first.id)!,
      { body: "two" },
    );
    const second = note("three");
    await world.settle();
    store.removeMark(second);
    store.change(known(), { nature: "praise" });
    await world.settle();
    server.fate = [];
    await world.wake();
    await world.pass(60_000);
    expect(sorted(onServer())).toEqual(["old", "two"]);
    expect(server.marks.get("known-old")!.nature).toBe("praise");
    expect(server.asked.filter((a) => a === "remove")).toEqual([]);
    expect(allItSays(server.marks.get(first.id)!)).toBe(
      allItSays(store.getState().piece!.marks.find((m) => m.id === first.id)!),
    );
  });
  test("what the server makes of a mark (a comment's voice) does not stand in the way of undoing it", async () => {
    const add = server.add;
    server.add = async (id, mark) => {
      const made = { ...(await add(id, mark)), clipId: "voice" };
      server.marks.set(made.id, { ...made });
      return made;
    };
    note("spoken");
    await world.settle();
    store.undo();
    await world.settle();
    expect(onServer()).toEqual(["old"]);
    store.redo();
    await world.settle();
    expect(server.piece().marks.find((m) => m.body === "spoken")!.clipId).toBe("voice");
  });
});

test("a hand-back waits for what is on its way, says when it cannot, and goes when it can", async () => {
  server.hold();
  note("on its way");
  const waiting = store.settled();
  await world.pass(8000);
  expect(await waiting).toBe(false);
  expect(store.getState().problem).toContain("nothing was handed back");
  server.open();
  await world.settle();
  expect(await store.settled()).toBe(true);
});

test("a piece that cannot be read says why, and is read again when asked", async () => {
  const lost = new PieceStore(
    "p",
    { ...server, read: () => Promise.reject(new Unreachable()) },
    world.world,
  );
  await lost.load();
  expect(lost.getState()).toMatchObject({
    piece: undefined,
    failed: expect.stringContaining("no connection"),
  });
  expect([lost.add({ kind: "note", body: "x" }), lost.undo()]).toEqual([null, false]);
});
