"use client";

import { useEffect, useState, type RefObject } from "react";

export type Playing = { at: number; seconds: number; playing: boolean };
const NOTHING: Playing = { at: 0, seconds: 0, playing: false };

/** Where the recording within an element stands just now, whether it plays, and how long it is as far as is known. */
export function usePlayer(within: RefObject<HTMLElement | null>, known: number | null): Playing {
  const [now, setNow] = useState<Playing>({ ...NOTHING, seconds: known ?? 0 });
  useEffect(() => {
    const player = within.current?.querySelector<HTMLMediaElement>("[data-player]");
    if (!player) return;
    const look = () =>
      setNow({
        at: player.currentTime,
        seconds:
          Number.isFinite(player.duration) && player.duration > 0 ? player.duration : (known ?? 0),
        playing: !player.paused,
      });
    const events = [
      "timeupdate",
      "play",
      "pause",
      "seeked",
      "durationchange",
      "loadedmetadata",
    ] as const;
    events.forEach((event) => player.addEventListener(event, look));
    look();
    return () => events.forEach((event) => player.removeEventListener(event, look));
  }, [within, known]);
  return now;
}

/** How long a note on a moment stays in view while it plays. */
const MOMENT = 4;

/** Whether a note on a moment or stretch is about what plays just now. */
export const isNow = (place: { from: number; to: number | null }, at: number): boolean =>
  at >= place.from - 0.15 && at < (place.to ?? place.from + MOMENT);
