import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { batchState, decideBatch, type BatchFacts, type BatchMove } from "./batch";
import { goingOf } from "./outcome";
import { isReady, isStopped, readiness, type AboutToGo } from "./readiness";
import { CHANGED_WORDS, DRAFT_WORDS, sayFeedback, sayReadBy, type FeedbackFacts } from "./say";
import { hasScore, withhold } from "./withhold";
import type { HandBackContent } from "../rounds/cameBack";

const DUE = new Date("2026-12-09T13:05:00Z");
const OWN = new Date("2026-12-11T13:05:00Z");

describe("what happens to each piece of one act", () => {
  test.each([
    ["for good, whatever the draft would revise", "final", "revise", "final"],
    ["for good, where the draft says nothing", "draft", null, "final"],
    ["as the draft says", "draft", "revise", "revise"],
    ["all to revise", "revise", "final", "revise"],
  ] as const)("%s", (_, outcome, says, becomes) => {
    const going = goingOf({ outcome, due: DUE }, { outcome: says, due: null });
    expect(going).toMatchObject({ goes: true, outcome: becomes });
  });
  test("what is only to be kept stays, whatever the act says", () => {
    for (const outcome of ["final", "revise", "draft"] as const)
      expect(goingOf({ outcome, due: DUE }, { outcome: "keep", due: null }).goes).toBe(false);
  });
  test("the draft's own due time comes first; without any it stays", () => {
    const act = { outcome: "revise", due: DUE } as const;
    expect(goingOf(act, { outcome: "revise", due: OWN })).toMatchObject({ due: OWN });
    expect(goingOf(act, { outcome: null, due: null })).toMatchObject({ due: DUE });
    const without = { outcome: "draft", due: null } as const;
    expect(goingOf(without, { outcome: "revise", due: null }).goes).toBe(false);
  });
});

describe("what is not ready", () => {
  const READY: AboutToGo = {
    ...{ says: true, scored: true, scoring: true, scoreFault: null, refused: null },
    ...{ levels: { missing: 0, of: 3 }, unruled: 0, silentVoices: 0, hidden: false },
  };
  test.each([
    [{}, []],
    [{ says: false, scored: false }, ["nothing written", "no score"]],
    [{ unruled: 2 }, ["2 requests of the last round not ruled on"]],
    [{ silentVoices: 1 }, ["1 voice note still without sound"]],
    [{ levels: { missing: 1, of: 3 } }, ["no level for 1 of 3 criteria"]],
    [{ levels: { missing: 3, of: 3 } }, ["no level"]],
    [{ scoring: false, scored: false }, []],
    [{ hidden: true }, ["its name will show"]],
  ] as const)("%j", (facts, words) => {
    expect(readiness({ ...READY, ...facts }).map((gap) => gap.words)).toEqual(words);
  });
  test("a name that will show keeps nobody back; a score that cannot be read stops", () => {
    const named = readiness({ ...READY, hidden: true });
    expect([isReady(named), isStopped(named)]).toEqual([true, false]);
    const wrong = readiness({ ...READY, scoreFault: "score 12: more than 10" });
    expect([isReady(wrong), isStopped(wrong)]).toEqual([false, true]);
  });
});

describe("where feedback is, in plain words", () => {
  const zone = "America/Halifax";
  const now = new Date("2026-12-02T18:05:00Z");
  const FACTS: FeedbackFacts = {
    ...{ drafted: false, goesAt: null, handedBackAt: null, seenAt: null },
    ...{ changedSince: false, scoreComes: null },
  };
  const at = new Date("2026-12-02T18:00:00Z");
  test.each([
    [{}, ""],
    [{ drafted: true }, DRAFT_WORDS],
    [{ drafted: true, goesAt: new Date("2026-12-03T19:30:00Z") }, "goes back tomorrow 15:30"],
    [{ handedBackAt: at }, "handed back today 14:00, not read yet"],
    [{ handedBackAt: at, seenAt: now }, "handed back today 14:00, read today 14:05"],
    [{ handedBackAt: at, changedSince: true }, CHANGED_WORDS],
    [
      { handedBackAt: at, scoreComes: { at: null } },
      "handed back today 14:00, not read yet, its score comes when all are done",
    ],
  ] as const)("%j", (facts, words) => {
    expect(sayFeedback({ ...FACTS, ...facts }, now, zone)).toBe(words);
  });
  test("of a whole hand-out", () => {
    expect(sayReadBy({ lastAt: at, back: 24, read: 19 }, now, zone)).toBe(
      "handed back today 14:00, read by 19 of 24",
    );
  });
});

describe("a score that comes later", () => {
  const content: HandBackContent = {
    ...{ overall: "Well seen.", scoreTyped: "8", points: "8", possible: "10", shown: "8 of 10" },
    ...{ raw: "9", deduction: "1 day late", versionId: "v", rulings: [] },
    picks: { c: { levelId: "l", points: "4" } },
    rubric: { id: "r", name: "Letter", content: { criteria: [] } },
    judgements: [{ partId: "p", questionId: "q", points: "1" }],
    marks: [
      {
        ...{ id: "m", kind: "note", nature: "remark", start: 0, end: 4, quote: "Rain" },
        ...{ body: "Which?", replacement: "", points: "0.5" },
      },
    ],
  };
  test("what is said stays, and no figure is left in it", () => {
    const held = withhold(content);
    expect(held).toMatchObject({ overall: "Well seen.", withheld: true });
    expect(JSON.stringify(held)).not.toMatch(/"(8|9|4|1|0\.5)"|8 of 10|late|Letter/);
    expect([hasScore(content), hasScore(held)]).toEqual([true, false]);
  });
});

describe("the life of an act", () => {
  const goesAt = new Date("2026-12-02T19:30:00Z");
  const MOVES: readonly BatchMove[] = ["callBack", "goOn", "takeBack"];
  const facts = fc.record({
    goesAt: fc.constant(goesAt),
    calledBackAt: fc.constantFrom(null, goesAt),
    waiting: fc.nat(3),
    gone: fc.nat(3),
  });
  test("it can always be moved, or all of it is over: no act is left that nobody can move", () => {
    fc.assert(
      fc.property(facts, fc.integer({ min: -9, max: 9 }), (batch: BatchFacts, minutes) => {
        const now = new Date(goesAt.getTime() + minutes * 60_000);
        const allowed = MOVES.filter((move) => decideBatch(batch, move, now).allowed);
        const waits = batch.calledBackAt === null && batch.waiting > 0;
        expect(allowed.includes("callBack")).toBe(waits);
        // What has gone can be taken back once nothing of it is on its way.
        expect(allowed.includes("takeBack")).toBe(!waits && batch.gone > 0);
        expect(allowed.includes("goOn")).toBe(batchState(batch, now) === "going");
      }),
    );
  });
});
