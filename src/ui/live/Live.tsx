"use client";

import { useRouter } from "next/navigation";
import { useEffect, useEffectEvent, useState } from "react";
import { Button } from "../kit/Button";
import { sinceOwnChange } from "../ownChanges";
import { browserLive, followLive } from "./live";

/** A hand that has not moved for so long, in milliseconds, is not about to press anything. */
const REST = 4000;
/** What is told within so long of an act of one's own is that act, in milliseconds. */
const OWN = 2500;
/** How often it is looked whether the hand is at rest, in milliseconds. */
const LOOK = 500;

/** Whether something on the page is about to be pressed, or is being worked in. */
function inHand(): boolean {
  const main = document.getElementById("main")!;
  const at = document.activeElement;
  return (
    main.querySelector(":is(a, button, summary, input, select):hover") !== null ||
    (at !== null && at !== document.body && main.contains(at)) ||
    document.querySelector("[role=dialog], [role=menu]") !== null
  );
}

/**
 * The page as it is now: what moves in the teacher's sections is shown by itself when the hand is at rest. While
 * something is about to be pressed, nothing jumps: a line at the foot says that there is something new, and shows it.
 */
export function Live() {
  const router = useRouter();
  const [waits, setWaits] = useState(false);
  const show = useEffectEvent(() => {
    setWaits(false);
    router.refresh();
  });
  useEffect(() => {
    let movedAt = 0;
    let waiting: ReturnType<typeof setInterval> | undefined;
    const hand = () => {
      movedAt = Date.now();
    };
    const restful = () => Date.now() - movedAt > REST && !inHand();
    const settle = () => {
      if (!restful()) return;
      clearInterval(waiting);
      waiting = undefined;
      show();
    };
    const moved = () => {
      if (restful()) return show();
      // What one did oneself is shown already; whatever else there is comes when the hand is at rest.
      if (sinceOwnChange() > OWN) setWaits(true);
      waiting ??= setInterval(settle, LOOK);
    };
    for (const kind of HANDS) window.addEventListener(kind, hand, { passive: true });
    const end = followLive(browserLive, moved);
    return () => {
      end();
      clearInterval(waiting);
      for (const kind of HANDS) window.removeEventListener(kind, hand);
    };
  }, []);
  return (
    <p
      role="status"
      className="no-print fixed inset-x-0 bottom-3 z-30 mx-auto w-fit empty:hidden"
      data-live={waits ? "waits" : "shown"}
    >
      {waits ? (
        <span className="flex items-center gap-3 rounded-[4px] border border-line-strong bg-raised px-3 py-1.5 shadow-lifted">
          Something moved since.
          <Button
            small
            onClick={() => {
              setWaits(false);
              router.refresh();
            }}
          >
            Show it
          </Button>
        </span>
      ) : null}
    </p>
  );
}

const HANDS = ["pointermove", "pointerdown", "keydown", "wheel", "touchstart"] as const;
