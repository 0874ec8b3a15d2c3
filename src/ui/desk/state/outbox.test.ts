import "fake-indexeddb/auto";
import { beforeAll, expect, jest, test } from "@jest/globals";
import { ON_TEXT } from "@/core/marks/place";
import type { DeskPiece, DraftMark } from "@/core/views/views";
import { Problem, Unreachable } from "../../client";
import {
  anyOnTheWay,
  begin,
  end,
  forget,
  isOnTheWay,
  leave,
  leftBehind,
  untilReached,
  withWaiting,
} from "./outbox";

const mark = (id: string, body: string, start = 0): DraftMark => ({
  id,
  kind: "note",
  nature: "remark",
  body,
  replacement: "",
  quote: "",
  place: ON_TEXT,
  strokes: [],
  sentence: "",
  criterionId: null,
  points: null,
  clipId: null,
  commentId: null,
  start,
  end: start + 1,
  by: "",
  againOf: null,
  revision: 0,
});
const piece = (id: string, marks: DraftMark[]) => ({ id, marks }) as DeskPiece;
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

beforeAll(() => {
  Object.assign(globalThis, { window: new EventTarget() });
});

test("a change is on the device until the server has answered, and no longer", async () => {
  const waiting = begin("p1", { what: "add", mark: mark("a", "first"), versionId: "v" });
  await settled();
  // On its way in this tab: nothing that was left behind.
  expect([
    isOnTheWay("p1", "a"),
    anyOnTheWay("p1"),
    anyOnTheWay("p2"),
    await leftBehind("p1"),
  ]).toEqual([true, true, false, []]);
  end("p1", waiting);
  await settled();
  expect([isOnTheWay("p1", "a"), await leftBehind("p1")]).toEqual([false, []]);
});

test("what a closed tab had not sent is there for the next, for this piece alone", async () => {
  leave("p3", begin("p3", { what: "add", mark: mark("b", "in a tunnel"), versionId: "v" }));
  leave("p4", begin("p4", { what: "remove", mark: mark("c", "x"), versionId: "" }));
  await settled();
  expect((await leftBehind("p3")).map(({ what, mark: m }) => [what, m.body])).toEqual([
    ["add", "in a tunnel"],
  ]);
  await forget("p3", "b");
  expect(await leftBehind("p3")).toEqual([]);
  expect((await leftBehind("p4"))[0]!.what).toBe("remove");
});

test("a change to a mark the server does not know yet adds it as it now is; an older answer does not end a newer change", async () => {
  const first = begin("p5", { what: "add", mark: mark("d", "one"), versionId: "v7" });
  const second = begin("p5", { what: "put", mark: mark("d", "two"), versionId: "" });
  expect(second).toMatchObject({ what: "add", versionId: "v7", mark: { body: "two" } });
  end("p5", first);
  expect(isOnTheWay("p5", "d")).toBe(true);
  leave("p5", second);
  await settled();
  expect((await leftBehind("p5")).map((w) => w.mark.body)).toEqual(["two"]);
});

test("a piece that is read anew keeps what is on its way, in the order of the text", () => {
  const server = piece("p6", [
    mark("x", "there", 5),
    mark("y", "old words", 7),
    mark("z", "to go", 9),
  ]);
  expect(withWaiting(server)).toBe(server);
  begin("p6", { what: "add", mark: mark("n", "new", 1), versionId: "v" });
  begin("p6", { what: "put", mark: mark("y", "new words", 7), versionId: "" });
  begin("p6", { what: "remove", mark: mark("z", "to go", 9), versionId: "" });
  expect(withWaiting(server).marks.map((m) => m.body)).toEqual(["new", "there", "new words"]);
});

test("it is asked again as soon as there is a connection; a no is an answer", async () => {
  const ask = jest
    .fn<() => Promise<string>>()
    .mockRejectedValueOnce(new Unreachable())
    .mockRejectedValueOnce(new Unreachable())
    .mockResolvedValueOnce("kept");
  const told: boolean[] = [];
  const answer = untilReached(ask, (waits) => told.push(waits));
  for (let n = 0; n < 2; n += 1) {
    await settled();
    window.dispatchEvent(new Event("online"));
  }
  expect(await answer).toBe("kept");
  expect([ask.mock.calls.length, told]).toEqual([3, [true, false]]);
  await expect(
    untilReached(
      () => Promise.reject(new Problem(409, "No.", null, {}, null)),
      (waits) => told.push(waits),
    ),
  ).rejects.toThrow("No.");
  expect(told).toEqual([true, false]);
});
