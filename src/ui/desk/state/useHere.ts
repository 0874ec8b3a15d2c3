"use client";

import { useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Here } from "@/core/views/deskViews";
import { call } from "../../client";

/** Between two signs of life. */
const EVERY = 9_000;
/** Without a key or a touch for so long, the teacher is taken to be elsewhere, and the time does not count. */
const STILL_HERE = 60_000;

/**
 * Says every few seconds that this teacher is at the piece, and hears who else is and whether the draft has
 * changed since. Without a connection nothing is said, and nothing is lost by it.
 */
export function useHere(pieceId: string): Here | null {
  const [heard, setHeard] = useState<{ pieceId: string; here: Here } | null>(null);
  const touched = useRef(0);
  useEffect(() => {
    touched.current = Date.now();
    const note = () => (touched.current = Date.now());
    const events = ["keydown", "pointerdown", "pointermove", "wheel"] as const;
    for (const event of events) document.addEventListener(event, note, { passive: true });
    let gone = false;
    const say = async () => {
      if (document.visibilityState !== "visible") return;
      try {
        const here = await call(contract.here, {
          params: { pieceId },
          body: { active: Date.now() - touched.current < STILL_HERE },
        });
        if (!gone) setHeard({ pieceId, here });
      } catch {
        // Said again in a moment.
      }
    };
    const first = setTimeout(() => void say(), 400);
    const timer = setInterval(() => void say(), EVERY);
    return () => {
      gone = true;
      clearTimeout(first);
      clearInterval(timer);
      for (const event of events) document.removeEventListener(event, note);
    };
  }, [pieceId]);
  return heard?.pieceId === pieceId ? heard.here : null;
}
