"use client";

import { useRef, type ReactNode } from "react";
import { sayPlace, type PlacedMark, type Tone } from "./drawn";
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
  /** Where notes can be added. */
  hands?: MomentHands;
  acts?: ReactNode;
};

/** Notes on moments and stretches; all in seconds of the recording. */
export type MomentHands = {
  onNote: (at: number) => void;
  /** Where a stretch was begun. */
  begun: number | null;
  /** Begins a stretch, or ends the one that is begun. @returns whether it was ended */
  onStretch: (at: number) => boolean;
};

/** Where a recording is, to a tenth of a second. */
export const momentOf = (player: HTMLMediaElement): number =>
  Math.round(player.currentTime * 10) / 10;

/** Under a recording: its lane, what is said about what plays just now, and where its notes are, in its order. */
export function TimeNotes({ marks, chosen, onChoose, seconds, hands, acts }: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLElement>(null);
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
  return (
    <div ref={attach}>
      <Lane
        marks={rows}
        player={player}
        chosen={chosen}
        begun={hands?.begun ?? null}
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
              EDGE[mark.tone],
            )}
          >
            {saysOn(mark)}
          </div>
        ))}
      </div>
      {hands || acts ? (
        <p className="mt-2 flex flex-wrap gap-2">
          {hands ? <MomentButtons hands={hands} media={media} /> : null}
          {acts}
        </p>
      ) : null}
      {rows.length > 0 ? (
        <ol aria-label="Notes on moments" className="mt-2 flex flex-wrap gap-2">
          {rows.map((mark) => (
            <Moment
              key={mark.id}
              mark={mark}
              chosen={chosen === mark.id}
              onPlay={() => {
                onChoose(mark.id);
                playFrom(media(), from(mark));
              }}
            />
          ))}
        </ol>
      ) : null}
    </div>
  );
}

type Media = () => HTMLMediaElement | null;

function MomentButtons({ hands, media }: { hands: MomentHands; media: Media }) {
  const { begun, onNote, onStretch } = hands;
  const note = (player: HTMLMediaElement) => {
    player.pause();
    onNote(momentOf(player));
  };
  const stretch = (player: HTMLMediaElement) => onStretch(momentOf(player)) && player.pause();
  const on = (act: (player: HTMLMediaElement) => unknown) => () => {
    const player = media();
    if (player) act(player);
  };
  return (
    <>
      <Button small onClick={on(note)}>
        Note on this moment <kbd className="text-xs">m</kbd>
      </Button>
      <Button small aria-pressed={begun !== null} onClick={on(stretch)}>
        {begun === null
          ? "Begin a stretch"
          : `End the stretch that begins at ${sayDuration(begun)}`}{" "}
        <kbd className="text-xs">,</kbd>
      </Button>
    </>
  );
}

/** Plays the recording from where a note is; what the note says stands in the margin, once. */
function Moment({
  mark,
  chosen,
  onPlay,
}: {
  mark: PlacedMark;
  chosen: boolean;
  onPlay: () => void;
}) {
  const { place } = mark;
  return (
    <li>
      <button
        type="button"
        data-mark={mark.id}
        className={classes(
          "flex min-h-7 cursor-pointer items-center gap-1 border border-l-4 px-1.5 text-sm font-semibold max-sm:min-h-11",
          EDGE[mark.tone],
          chosen ? "bg-tide-wash" : "bg-raised",
        )}
        onClick={onPlay}
        title={saysOn(mark)}
        aria-label={`Play ${sayPlace(place)}`}
      >
        <PlaySign /> {sayDuration(from(mark))}
        {place.on === "time" && place.to !== null ? ` to ${sayDuration(place.to)}` : ""}
        {mark.kind === "ink" ? " drawn" : ""}
      </button>
    </li>
  );
}

const EDGE: Readonly<Record<Tone, string>> = {
  request: "border-ember",
  praise: "border-moss",
  settled: "border-tide",
  note: "border-tide",
};

/** What is read of a mark beside its moment. */
const saysOn = (mark: PlacedMark): string =>
  sayNote(mark.body) || (mark.clipId ? "● a voice note, in the margin" : mark.label);

const from = (mark: PlacedMark): number => (mark.place.on === "time" ? mark.place.from : 0);

/** Plays a recording from a moment. One whose end is not known yet is wound as far as it can be. */
export function playFrom(player: HTMLMediaElement | null | undefined, seconds: number): void {
  if (!player) return;
  player.currentTime = seconds;
  void player.play().catch(() => undefined);
}
