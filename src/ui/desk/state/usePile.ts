"use client";

import { useEffect, useState } from "react";
import { inOrder, isUnread, type QueueOrder } from "@/core/desk/queueOrder";
import type { DeskQueue } from "@/core/views/deskViews";
import type { AboutPile, Pile } from "../model";
import type { DeskSession, DeskView } from "../store/DeskSession";
import type { DeskSettings } from "./useDeskModel";
import { useKeepPlace, useSetting } from "./useSetting";

/** The pile in the teacher's order, and where they are in it, also on another machine. */
export function usePile(
  session: DeskSession,
  view: DeskView,
  given: DeskQueue,
  { about, settings }: { about: Pick<AboutPile, "pile" | "handOut">; settings: DeskSettings },
): Pile {
  const [order, setOrder] = useSetting<QueueOrder>("desk.order", settings.order);
  const [unreadOnly, setUnreadOnly] = useState(false);
  const keepPlace = useKeepPlace();
  const { pieceId, known } = view;
  // What the strip shows follows what was done here since it was fetched.
  const fresh = given.items.map((entry) => ({ ...entry, ...known[entry.pieceId] }));
  const items = inOrder(fresh, order).filter(
    (entry) => !unreadOnly || isUnread(entry) || entry.pieceId === pieceId,
  );
  const current = Math.max(
    0,
    items.findIndex((entry) => entry.pieceId === pieceId),
  );
  const { pile, handOut } = about;
  const goTo = (to: string) => {
    session.lay(to);
    const url = new URL(window.location.href);
    url.searchParams.set("piece", to);
    window.history.replaceState(null, "", url);
    keepPlace({ pile, handOut, piece: to, scroll: 0 });
  };
  const later = items.findIndex((entry, n) => n > current && isUnread(entry));
  const waiting =
    later !== -1 ? later : items.findIndex((entry, n) => n !== current && isUnread(entry));

  const { scroll } = settings;
  useEffect(() => {
    keepPlace({ pile, handOut, piece: session.getState().pieceId, scroll });
    if (scroll > 0) requestAnimationFrame(() => session.at("scroller")?.scrollTo({ top: scroll }));
    // Once, on coming back: what was set is what this page began with.
  }, [session, keepPlace, pile, handOut, scroll]);

  return {
    items,
    current,
    item: items[current]!,
    ...{ order, setOrder, unreadOnly, setUnreadOnly, goTo },
    waits: waiting !== -1,
    go(by) {
      const next = items[current + by];
      if (next) goTo(next.pieceId);
    },
    goOn() {
      if (waiting !== -1) goTo(items[waiting]!.pieceId);
      return waiting !== -1;
    },
    scrolled: (top) => keepPlace({ pile, handOut, piece: pieceId, scroll: top }),
  };
}
