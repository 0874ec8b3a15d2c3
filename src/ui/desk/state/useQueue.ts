"use client";

import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { inOrder, isUnread, type QueueOrder } from "@/core/desk/queueOrder";
import type { DeskPiece, DeskQueue, QueueItem } from "@/core/views/views";
import { useSetting } from "./useSetting";

type Known = Pick<QueueItem, "student" | "moon" | "drafted">;
const stripKey = (pieceId: string) => ["strip", pieceId] as const;

/** Notes what the strip shows of a piece, which stays when the piece itself is let go. */
export function rememberPiece(client: QueryClient, piece: DeskPiece | undefined): void {
  if (!piece) return;
  client.setQueryDefaults(["strip"], { gcTime: Infinity });
  client.setQueryData<Known>(stripKey(piece.id), {
    student: piece.student,
    moon: piece.moon,
    drafted: piece.moon.state === "handed_in" && (piece.revision > 0 || piece.marks.length > 0),
  });
}

/** The pile in the teacher's order, and where they are in it. */
export function useQueue(given: DeskQueue, first: string, firstOrder: QueueOrder) {
  const client = useQueryClient();
  const [order, setOrder] = useSetting<QueueOrder>("desk.order", firstOrder);
  const [unreadOnly, setUnreadOnly] = useState(false);
  const [at, setAt] = useState(first);
  // What the strip shows follows what was done here since it was fetched.
  const fresh = given.items.map((entry) => ({
    ...entry,
    ...client.getQueryData<Known>(stripKey(entry.pieceId)),
  }));
  const queue = inOrder(fresh, order).filter(
    (entry) => !unreadOnly || isUnread(entry) || entry.pieceId === at,
  );
  const current = Math.max(
    0,
    queue.findIndex((entry) => entry.pieceId === at),
  );
  return {
    queue,
    at,
    setAt,
    current,
    item: queue[current]!,
    order,
    setOrder,
    unreadOnly,
    setUnreadOnly,
  };
}
