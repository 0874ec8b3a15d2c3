"use client";

import { useCallback, useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { ItemView, Room } from "@/core/views/workViews";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { useTransfers } from "../../transfers/useTransfers";

export type Items = ReturnType<typeof useItems>;
const POLL = 2500;

/** The files of the unfinished work: what is there, what is on its way, and what can be done with it. */
export function useItems(pieceId: string, first: ItemView[], firstRoom: Room) {
  const [items, setItems] = useState(first);
  const [room, setRoom] = useState(firstRoom);
  const [takenOut, setTakenOut] = useState<ItemView | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  const refresh = useCallback(async () => {
    const now = await call(contract.items, { params: { pieceId } });
    setItems(now.items);
    setRoom(now.room);
  }, [pieceId]);
  const arrived = useCallback(
    (item: ItemView | null, replaced: string | null) => {
      if (item)
        setItems((old) =>
          replaced && old.some((i) => i.id === replaced)
            ? old.map((i) => (i.id === replaced ? item : i))
            : [...old.filter((i) => i.id !== item.id), item],
        );
      void refresh().catch(() => {});
    },
    [refresh],
  );
  const transfers = useTransfers(pieceId, room, arrived);

  // Pages and recordings that are being made are asked after until they are there.
  const making = items.some((i) => i.state === "being made");
  useEffect(() => {
    if (!making) return;
    const timer = setInterval(() => void refresh().catch(() => {}), POLL);
    return () => clearInterval(timer);
  }, [making, refresh]);

  // What another device has sent since is here when one comes back to this one.
  useEffect(() => {
    const back = () => document.visibilityState === "visible" && void refresh().catch(() => {});
    document.addEventListener("visibilitychange", back);
    return () => document.removeEventListener("visibilitychange", back);
  }, [refresh]);

  async function act(work: () => Promise<unknown>, before: ItemView[]) {
    setProblem(null);
    try {
      await work();
      await refresh();
    } catch (error) {
      setItems(before);
      setProblem(sayProblem(error));
    }
  }

  return {
    items,
    room,
    transfers,
    takenOut,
    problem,
    of: (partId: string) => items.filter((i) => i.partId === partId),
    takeOut: (item: ItemView) => {
      setItems((old) => old.filter((i) => i.id !== item.id));
      setTakenOut(item);
      return act(
        () =>
          call(contract.changeItem, {
            params: { pieceId, itemId: item.id },
            body: { removed: true },
          }),
        items,
      );
    },
    putBack: (item: ItemView) => {
      setTakenOut(null);
      return act(
        () =>
          call(contract.changeItem, {
            params: { pieceId, itemId: item.id },
            body: { removed: false },
          }),
        items,
      );
    },
    order: (partId: string, ids: string[]) => {
      const place = new Map(ids.map((id, n) => [id, n]));
      setItems((old) => [
        ...old.filter((i) => i.partId !== partId),
        ...old
          .filter((i) => i.partId === partId)
          .sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0)),
      ]);
      return act(() => call(contract.orderItems, { params: { pieceId }, body: { ids } }), items);
    },
    restore: (item: ItemView) =>
      act(() => call(contract.restoreItem, { params: { pieceId, itemId: item.id } }), items),
  };
}

/** What was just taken out can be put back with one press. */
export function TakenOut({ items, partId }: { items: Items; partId: string }) {
  const item = items.takenOut;
  if (!item || item.partId !== partId) return null;
  return (
    <p
      className="my-2 flex flex-wrap items-center gap-3 border-l-4 border-line-strong bg-sunk px-3 py-2"
      role="status"
    >
      <span>
        Taken out: {item.name}.{" "}
        <span className="text-soft">What was handed in before keeps it.</span>
      </span>
      <Button small className="max-sm:min-h-11" onClick={() => void items.putBack(item)}>
        Put it back
      </Button>
    </p>
  );
}
