import type { World } from "./world";

/** A world for tests: a clock that goes when told, a device in memory, a connection that comes back when told. */
export function testWorld() {
  let time = Date.parse("2026-11-02T15:00:00Z");
  let timers: { at: number; then: () => void }[] = [];
  const wakers = new Set<() => void>();
  const stored = new Map<string, { value: unknown; revision: number; at: string }>();
  let hasRoom = true;
  const world: World = {
    now: () => new Date(time),
    after(ms, then) {
      const timer = { at: time + ms, then };
      timers.push(timer);
      return () => {
        timers = timers.filter((t) => t !== timer);
      };
    },
    onWake(then) {
      wakers.add(then);
      return () => wakers.delete(then);
    },
    device: {
      keep: async (key, value, revision) => {
        const copy: unknown = JSON.parse(JSON.stringify(value));
        if (hasRoom) stored.set(key, { value: copy, revision, at: new Date(time).toISOString() });
        return hasRoom;
      },
      kept: async (key) => (stored.get(key) as never) ?? null,
      keptUnder: async (prefix) =>
        [...stored]
          .filter(([key]) => key.startsWith(prefix))
          .map(([key, { value, at }]) => ({ key, value: value as never, at })),
      release: async (key) => void stored.delete(key),
    },
  };
  /** Everything that is ready to happen has happened. */
  const settle = async () => {
    for (let n = 0; n < 200; n += 1) await Promise.resolve();
  };
  return {
    world,
    stored,
    settle,
    timers: () => timers.length,
    noRoom: () => {
      hasRoom = false;
    },
    async pass(ms: number) {
      const until = time + ms;
      for (;;) {
        const next = timers.filter((t) => t.at <= until).sort((a, b) => a.at - b.at)[0];
        if (!next) break;
        timers = timers.filter((t) => t !== next);
        time = next.at;
        next.then();
        await settle();
      }
      time = until;
      await settle();
    },
    async wake() {
      for (const waker of [...wakers]) waker();
      await settle();
    },
  };
}
export type TestWorld = ReturnType<typeof testWorld>;
