import { describe, expect, test } from "@jest/globals";
import { EMPTY_CELL, type CellWork } from "@/core/ledger/cell";
import type { LedgerCell, SavedCells } from "@/core/views/ledgerViews";
import { Problem, Unreachable } from "../client";
import { testWorld } from "../keeping/testing";
import { keyOf, typingKeyOf } from "./keys";
import { LedgerStore, type SentCell } from "./LedgerStore";

const moon = {
  state: "not_opened",
  round: 1,
  late: false,
  missing: false,
  excused: false,
} as const;
const cell = (pieceId: string, work: Partial<CellWork> = {}): LedgerCell => ({
  ...{ pieceId, score: null, draft: null, noted: null, moon },
  work: { ...EMPTY_CELL, ...work },
});
const view = {
  section: { id: "s", name: "Curlew", course: "" },
  grades: {},
  rows: [
    {
      key: "a",
      studentId: "a",
      student: "A",
      sortName: "A",
      takenOff: [],
      cells: [cell("p1"), cell("p2"), cell("p3")],
    },
  ],
};
const typed = (pieceId: string, score: string, before: CellWork = EMPTY_CELL) => ({
  ...{ pieceId, before },
  after: { ...EMPTY_CELL, score },
});
const saved = (cells: SentCell[]): SavedCells => ({
  cells: cells.map(({ pieceId, now }) => ({ pieceId, outcome: "saved", cell: cell(pieceId, now) })),
  grades: { a: { percent: "80", name: null } },
});

/** A store whose server does what the test says, one answer after the other, and then keeps all. */
function made(...answers: ((cells: SentCell[]) => SavedCells | Promise<SavedCells>)[]) {
  const at = testWorld();
  const sent: SentCell[][] = [];
  const send = async (cells: SentCell[]) => {
    sent.push(cells);
    return (answers.shift() ?? saved)(cells);
  };
  const store = new LedgerStore(view, at.world, send);
  const stop = store.start();
  return { store, sent, stop, ...at };
}
const no = (status: number) => () => {
  throw new Problem(status, "This does not go.", null, {}, null);
};
const unreachable = () => {
  throw new Unreachable();
};

test("cells typed one after the other go in one request, and the grade comes back with them", async () => {
  const { store, sent, pass } = made();
  store.apply([typed("p1", "8")]);
  store.apply([typed("p2", "9")]);
  expect(store.at("p1")!.work.score).toBe("8");
  await pass(1000);
  expect(sent.map((cells) => cells.map((one) => one.pieceId))).toEqual([["p1", "p2"]]);
  expect(store.getState()).toMatchObject({ stage: "saved", grades: { a: { percent: "80" } } });
});

test("without a connection it stays on the device and goes by itself; a closed tab loses nothing", async () => {
  const first = made(unreachable, unreachable);
  await first.settle();
  first.store.apply([typed("p1", "8")]);
  await first.pass(500);
  expect(first.store.getState().stage).toBe("waiting");
  expect([...first.stored.keys()]).toEqual(["ledger:s"]);
  const again = new LedgerStore(view, first.world, async (cells) => saved(cells));
  again.start();
  await first.settle();
  expect(again.getState().stage).toBe("saved");
  expect(again.at("p1")!.work.score).toBe("8");
  expect(first.stored.size).toBe(0);
});

test("what was changed elsewhere stands beside until one is chosen", async () => {
  const theirs = () => ({
    cells: [
      { pieceId: "p1", outcome: "conflict" as const, by: "Mara", cell: cell("p1", { score: "5" }) },
    ],
    grades: {},
  });
  const { store, sent, pass } = made(theirs);
  store.apply([typed("p1", "8")]);
  await pass(1000);
  expect(store.at("p1")).toMatchObject({
    work: { score: "8" },
    touched: { theirs: { by: "Mara" } },
  });
  await pass(60_000);
  expect(sent).toHaveLength(1);
  store.choose("p1", "mine");
  await pass(1000);
  expect(sent[1]).toMatchObject([{ was: { score: "5" }, now: { score: "8" } }]);
  expect(store.getState().stage).toBe("saved");
});

test("taking theirs sends nothing", async () => {
  const theirs = () => ({
    cells: [
      { pieceId: "p1", outcome: "conflict" as const, by: "Mara", cell: cell("p1", { score: "5" }) },
    ],
    grades: {},
  });
  const { store, sent, pass, stored } = made(theirs);
  store.apply([typed("p1", "8")]);
  await pass(1000);
  store.choose("p1", "theirs");
  await pass(1000);
  expect(store.at("p1")!.work.score).toBe("5");
  expect([sent.length, stored.size]).toEqual([1, 0]);
});

