"use client";

import type { RefObject } from "react";
import type { Place } from "@/core/marks/place";

const BACK = 5;

/** The recordings on the sheet, by key: notes on their moments and stretches, play and stop, back. */
export function useRecordings(
  sheet: RefObject<HTMLElement | null>,
  composeAt: (place: Place) => void,
  say: (problem: string) => void,
) {
  /** The one that plays; else the one that was begun; else the first. */
  function media(): HTMLMediaElement | null {
    const all = [...(sheet.current?.querySelectorAll<HTMLMediaElement>("[data-player]") ?? [])];
    const found =
      all.find((p) => !p.paused) ?? all.find((p) => p.currentTime > 0) ?? all[0] ?? null;
    if (!found) say("There is no recording in this piece.");
    return found;
  }
  const itemOf = (player: HTMLMediaElement) => player.closest<HTMLElement>("[data-item]");
  return {
    moment() {
      const player = media();
      const itemId = player && itemOf(player)?.dataset.item;
      if (!player || !itemId) return;
      player.pause();
      composeAt({ on: "time", itemId, from: Math.round(player.currentTime * 10) / 10, to: null });
    },
    stretch() {
      const player = media();
      if (player) itemOf(player)?.querySelector<HTMLElement>("[data-stretch]")?.click();
    },
    play() {
      const player = media();
      if (player?.paused) void player.play().catch(() => undefined);
      else player?.pause();
    },
    back() {
      const player = media();
      if (player) player.currentTime = Math.max(0, player.currentTime - BACK);
    },
  };
}
