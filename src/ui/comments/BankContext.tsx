"use client";

import { createContext, useContext, useMemo, useRef, useState, type ReactNode } from "react";
import type { PlaceholderValues } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";

type BankHere = {
  bank: readonly CommentView[];
  values: PlaceholderValues;
  /** Fetches the bank, where the page did not come with it. */ want?: () => void;
};

/** The bank for fields deep in a page (a thread, a private note, a task): where it is given, `;` brings a comment there too. */
const BankContext = createContext<BankHere | null>(null);
export const BankProvider = BankContext.Provider;
export const useBankHere = () => useContext(BankContext);

const EMPTY: PlaceholderValues = {};

/** The frame of every page holds this, a student's first page too: what fetches the bank comes only when it is wanted. */
async function fetchBank(): Promise<readonly CommentView[]> {
  const [{ contract }, { call }] = await Promise.all([
    import("@/core/api/contract"),
    import("../client"),
  ]);
  return call(contract.comments);
}

/** The bank behind every field of every page of a teacher: fetched when the first of them is written in. */
export function BankEverywhere({ children }: { children: ReactNode }) {
  const [bank, setBank] = useState<readonly CommentView[]>([]);
  const asked = useRef(false);
  const value = useMemo<BankHere>(
    () => ({
      bank,
      values: EMPTY,
      want() {
        if (asked.current) return;
        asked.current = true;
        // Without a connection the field takes what is typed; the next focus asks again.
        void fetchBank().then(setBank, () => (asked.current = false));
      },
    }),
    [bank],
  );
  return <BankContext value={value}>{children}</BankContext>;
}
