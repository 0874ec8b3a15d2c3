"use client";

import { useEffect, useRef } from "react";
import { actOf, type DeskAct, type OwnKeys } from "../keys/keys";

/** Obeys the keys of the Desk; digits are favourite comments. */
export function useDeskKeys(
  own: OwnKeys,
  acts: Record<DeskAct, () => void>,
  onDigit: (digit: number) => void,
): void {
  const now = useRef({ own, acts, onDigit });
  useEffect(() => {
    now.current = { own, acts, onDigit };
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (
        /^[1-9]$/.test(event.key) &&
        !event.ctrlKey &&
        !event.metaKey &&
        !event.altKey &&
        !target?.closest("input, textarea, select, [role=dialog], details [role=group]")
      ) {
        return now.current.onDigit(Number(event.key));
      }
      const act = actOf(event, now.current.own);
      if (!act) return;
      event.preventDefault();
      now.current.acts[act]();
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  }, []);
}
