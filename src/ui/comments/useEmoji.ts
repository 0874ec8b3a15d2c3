"use client";

import { useEffect, useState } from "react";
import type { Emoji } from "@/core/text/emoji";

let list: Promise<Emoji[]> | null = null;
const NONE: readonly Emoji[] = [];

/** The list of emoji with their names, fetched when it is first wanted. */
export function useEmoji(wanted: boolean): readonly Emoji[] {
  const [found, setFound] = useState<readonly Emoji[]>(NONE);
  useEffect(() => {
    if (!wanted || found.length > 0) return;
    list ??= import("gemoji").then(({ gemoji }) =>
      gemoji.map((g) => ({ emoji: g.emoji, names: [...g.names, ...g.tags] })),
    );
    void list.then(setFound, () => (list = null));
  }, [wanted, found.length]);
  return found;
}
