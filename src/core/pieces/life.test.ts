import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  decideMove,
  isClosed,
  PIECE_STATES,
  type Actor,
  type Move,
  type MoveKind,
  type PieceFacts,
  type PieceState,
} from "./life";
import { lateness } from "../time/lateness";
import { closesFor, isMissing } from "./standing";

// The rules checked here are the product's own (common practice in schools, no source).
const due = new Date("2026-10-16T19:00:00Z");
const before = new Date(due.getTime() - 3_600_000);
const after = new Date(due.getTime() + 3_600_000);

function piece(facts: Partial<PieceFacts> = {}): PieceFacts {
  return {
    state: "started",
    round: 1,
    expects: "work",
    opensAt: new Date(due.getTime() - 7 * 86_400_000),
    due,
    graceMinutes: 10,
    closesAt: null,
    mayTakeBack: true,
    feedbackBegun: false,
    hasHandIn: true,
    excused: false,
    left: false,
    ...facts,
  };
}

test("whoever would be on time is never refused as closed, nor by one minute past an extension", () => {
  const minute = 60_000;
  fc.assert(
    fc.property(
      fc.record({
        grace: fc.nat(180),
        closes: fc.integer({ min: 0, max: 300 }),
        own: fc.option(fc.integer({ min: 0, max: 600 })),
        handedIn: fc.integer({ min: -600, max: 900 }),
      }),
      ({ grace, closes, own, handedIn }) => {
        const at = (minutes: number) => new Date(due.getTime() + minutes * minute);
        const deadline = { due: at(own ?? 0), graceMinutes: grace };
        const closesAt = closesFor(at(closes), deadline);
        const allowed = decideMove(
          piece({ ...deadline, closesAt }),
          { kind: "handIn", empty: false },
          "student",
          at(handedIn),
        ).allowed;
        const onTime = !lateness(deadline, at(handedIn)).late;
        return allowed === (onTime || handedIn <= closes);
      },
    ),
  );
});

const MOVES: Record<MoveKind, Move> = {
  open: { kind: "open" },
  write: { kind: "write" },
  handIn: { kind: "handIn", empty: false },
  takeBack: { kind: "takeBack" },
  handBack: { kind: "handBack" },
  handBackToRevise: { kind: "handBackToRevise", roundDue: after },
  takeBackFeedback: { kind: "takeBackFeedback" },
};

/** Every move from every state by the one who may make it, before the due time; null: refused. */
const LIFE: Record<MoveKind, Record<PieceState, PieceState | null>> = {
  open: {
    not_opened: "started",
    started: "started",
    handed_in: "handed_in",
    handed_back: "handed_back",
    to_revise: "to_revise",
    reworking: "reworking",
  },
  write: {
    not_opened: "started",
    started: "started",
    handed_in: null,
    handed_back: null,
    to_revise: "reworking",
    reworking: "reworking",
  },
  handIn: {
    not_opened: "handed_in",
    started: "handed_in",
    handed_in: null,
    handed_back: null,
    to_revise: "handed_in",
    reworking: "handed_in",
  },
  takeBack: {
    not_opened: null,
    started: null,
    handed_in: "started",
    handed_back: null,
    to_revise: null,
    reworking: null,
  },
  handBack: {
    not_opened: "handed_back",
    started: "handed_back",
    handed_in: "handed_back",
    handed_back: "handed_back",
    to_revise: "handed_back",
    reworking: null,
  },
  handBackToRevise: {
    not_opened: null,
    started: null,
    handed_in: "to_revise",
    handed_back: "to_revise",
    to_revise: "to_revise",
    reworking: null,
  },
  takeBackFeedback: {
    not_opened: null,
    started: null,
    handed_in: null,
    handed_back: "handed_in",
    to_revise: "handed_in",
    reworking: null,
  },
};
const TEACHERS_MOVES: MoveKind[] = ["handBack", "handBackToRevise", "takeBackFeedback"];

describe("all moves from all states by all roles", () => {
  const rows = (Object.keys(MOVES) as MoveKind[]).flatMap((move) =>
    PIECE_STATES.flatMap((state) =>
      (["student", "teacher"] as Actor[]).map((actor) => ({ move, state, actor })),
    ),
  );
  test.each(rows)("$actor: $move from $state", ({ move, state, actor }) => {
    const theirs = TEACHERS_MOVES.includes(move) ? "teacher" : "student";
    const expected = actor === theirs ? LIFE[move][state] : null;
    const outcome = decideMove(piece({ state }), MOVES[move], actor, before);
    if (expected === null) {
      expect(outcome.allowed).toBe(false);
      expect((outcome as { reason: string }).reason).toMatch(/^[A-Z].*\.$/);
    } else {
      expect(outcome).toMatchObject({ allowed: true, state: expected });
    }
  });
});

