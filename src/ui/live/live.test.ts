import { describe, expect, test } from "@jest/globals";
import { ASK_EVERY, followLive, type LiveWorld } from "./live";

/** A browser of which the test is the clock, the stream and the eye. */
function made(seen = true) {
  type On = Parameters<LiveWorld["open"]>[0];
  const state = {
    seen,
    streams: [] as (On & { closed: boolean })[],
    timers: new Map<object, { ms: number; then: () => void }>(),
    sight: (_: boolean) => {},
    moves: 0,
  };
  const world: LiveWorld = {
    open(on) {
      const stream = { ...on, closed: false };
      state.streams.push(stream);
      return () => {
        stream.closed = true;
      };
    },
    after(ms, then) {
      const key = {};
      state.timers.set(key, { ms, then });
      return () => void state.timers.delete(key);
    },
    onSight(then) {
      state.sight = then;
      return () => {
        state.sight = () => {};
      };
    },
    seen: () => state.seen,
  };
  const look = (now: boolean) => {
    state.seen = now;
    state.sight(now);
  };
  const ring = () => {
    for (const [key, { then }] of [...state.timers]) {
      state.timers.delete(key);
      then();
    }
  };
  const end = followLive(world, () => {
    state.moves += 1;
  });
  return { state, look, ring, end, stream: () => state.streams.at(-1)! };
}

describe("following what moves", () => {
  test("what the stream tells counts, and nothing is asked besides", () => {
    const { state, stream } = made();
    stream().opened();
    expect(state.moves).toBe(0);
    stream().moved();
    expect([state.moves, state.timers.size]).toEqual([1, 0]);
  });

  test("where the stream is lost it is asked now and then, and once more when it is back", () => {
    const { state, stream, ring } = made();
    stream().opened();
    stream().lost();
    stream().lost();
    expect([...state.timers.values()].map(({ ms }) => ms)).toEqual([ASK_EVERY]);
    ring();
    ring();
    expect(state.moves).toBe(2);
    stream().opened();
    expect([state.moves, state.timers.size]).toEqual([3, 0]);
  });

  test("a page nobody looks at holds no connection, and catches up when it is looked at", () => {
    const { state, stream, look } = made();
    stream().opened();
    look(false);
    expect([stream().closed, state.timers.size]).toEqual([true, 0]);
    look(true);
    expect(state.streams).toHaveLength(2);
    stream().opened();
    expect(state.moves).toBe(1);
  });

  test("opened out of sight it waits to be seen; ended, it closes and asks no more", () => {
    const { state, stream, look, end } = made(false);
    expect(state.streams).toEqual([]);
    look(true);
    stream().lost();
    end();
    expect([stream().closed, state.timers.size]).toEqual([true, 0]);
    look(true);
    expect(state.streams).toHaveLength(1);
  });
});
