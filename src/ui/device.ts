import { createStore, del, entries, get, set } from "idb-keyval";

/**
 * What was typed, chosen and recorded, kept on the device (IndexedDB) before it is on the wire, and until the server
 * has it. Keys begin with what it is and the person's piece, so nothing of one is mistaken for another's.
 */
let opened: ReturnType<typeof createStore> | undefined;
const store = () => (opened ??= createStore("almanac", "kept"));

export type Kept<T> = { value: T; revision: number; at: string };

/** A browser may forbid storage (private windows), or have no room; then only the server's copy protects, and the page says so. */
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

/** Everything whose key begins so, in the order of the keys. */
export async function keptUnder<T>(
  prefix: string,
): Promise<{ key: string; value: T; at: string }[]> {
  try {
    const all = await entries<string, Kept<T>>(store());
    return all
      .filter(([key]) => String(key).startsWith(prefix))
      .map(([key, { value, at }]) => ({ key, value, at }))
      .sort((a, b) => (a.key < b.key ? -1 : 1));
  } catch {
    return [];
  }
}

export async function release(key: string): Promise<void> {
  await del(key, store()).catch(() => {});
}

export async function releaseUnder(prefix: string): Promise<void> {
  for (const { key } of await keptUnder(prefix)) await release(key);
}

/** On a shared laptop nothing of this person stays behind after signing out: neither work nor pages. */
export async function releaseAll(): Promise<void> {
  await releaseUnder("");
  try {
    for (const name of await caches.keys()) await caches.delete(name);
  } catch {
    // No pages could be kept, so none are left.
  }
}

const OWNER = "almanac person";

/** What another person left on this device (their session ended without signing out) goes before this one begins. */
export async function belongTo(personId: string): Promise<void> {
  try {
    const before = localStorage.getItem(OWNER);
    if (before && before !== personId) await releaseAll();
    localStorage.setItem(OWNER, personId);
  } catch {
    // Without storage there is nothing of anyone.
  }
}
