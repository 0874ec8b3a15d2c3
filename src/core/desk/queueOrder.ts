import type { QueueItem } from "../views/deskViews";

/** The orders a pile can be gone through in. */
export const QUEUE_ORDERS = ["hand-in", "name", "late first", "rework first", "random"] as const;
export type QueueOrder = (typeof QUEUE_ORDERS)[number];

/**
 * The queue in an order. Pieces that are alike in what is asked keep the order they came in. Random is the
 * same each time for one pile, and tells nothing of names: it follows a hash of the piece's id.
 */
export function inOrder(queue: readonly QueueItem[], order: QueueOrder): QueueItem[] {
  const by = (...keys: ((item: QueueItem) => number | string)[]) =>
    [...queue].sort((a, b) => {
      for (const key of keys) {
        const [x, y] = [key(a), key(b)];
        const found =
          typeof x === "string" ? x.localeCompare(y as string, "en") : x - (y as number);
        if (found !== 0) return found;
      }
      return 0;
    });
  const came = (item: QueueItem) =>
    item.handedInAt === null ? Number.MAX_SAFE_INTEGER : Date.parse(item.handedInAt);
  switch (order) {
    case "hand-in":
      return by(came);
    case "name":
      return by((i) => i.sortName);
    case "late first":
      return by((i) => (i.moon.late ? 0 : 1), came);
    case "rework first":
      return by((i) => (i.moon.round > 1 ? 0 : 1), came);
    case "random":
      return by((i) => hash(i.pieceId));
  }
}

/** FNV-1a, 32 bits (Fowler, Noll, Vo; RFC 9923), with a last mixing so that neighbours fall apart (the finaliser of MurmurHash3, from memory). */
export function hash(text: string): number {
  let h = 2_166_136_261;
  for (let n = 0; n < text.length; n += 1) h = Math.imul(h ^ text.charCodeAt(n), 16_777_619);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** In a queue, "not read": handed in, and no feedback begun. */
export const isUnread = (item: Pick<QueueItem, "moon" | "drafted">): boolean =>
  item.moon.state === "handed_in" && !item.drafted;
