"use client";

import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from "react";
import { contract } from "@/core/api/contract";
import { sayDuration } from "@/core/items/kinds";
import type { ClipView } from "@/core/views/voiceViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { useClips } from "./clips";
import { PlaySign } from "./signs";

const SPEEDS = [0.75, 1, 1.25, 1.5, 2] as const;
const BACK = 5;
/** Only one voice speaks at a time. */
let speaking: HTMLAudioElement | null = null;

/**
 * A voice with its waveform: play and pause, back five seconds, speed with the pitch kept, anywhere by pointer or arrows.
 * Heard to its end is noted.
 */
export function VoicePlayer({
  clip,
  label,
  onTime,
  small = false,
}: {
  clip: ClipView;
  /** What it is, for readers: "voice note by …". */ label: string;
  onTime?: (seconds: number) => void;
  small?: boolean;
}) {
  const { put, register, ended, row, stopRow } = useClips();
  const audio = useRef<HTMLAudioElement>(null);
  const [at, setAt] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState<number>(1);
  const [failed, setFailed] = useState(false);

  const play = useCallback(() => {
    const player = audio.current;
    if (!player) return;
    if (speaking && speaking !== player) speaking.pause();
    speaking = player;
    void player.play().then(
      () => setFailed(false),
      (error: Error) => error.name !== "AbortError" && setFailed(true),
    );
  }, []);
  useEffect(() => register(clip.id, play), [register, clip.id, play]);
  useEffect(() => {
    if (!audio.current) return;
    audio.current.playbackRate = speed;
    audio.current.preservesPitch = true;
  }, [speed]);
  // While it plays the line moves with the sound, not with the four events a second that players send.
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const move = () => {
      const now = audio.current?.currentTime ?? 0;
      setAt(now);
      onTime?.(now);
      frame = requestAnimationFrame(move);
    };
    frame = requestAnimationFrame(move);
    return () => cancelAnimationFrame(frame);
  }, [playing, onTime]);

  const seek = (seconds: number) => {
    const to = Math.min(clip.seconds, Math.max(0, seconds));
    if (audio.current) audio.current.currentTime = to;
    setAt(to);
    onTime?.(to);
  };
  const toggle = () => {
    if (!playing) return play();
    if (row) stopRow();
    audio.current?.pause();
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -BACK, ArrowRight: BACK, Home: -Infinity, End: Infinity }[event.key];
    if (event.key === " " || event.key === "Enter") toggle();
    else if (by !== undefined) seek(at + by);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    seek(((event.clientX - box.left) / box.width) * clip.seconds);
  };

  const peaks = clip.peaks ?? FLAT;
  const part = clip.seconds > 0 ? at / clip.seconds : 0;
  const button = small ? "min-w-8 max-sm:min-h-11 max-sm:min-w-11" : "min-w-10 max-sm:min-h-11";
  return (
    <div
      className={classes("voice flex items-center gap-1.5", row === clip.id && "bg-tide-wash")}
      role="group"
      aria-label={label}
      data-clip={clip.id}
    >
      <audio
        ref={audio}
        preload="none"
        src={clip.href}
        data-voice
        onPlay={() => setPlaying(true)}
        onPause={() => setPlaying(false)}
        onError={() => setFailed(true)}
        onEnded={() => {
          setPlaying(false);
          setAt(clip.seconds);
          if (!clip.heard)
            void call(contract.clipHeard, { params: { clipId: clip.id } }).then(
              () => put({ ...clip, heard: true }),
              () => undefined,
            );
          ended(clip.id);
        }}
      />
      <Button
        small={small}
        ink="tide"
        className={button}
        onClick={toggle}
        aria-label={playing ? `Pause ${label}` : `Play ${label}`}
      >
        <PlaySign playing={playing} />
      </Button>
      <svg
        viewBox={`0 0 ${peaks.length} 100`}
        preserveAspectRatio="none"
        className="h-8 min-w-0 flex-1 cursor-pointer touch-none text-tide max-sm:h-11"
        role="slider"
        tabIndex={0}
        aria-label={`Where in the ${label}`}
        aria-valuemin={0}
        aria-valuemax={Math.round(clip.seconds)}
        aria-valuenow={Math.round(at)}
        aria-valuetext={`${sayDuration(at)} of ${sayDuration(clip.seconds)}`}
        onKeyDown={onKey}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          point(event);
        }}
        onPointerMove={(event) => event.buttons === 1 && point(event)}
      >
        {peaks.map((height, n) => {
          const tall = Math.max(6, height);
          return (
            <rect
              key={n}
              x={n + 0.1}
              width={0.8}
              y={50 - tall / 2}
              height={tall}
              className={n / peaks.length < part ? "fill-current" : "fill-line-strong"}
            />
          );
        })}
      </svg>
      <span className="shrink-0 text-xs tabular-nums text-soft">
        {playing || at > 0 ? `${sayDuration(at)} / ` : ""}
        {sayDuration(clip.seconds)}
      </span>
      <Button
        small
        ink="quiet"
        className="px-1 max-sm:min-h-11 max-sm:min-w-11"
        onClick={() => seek(at - BACK)}
        aria-label="Back 5 seconds"
        title="Back 5 seconds"
      >
        −5
      </Button>
      <select
        className="no-print min-h-7 w-13 border border-line-strong bg-paper px-0.5 text-xs max-sm:min-h-11"
        aria-label="Speed"
        value={speed}
        onChange={(event) => setSpeed(Number(event.target.value))}
      >
        {SPEEDS.map((s) => (
          <option key={s} value={s}>
            {s}×
          </option>
        ))}
      </select>
      {failed ? (
        <span role="alert" className="text-sm text-ember">
          ▲ It cannot be played just now. Look whether there is a connection.
        </span>
      ) : null}
    </div>
  );
}

/** Until the waveform is made. */
const FLAT: readonly number[] = Array.from({ length: 60 }, () => 8);