describe("rounds", () => {
  test("work sent back opens the next round when the student touches it", () => {
    expect(
      decideMove(piece({ state: "to_revise", round: 1 }), MOVES.write, "student", before),
    ).toMatchObject({ state: "reworking", round: 2 });
    expect(
      decideMove(piece({ state: "to_revise", round: 2 }), MOVES.handIn, "student", before),
    ).toMatchObject({ state: "handed_in", round: 3 });
    expect(
      decideMove(piece({ state: "reworking", round: 2 }), MOVES.handIn, "student", before),
    ).toMatchObject({ state: "handed_in", round: 2 });
  });
  test("taking back in a later round leads to reworking, not to the beginning", () => {
    expect(
      decideMove(piece({ state: "handed_in", round: 2 }), MOVES.takeBack, "student", before),
    ).toMatchObject({ state: "reworking", round: 2 });
  });
  test("a revision cannot be due in the past", () => {
    const past: Move = { kind: "handBackToRevise", roundDue: before };
    expect(decideMove(piece({ state: "handed_in" }), past, "teacher", after)).toMatchObject({
      allowed: false,
      reason: expect.stringContaining("past"),
    });
  });
});

describe("what dates and settings forbid", () => {
  test.each<[string, Partial<PieceFacts>, MoveKind, Date, boolean]>([
    ["before it opens, a student can do nothing", { opensAt: due }, "write", before, false],
    ["before it opens, not even hand in", { opensAt: due }, "handIn", before, false],
    ["late is still accepted", {}, "handIn", after, true],
    ["after it closed nothing is accepted", { closesAt: due }, "handIn", after, false],
    ["after it closed nothing can be written", { closesAt: due }, "write", after, false],
    [
      "closing does not end a revision",
      { closesAt: due, state: "reworking", round: 2 },
      "handIn",
      after,
      true,
    ],
    [
      "closing does not stop a revision from starting",
      { closesAt: due, state: "to_revise", round: 1 },
      "write",
      after,
      true,
    ],
    ["at the very moment it closes it is open", { closesAt: due }, "handIn", due, true],
    ["taking back ends with the due time", { state: "handed_in" }, "takeBack", after, false],
    [
      "taking back is possible within the grace",
      { state: "handed_in" },
      "takeBack",
      new Date(due.getTime() + 10 * 60_000),
      true,
    ],
    [
      "taking back ends when feedback has begun",
      { state: "handed_in", feedbackBegun: true },
      "takeBack",
      before,
      false,
    ],
    [
      "an assignment can forbid taking back",
      { state: "handed_in", mayTakeBack: false },
      "takeBack",
      before,
      false,
    ],
    ["work on paper is not written here", { expects: "nothing" }, "write", before, false],
    ["work on paper is not handed in here", { expects: "nothing" }, "handIn", before, false],
    [
      "work on paper can be handed back with nothing in",
      { expects: "nothing", state: "not_opened" },
      "handBack",
      after,
      true,
    ],
    [
      "work on paper cannot go back to revise",
      { expects: "nothing", state: "handed_back" },
      "handBackToRevise",
      before,
      false,
    ],
  ])("%s", (_name, facts, move, now, allowed) => {
    const actor = TEACHERS_MOVES.includes(move) ? "teacher" : "student";
    expect(decideMove(piece(facts), MOVES[move], actor, now).allowed).toBe(allowed);
  });
  test("feedback taken back from work that was never handed in leads back to the beginning", () => {
    const nothingIn = { state: "handed_back", hasHandIn: false } as const;
    expect(decideMove(piece(nothingIn), MOVES.takeBackFeedback, "teacher", after)).toMatchObject({
      state: "started",
    });
    expect(
      decideMove(
        piece({ ...nothingIn, expects: "nothing" }),
        MOVES.takeBackFeedback,
        "teacher",
        after,
      ),
    ).toMatchObject({ state: "not_opened" });
  });
  test("an empty piece is not handed in", () => {
    expect(decideMove(piece(), { kind: "handIn", empty: true }, "student", before).allowed).toBe(
      false,
    );
  });
});

describe("missing and closed are derived", () => {
  test.each<[Partial<PieceFacts> & { flag?: "missing" | "late" }, Date, boolean]>([
    [{}, before, false],
    [{}, new Date(due.getTime() + 600_000), false],
    [{}, after, true],
    [{ state: "not_opened" }, after, true],
    [{ state: "handed_in" }, after, false],
    [{ excused: true }, after, false],
    [{ expects: "nothing" }, after, false],
    [{ expects: "nothing", flag: "missing" }, before, true],
    [{ flag: "missing", excused: true }, after, false],
    [{ flag: "missing", state: "handed_in" }, after, false],
    [{ expects: "nothing", flag: "late" }, after, false],
  ])("%j at %s: missing is %s", (facts, now, missing) => {
    expect(isMissing({ flag: null, ...piece(facts), ...facts }, now)).toBe(missing);
  });
  test("no closing time never closes", () => {
    expect(isClosed(piece(), new Date("2099-01-01T00:00:00Z"))).toBe(false);
  });
});

test("whatever is tried in whatever order, the round never falls and rises by one at most", () => {
  const step = fc.record({
    move: fc.constantFrom(...(Object.keys(MOVES) as MoveKind[])),
    actor: fc.constantFrom<Actor>("student", "teacher"),
    now: fc.constantFrom(before, after),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      let { state, round } = piece({ state: "not_opened" });
      for (const { move, actor, now } of steps) {
        const roundDue = new Date(now.getTime() + 86_400_000);
        const tried = move === "handBackToRevise" ? { kind: move, roundDue } : MOVES[move];
        const outcome = decideMove(piece({ state, round }), tried, actor, now);
        if (!outcome.allowed) continue;
        if (outcome.round < round || outcome.round > round + 1) return false;
        if (outcome.round > round && actor !== "student") return false;
        ({ state, round } = outcome);
      }
      return true;
    }),
  );
});
