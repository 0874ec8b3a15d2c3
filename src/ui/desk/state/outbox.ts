import type { DeskPiece, DraftMark } from "@/core/views/views";
import { Unreachable } from "../../client";
import { keep, keptUnder, release } from "../../device";

/**
 * Changes to marks on their way to the server. Each is on the device before it is on the wire, and goes from there only
 * when the server has said something to it; without a connection it is tried again until there is one. So a note
 * written on a train is there after the tunnel, and after the tab was closed in it.
 */
export type Waiting = { what: "add" | "put" | "remove"; mark: DraftMark; versionId: string };

const RETRY_MS = 4000;
const prefixOf = (pieceId: string) => `mark ${pieceId} `;
const onTheWay = new Map<string, Map<string, Waiting>>();

/** A change begins: the newest to each mark is what counts. One to a mark that the server does not know yet adds it as it now is. */
export function begin(pieceId: string, given: Waiting): Waiting {
  const all = onTheWay.get(pieceId) ?? new Map<string, Waiting>();
  const before = all.get(given.mark.id);
  const waiting =
    before?.what === "add" && given.what === "put" ? { ...before, mark: given.mark } : given;
  onTheWay.set(pieceId, all.set(given.mark.id, waiting));
  void keep(prefixOf(pieceId) + given.mark.id, waiting, 0);
  return waiting;
}

/** The server has answered, one way or the other. A newer change to the same mark stays. */
export function end(pieceId: string, waiting: Waiting): void {
  if (leave(pieceId, waiting)) void release(prefixOf(pieceId) + waiting.mark.id);
}

/** It is not tried again now, but stays on the device for the next time the piece is opened. */
export function leave(pieceId: string, waiting: Waiting): boolean {
  const all = onTheWay.get(pieceId);
  return all?.get(waiting.mark.id) === waiting && all.delete(waiting.mark.id);
}

export const isOnTheWay = (pieceId: string, markId: string): boolean =>
  onTheWay.get(pieceId)?.has(markId) ?? false;

/** What a tab that was closed had not sent. */
export async function leftBehind(pieceId: string): Promise<Waiting[]> {
  return (await keptUnder<Waiting>(prefixOf(pieceId)))
    .map(({ value }) => value)
    .filter(({ mark }) => !isOnTheWay(pieceId, mark.id));
}

/** A piece as the server has it, with what is on its way: what was just written does not vanish when the piece is read anew. */
export function withWaiting(piece: DeskPiece): DeskPiece {
  const all = [...(onTheWay.get(piece.id)?.values() ?? [])];
  if (all.length === 0) return piece;
  const others = piece.marks.filter((m) => !all.some(({ mark }) => mark.id === m.id));
  return {
    ...piece,
    marks: [...others, ...all.flatMap(({ what, mark }) => (what === "remove" ? [] : [mark]))].sort(
      (a, b) => a.start - b.start,
    ),
  };
}

/** Asks until there is an answer; `onWaiting` is told when there is no connection, and when there is again. */
export async function untilReached<T>(
  ask: () => Promise<T>,
  onWaiting: (waits: boolean) => void,
): Promise<T> {
  let waits = false;
  const tell = (now: boolean) => {
    if (now !== waits) onWaiting(now);
    waits = now;
  };
  try {
    for (;;) {
      try {
        return await ask();
      } catch (error) {
        if (!(error instanceof Unreachable)) throw error;
        tell(true);
        await connection();
      }
    }
  } finally {
    tell(false);
  }
}

/** As soon as the browser says that it is online again, or in a moment: some never say. */
function connection(): Promise<void> {
  return new Promise((resolve) => {
    const go = () => {
      clearTimeout(timer);
      window.removeEventListener("online", go);
      resolve();
    };
    const timer = setTimeout(go, RETRY_MS);
    window.addEventListener("online", go);
  });
}

export const anyOnTheWay = (pieceId: string): boolean => (onTheWay.get(pieceId)?.size ?? 0) > 0;

/** It is settled already: what a closed tab had left of it is not needed. */
export const forget = (pieceId: string, markId: string): Promise<void> =>
  release(prefixOf(pieceId) + markId);
