"use client";

import { useRef, useState, type ReactNode } from "react";
import { sayPlace, type PlacedMark } from "./drawn";
import { sayDuration } from "@/core/items/kinds";
import { sayNote } from "@/core/text/noteText";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { PlaySign } from "../voice/signs";
import { Lane } from "./Lane";
import { isNow, usePlayer } from "./usePlayer";

type Props = {
  marks: readonly PlacedMark[];
  chosen: string | null;
  onChoose: (id: string) => void;
  /** Seconds that are known before the player has looked into the file. */
  seconds: number | null;
  /** Where notes can be added: on a moment, or over a stretch. */
  onNote?: (from: number, to: number | null) => void;
  acts?: ReactNode;
};

/** Under a recording: its lane, what is said about what plays just now, and all notes in its order. */
export function TimeNotes({ marks, chosen, onChoose, seconds, onNote, acts }: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLElement>(null);
  const [begun, setBegun] = useState<number | null>(null);
  const attach = (element: HTMLDivElement | null) => {
    figure.current = element;
    root.current = element?.closest<HTMLElement>("[data-item]") ?? null;
  };
  const player = usePlayer(root, seconds);
  const media = () => root.current?.querySelector<HTMLMediaElement>("[data-player]") ?? null;
  const rows = [...marks].sort((a, b) => from(a) - from(b));
  const now = player.playing
    ? rows.filter((m) => m.place.on === "time" && isNow(m.place, player.at) && m.kind !== "ink")
    : [];
  const here = () => Math.round((media()?.currentTime ?? 0) * 10) / 10;
  const stretch = () => {
    if (begun === null) return setBegun(here());
    const [a, b] = [begun, here()].sort((x, y) => x - y) as [number, number];
    setBegun(null);
    media()?.pause();
    onNote?.(a, b > a ? b : null);
  };
  return (
    <div ref={attach}>
      <Lane
        marks={rows}
        player={player}
        chosen={chosen}
        begun={begun}
        now={() => media()?.currentTime ?? 0}
        onSeek={(to) => media() && (media()!.currentTime = to)}
        onChoose={onChoose}
      />
      <div aria-live="polite" data-now>
        {now.map((mark) => (
          <div
            key={mark.id}
            className={classes(
              "mt-1 border-l-4 bg-raised px-3 py-1.5 shadow-lifted",
              mark.tone === "request"
                ? "border-ember"
                : mark.tone === "praise"
                  ? "border-moss"
                  : "border-tide",
            )}
          >
            {sayNote(mark.body) || (mark.clipId ? "● a voice note, in the margin" : mark.label)}
          </div>
        ))}
      </div>
      {onNote || acts ? (
        <p className="mt-2 flex flex-wrap gap-2">
          {onNote ? (
            <>
              <Button small onClick={() => (media()?.pause(), onNote(here(), null))}>
                Note on this moment <kbd className="text-xs">m</kbd>
              </Button>
              <Button small aria-pressed={begun !== null} onClick={stretch} data-stretch>
                {begun === null
                  ? "Begin a stretch"
                  : `End the stretch that begins at ${sayDuration(begun)}`}{" "}
                <kbd className="text-xs">,</kbd>
              </Button>
            </>
          ) : null}
          {acts}
        </p>
      ) : null}
      {rows.length > 0 ? (
        <ol aria-label="Notes on moments" className="mt-2">
          {rows.map((mark) => (
            <li
              key={mark.id}
              data-mark={mark.id}
              className={classes(
                "flex items-baseline gap-3 border-b border-line py-1 text-sm",
                chosen === mark.id && "bg-tide-wash",
              )}
            >
              <button
                type="button"
                className="flex min-h-7 shrink-0 cursor-pointer items-center gap-1 border border-line-strong bg-raised px-1.5 font-semibold max-sm:min-h-11"
                onClick={() => playFrom(media(), from(mark))}
                aria-label={`Play ${sayPlace(mark.place)}`}
              >
                <PlaySign /> {sayDuration(from(mark))}
                {mark.place.on === "time" && mark.place.to !== null
                  ? ` to ${sayDuration(mark.place.to)}`
                  : ""}
              </button>
              <div className="min-w-0 flex-1">
                <button
                  type="button"
                  className="cursor-pointer text-left"
                  onClick={() => onChoose(mark.id)}
                >
                  {mark.tone === "request" ? (
                    <span className="label mr-2 text-ember">asks</span>
                  ) : mark.tone === "praise" ? (
                    <span className="label mr-2 text-moss">praise</span>
                  ) : null}
                  {mark.kind === "ink"
                    ? "drawn on the still"
                    : sayNote(mark.body) ||
                      (mark.clipId ? "● a voice note, in the margin" : mark.label)}
                </button>
              </div>
            </li>
          ))}
        </ol>
      ) : null}
    </div>
  );
}

const from = (mark: PlacedMark): number => (mark.place.on === "time" ? mark.place.from : 0);

/** Plays a recording from a moment. One whose end is not known yet is wound as far as it can be. */
export function playFrom(player: HTMLMediaElement | null | undefined, seconds: number): void {
  if (!player) return;
  player.currentTime = seconds;
  void player.play().catch(() => undefined);
}
