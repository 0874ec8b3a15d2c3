"use client";

import { useMemo } from "react";
import { unpackLedger } from "@/core/ledger/packed";
import { Ledger } from "./Ledger";

/** The Ledger as it comes from the server. Read again and the same, it is the same, and nothing is drawn anew. */
export function PackedLedger({ packed }: { packed: string }) {
  return <Ledger view={useMemo(() => unpackLedger(packed), [packed])} />;
}
