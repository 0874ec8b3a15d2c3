import { Problem, Unreachable } from "../client";
import type { World } from "./world";

/** So long it waits before it asks again: twice as long each time, up to half a minute. */
const FIRST_MS = 1000;
const LONGEST_MS = 30_000;

/**
 * Whether nobody has said anything yet to what was asked: it did not arrive, its answer was lost, or the server is
 * unwell. All else is an answer, a no too.
 */
export const isUnanswered = (error: unknown): boolean =>
  error instanceof Unreachable || (error instanceof Problem && error.status >= 500);

/** It was no answer to what was said: who asked must sign in again. What was said stays on the device. */
export const isSignedOut = (error: unknown): boolean =>
  error instanceof Problem && error.status === 401;

/** @example backOff(0) // 1000, backOff(3) // 8000, backOff(9) // 30000 */
export const backOff = (attempt: number): number => Math.min(LONGEST_MS, FIRST_MS * 2 ** attempt);

/**
 * Asks until there is an answer: again after a while, and at once when there may be a connection again.
 *
 * @param onWaiting told when there is no answer, and when there is one again
 * @throws whatever answer says no
 */
export async function untilAnswered<T>(
  world: World,
  ask: () => Promise<T>,
  onWaiting: (waits: boolean) => void,
): Promise<T> {
  let waits = false;
  const tell = (now: boolean) => {
    if (now !== waits) onWaiting(now);
    waits = now;
  };
  try {
    for (let attempt = 0; ; attempt += 1) {
      const answer = await askOnce(ask);
      if (answer !== NONE) return answer;
      tell(true);
      await pause(world, backOff(attempt));
    }
  } finally {
    tell(false);
  }
}

const NONE = Symbol("no answer");

async function askOnce<T>(ask: () => Promise<T>): Promise<T | typeof NONE> {
  try {
    return await ask();
  } catch (error) {
    if (isUnanswered(error)) return NONE;
    throw error;
  }
}

/** Over when the time is, or when there may be a connection again. */
function pause(world: World, ms: number): Promise<void> {
  return new Promise((resolve) => {
    const go = () => {
      forget();
      asleep();
      resolve();
    };
    const forget = world.after(ms, go);
    const asleep = world.onWake(go);
  });
}
