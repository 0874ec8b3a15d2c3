"use client";

import { createContext, useContext } from "react";
import type { PlaceholderValues } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";

/** The bank for fields deep in a page (a thread, a private note): where it is given, `;` brings a comment there too. */
const BankContext = createContext<{ bank: readonly CommentView[]; values: PlaceholderValues } | null>(null);
export const BankProvider = BankContext.Provider;
export const useBankHere = () => useContext(BankContext);