test("typed over while on its way: both go, the second compared with the first", async () => {
  let arrive: () => void = () => {};
  const slow = (cells: SentCell[]) =>
    new Promise<SavedCells>((resolve) => (arrive = () => resolve(saved(cells))));
  const { store, sent, pass, settle } = made(slow);
  store.apply([typed("p1", "8")]);
  await pass(500);
  store.apply([typed("p1", "9", { ...EMPTY_CELL, score: "8" })]);
  arrive();
  await settle();
  await pass(500);
  expect(sent[1]).toMatchObject([{ was: { score: "8" }, now: { score: "9" } }]);
  expect(store.at("p1")!.work.score).toBe("9");
});

test("one that is refused takes none of the others with it, and what was typed is named", async () => {
  const { store, sent, pass } = made(no(404), no(404));
  store.apply([typed("p1", "8"), typed("p2", "9")]);
  await pass(1000);
  expect(sent.map((cells) => cells.length)).toEqual([2, 1, 1]);
  expect(store.at("p1")!.work.score).toBe("");
  expect(store.at("p2")!.work.score).toBe("9");
  expect(store.getState().said).toBe("“8” was not kept: This does not go.");
});

test("undo and redo are changes like others; what was changed since is left and counted", async () => {
  const { store, pass } = made();
  store.apply([typed("p1", "8"), typed("p2", "9")]);
  await pass(1000);
  store.undo();
  expect(store.at("p1")!.work.score).toBe("");
  store.redo();
  expect(store.at("p2")!.work.score).toBe("9");
  await pass(1000);
  store.apply([typed("p1", "7", { ...EMPTY_CELL, score: "8" })]);
  store.undo();
  expect(store.at("p1")!.work.score).toBe("8");
  store.takeView({
    ...view,
    rows: [{ ...view.rows[0]!, cells: [cell("p1", { score: "2" }), cell("p2", { score: "9" })] }],
  });
  expect(store.at("p1")!.work.score).toBe("8");
  await pass(1000);
  store.takeView({
    ...view,
    rows: [{ ...view.rows[0]!, cells: [cell("p1", { score: "2" }), cell("p2", { score: "9" })] }],
  });
  store.undo();
  expect(store.getState().said).toBe("Undone: 1 cell. 1 cell was changed since and left.");
  expect(store.at("p2")!.work.score).toBe("");
});

test("signed out, it waits and says so", async () => {
  const { store, pass } = made(no(401));
  store.apply([typed("p1", "8")]);
  await pass(500);
  expect(store.getState().stage).toBe("signed out");
});

describe("keys", () => {
  const press = (key: string, part = {}) => ({
    ...{ key, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false },
    ...part,
  });
  test("none is taken that is the browser's: Tab leaves the grid, Ctrl+R, Ctrl+D and Ctrl+C are free", () => {
    for (const pressed of [
      press("Tab"),
      press("r", { ctrlKey: true }),
      press("d", { ctrlKey: true }),
      press("c", { ctrlKey: true }),
      press(" "),
      press("F5"),
    ])
      expect(keyOf(pressed)).toBeNull();
  });
  test("what is typed begins a cell; Enter keeps it and goes down, Tab to the right, Ctrl+Enter over all", () => {
    expect(keyOf(press("8"))).toEqual({ does: "type", text: "8" });
    expect(typingKeyOf(press("Enter"))).toMatchObject({ does: "commit", then: "down" });
    expect(typingKeyOf(press("Tab", { shiftKey: true }))).toMatchObject({ then: "left" });
    expect(typingKeyOf(press("Enter", { ctrlKey: true }))).toMatchObject({ everywhere: true });
    expect(typingKeyOf(press("ArrowLeft"))).toBeNull();
  });
});

test("side by side: what is not sent is each section's own, and is found where that one stands alone", async () => {
  const row = (key: string, section: string, piece: string) => ({
    ...{ key, studentId: key, student: key, sortName: key, takenOff: [], cells: [cell(piece)] },
    section: { id: section, name: section },
  });
  const beside = {
    ...{ section: { id: "s", name: "Curlew", course: "" }, grades: {} },
    rows: [row("a", "s", "p1"), row("b", "t", "q1")],
    parts: [
      { id: "s", name: "Curlew", terms: 1 },
      { id: "t", name: "Dunlin", terms: 1 },
    ],
  };
  const at = testWorld();
  const both = new LedgerStore(beside, at.world, async () => unreachable());
  const stop = both.start();
  both.apply([typed("p1", "8"), typed("q1", "9")]);
  await at.pass(1000);
  expect(both.getState().stage).toBe("waiting");
  expect([both.sectionOf("p1"), both.sectionOf("q1")]).toEqual(["s", "t"]);
  stop();
  const alone = { section: { id: "t", name: "Dunlin", course: "" }, grades: {} };
  const rows = [{ ...beside.rows[1]!, section: undefined }];
  const sent: SentCell[][] = [];
  const one = new LedgerStore({ ...alone, rows }, at.world, async (cells) => {
    sent.push(cells);
    return saved(cells);
  });
  const end = one.start();
  await at.pass(1000);
  expect(sent.flat().map(({ pieceId, now }) => [pieceId, now.score])).toEqual([["q1", "9"]]);
  end();
});
