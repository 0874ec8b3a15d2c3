"use client";

import { useEffect, type RefObject } from "react";

/** Seconds by which two players may be apart before one is set to the other. */
const APART = 0.4;

/**
 * As long as `on`, every player within follows the others: one is played, stopped or moved, and all are. What is done
 * to the followers says so again, which changes nothing any more.
 */
export function useTogether(rootRef: RefObject<HTMLElement | null>, on: boolean) {
  useEffect(() => {
    const root = rootRef.current;
    if (!root || !on) return;
    const follow = (event: Event) => {
      const led = event.target;
      if (!(led instanceof HTMLMediaElement)) return;
      for (const player of root.querySelectorAll<HTMLMediaElement>("[data-player]"))
        if (player !== led) followOne(player, led, event.type);
    };
    // Events of players do not bubble; on their way down they are heard all the same.
    const kinds = ["play", "pause", "seeked", "ratechange"];
    for (const kind of kinds) root.addEventListener(kind, follow, true);
    return () => kinds.forEach((kind) => root.removeEventListener(kind, follow, true));
  }, [on, rootRef]);
}

export function followOne(player: HTMLMediaElement, led: HTMLMediaElement, kind: string): void {
  // One that has come to its end stops by itself; the longer one goes on.
  if (kind === "pause" && !led.ended) player.pause();
  if (kind === "ratechange") player.playbackRate = led.playbackRate;
  if (kind === "pause" || kind === "ratechange") return;
  const at = Math.min(led.currentTime, player.duration || led.currentTime);
  if (Math.abs(player.currentTime - at) > APART) player.currentTime = at;
  if (kind === "play" && player.paused && !player.ended) void player.play().catch(() => {});
}
