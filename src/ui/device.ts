import { createStore, del, entries, get, set } from "idb-keyval";

/**
 * What was typed, kept on the device (IndexedDB) before it is on the wire, and until the server has it.
 * Keys begin with the person's piece, so nothing of one is mistaken for another's.
 */
let opened: ReturnType<typeof createStore> | undefined;
const store = () => (opened ??= createStore("almanac", "kept"));

export type Kept<T> = { value: T; revision: number; at: string };

/** A browser may forbid storage (private windows); then only the server's copy protects, and the page says so. */
export async function keep<T>(key: string, value: T, revision: number): Promise<boolean> {
  try {
    await set(key, { value, revision, at: new Date().toISOString() } satisfies Kept<T>, store());
    return true;
  } catch {
    return false;
  }
}

export async function kept<T>(key: string): Promise<Kept<T> | null> {
  try {
    return (await get<Kept<T>>(key, store())) ?? null;
  } catch {
    return null;
  }
}

export async function release(key: string): Promise<void> {
  await del(key, store()).catch(() => {});
}

/** On a shared laptop nothing of this person stays behind after signing out. */
export async function releaseAll(): Promise<void> {
  try {
    for (const [key] of await entries(store())) await del(key, store());
  } catch {
    // Nothing could be kept, so nothing is left.
  }
}
