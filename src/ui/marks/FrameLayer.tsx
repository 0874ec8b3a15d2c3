"use client";

import { useRef, type ReactNode } from "react";
import { areaOf } from "@/core/marks/place";
import type { PlacedMark } from "./drawn";
import { MarkLayer } from "./MarkLayer";
import { isNow, usePlayer } from "./usePlayer";

/** How far from its moment a drawing is still shown while the film stands still. */
const STILL = 0.5;

type Props = {
  marks: readonly PlacedMark[];
  ratio: number;
  numbers: ReadonlyMap<string, number>;
  chosen: string | null;
  onChoose: (id: string) => void;
  /** What takes new marks while the film stands still, and at which second it does. */
  surface?: (now: number) => ReactNode;
};

/** What is drawn on the picture of a film: there at its moment, while it plays and while it stands. */
export function FrameLayer({ marks, surface, ...layer }: Props) {
  const root = useRef<HTMLElement>(null);
  const player = usePlayer(root, null);
  const shown = marks.filter(
    ({ place }) =>
      place.on === "time" &&
      areaOf(place) !== null &&
      (player.playing ? isNow(place, player.at) : Math.abs(place.from - player.at) <= STILL),
  );
  return (
    <div
      ref={(element) =>
        void (root.current = element?.closest<HTMLElement>("[data-surface]") ?? null)
      }
      className="contents"
    >
      <MarkLayer {...layer} marks={shown} />
      {surface && !player.playing ? surface(Math.round(player.at * 100) / 100) : null}
    </div>
  );
}
