"use client";

import type { KeyboardEvent, PointerEvent } from "react";
import { sayDuration } from "@/core/items/kinds";
import { classes } from "../kit/classes";
import type { PlacedMark } from "./drawn";
import { laneRows } from "./laneRows";
import type { Playing } from "./usePlayer";

const STEP = 5;

/**
 * The lane under a recording: as long as it is, with a mark at each moment and a bar over each stretch that a note is
 * about. Arrows go five seconds on or back, a press goes there.
 */
export function Lane({
  marks,
  player,
  chosen,
  begun,
  now,
  onSeek,
  onChoose,
}: {
  marks: readonly PlacedMark[];
  player: Playing;
  chosen: string | null;
  /** A stretch that was begun and not ended, in seconds. */ begun: number | null;
  /** Where it stands, when a key comes before the last one has been drawn. */ now: () => number;
  onSeek: (seconds: number) => void;
  onChoose: (id: string) => void;
}) {
  const { at, seconds } = player;
  const share = (n: number) => (seconds > 0 ? Math.min(100, (n / seconds) * 100) : 0);
  const part = (n: number) => `${share(n)}%`;
  const rows = laneRows(
    marks.map(({ place }) =>
      place.on === "time" ? [share(place.from), share(place.to ?? place.from)] : [0, 0],
    ),
  );
  const onKey = (event: KeyboardEvent) => {
    const to = { ArrowRight: now() + STEP, ArrowLeft: now() - STEP, Home: 0, End: seconds }[
      event.key
    ];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onSeek(Math.min(seconds, Math.max(0, to)));
  };
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onSeek(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * seconds);
  };
  return (
    <div
      className="lane relative mt-1 min-h-9 select-none border-y border-line-strong bg-sunk max-sm:min-h-11"
      style={{ height: `calc(var(--row) * ${Math.max(0, ...rows) + 1} + 4px)` }}
    >
      <div
        role="slider"
        tabIndex={0}
        aria-label="Where in the recording"
        aria-valuemin={0}
        aria-valuemax={Math.round(seconds)}
        aria-valuenow={Math.round(at)}
        aria-valuetext={`${sayDuration(at)} of ${sayDuration(seconds)}`}
        className="absolute inset-0 cursor-pointer"
        onKeyDown={onKey}
        onPointerDown={point}
        data-lane
      >
        <span className="absolute inset-y-0 left-0 bg-tide-wash" style={{ width: part(at) }} />
        {begun !== null ? (
          <span
            className="absolute inset-y-0 border-x border-plum bg-plum/20"
            style={{ left: part(Math.min(begun, at)), width: part(Math.abs(at - begun)) }}
          />
        ) : null}
        <span
          className="absolute inset-y-0 w-0.5 -translate-x-px bg-ink"
          style={{ left: part(at) }}
        />
      </div>
      {marks.map((mark, n) => {
        // Before it is known how long the recording is, no mark has a place on it.
        if (mark.place.on !== "time" || seconds <= 0) return null;
        const { from, to } = mark.place;
        return (
          <button
            key={mark.id}
            type="button"
            className={classes(
              "lane-mark",
              `lane-${mark.tone}`,
              chosen === mark.id && "lane-chosen",
            )}
            style={{
              left: part(from),
              top: `calc(var(--row) * ${rows[n]!} + 2px)`,
              ...(to === null ? {} : { width: part(to - from), minWidth: "1.5rem" }),
            }}
            title={mark.label}
            aria-label={mark.label}
            onClick={() => {
              onSeek(from);
              onChoose(mark.id);
            }}
          >
            {signOnLane(mark, to)}
          </button>
        );
      })}
    </div>
  );
}

/** A stretch is seen by its length. */
function signOnLane(mark: PlacedMark, to: number | null): string {
  if (mark.kind === "ink") return "✎";
  return to === null ? "▾" : "";
}
