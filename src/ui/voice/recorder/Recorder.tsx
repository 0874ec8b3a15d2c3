"use client";

import { useEffect, useEffectEvent, useRef, useState } from "react";
import { sayDuration } from "@/core/items/kinds";
import type { ClipView } from "@/core/views/voiceViews";
import { sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { VoicePlayer } from "../VoicePlayer";
import { useRecorder, type Recorded } from "./useRecorder";

type Props = {
  kind: "sound" | "film";
  /** What it belongs to: what a killed tab left there is offered again. */ place: string;
  mostSeconds: number;
  onKeep: (recorded: Recorded) => Promise<void>;
  /** Begins as soon as it is shown. */ auto?: boolean;
  small?: boolean;
};

const KEY = "Alt+R";

/** What was recorded as its player wants it: nobody but this page knows it yet. */
const asClip = ({ id, href, seconds }: Recorded): ClipView => ({
  id,
  href,
  seconds,
  state: "as it came",
  peaks: null,
  by: "",
  mine: true,
  shows: "nothing",
  title: "",
  transcript: { state: "none", why: null, part: 0, by: null, words: [] },
  heard: true,
  heardByStudent: null,
  mayChange: false,
  revision: 0,
});

/** Recording in the page: nothing counts until it is kept. Alt+R starts, stops, and starts again. */
export function Recorder({ kind, place, mostSeconds, onKeep, auto = false, small = false }: Props) {
  const r = useRecorder(kind, place, mostSeconds, auto);
  const [keeping, setKeeping] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const preview = useRef<HTMLVideoElement>(null);
  const main = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (preview.current) preview.current.srcObject = r.live;
  }, [r.live]);
  // What can be done next has the focus: stop while it runs, then keep.
  useEffect(() => {
    if (r.state === "recording" || r.state === "recorded") main.current?.focus();
  }, [r.state]);
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (!event.altKey || event.key.toLowerCase() !== "r") return;
    event.preventDefault();
    if (r.state === "recording" || r.state === "paused") r.stop();
    else if (r.state === "ready") void r.start();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, []);

  /** What could not be sent stays here, and on the device. */
  async function keep() {
    setKeeping(true);
    setFault(null);
    try {
      await onKeep(r.recorded!);
      await r.drop();
    } catch (error) {
      setFault(`${sayProblem(error)} The recording is still here: press Keep again.`);
    } finally {
      setKeeping(false);
    }
  }

  const left = mostSeconds - r.seconds;
  const running = r.state === "recording" || r.state === "paused";
  const big = "max-sm:min-h-11";
  return (
    <div
      className={classes("border border-line-strong bg-raised", small ? "p-2" : "p-4")}
      role="group"
      aria-label={kind === "film" ? "Record a film" : "Record sound"}
    >
      {r.live ? (
        <video
          ref={preview}
          muted
          autoPlay
          playsInline
          className="mb-3 max-h-72 w-full bg-ink object-contain"
          aria-label="What the camera sees"
        />
      ) : null}
      <div className={classes("flex flex-wrap items-center", small ? "gap-2" : "gap-3")}>
        {r.state === "ready" || r.state === "asking" ? (
          <Button
            ink="tide"
            small={small}
            className={big}
            disabled={r.state === "asking"}
            onClick={() => void r.start()}
            title={KEY}
          >
            {r.state === "asking" ? "Asking for the microphone …" : "● Record"}
          </Button>
        ) : null}
        {running ? (
          <>
            <Button
              ref={main}
              ink="tide"
              small={small}
              className={big}
              onClick={r.stop}
              title={KEY}
            >
              ■ Stop
            </Button>
            <Button small={small} className={big} onClick={r.state === "paused" ? r.goOn : r.pause}>
              {r.state === "paused" ? "Go on" : "Pause"}
            </Button>
          </>
        ) : null}
        <span
          className={classes("font-serif tabular-nums", small ? "text-base" : "text-xl")}
          role="timer"
          aria-label="Length"
        >
          {sayDuration(r.seconds)}{" "}
          <span className={small ? "text-sm text-soft" : "text-base text-soft"}>
            of {sayDuration(mostSeconds)}
          </span>
        </span>
        {running && left <= 10 ? (
          <strong className="text-ember">▲ {Math.max(0, Math.ceil(left))} s left</strong>
        ) : null}
        <span className="sr-only" role="status">
          {r.state === "recording"
            ? "Recording"
            : r.state === "paused"
              ? "Paused"
              : r.state === "recorded"
                ? "Recorded"
                : ""}
        </span>
        {r.state === "recording" && kind === "sound" ? (
          <meter
            className={classes("h-3", small ? "w-20" : "w-32")}
            min={0}
            max={1}
            low={0.15}
            high={0.95}
            optimum={0.5}
            value={r.level}
            aria-label="How loud"
          />
        ) : null}
      </div>
      {r.recorded ? (
        <div className={classes("grid", small ? "mt-2 gap-2" : "mt-3 gap-3")}>
          {kind === "film" ? (
            <video
              controls
              src={r.recorded.href}
              className="max-h-72 w-full bg-ink"
              aria-label="What was recorded"
            />
          ) : (
            <VoicePlayer clip={asClip(r.recorded)} label="what was recorded" />
          )}
          <div className={classes("flex flex-wrap", small ? "gap-1.5" : "gap-3")}>
            <Button
              ref={main}
              ink="tide"
              small={small}
              className={big}
              disabled={keeping}
              onClick={() => void keep()}
            >
              {keeping ? "Sending …" : small ? "Keep the voice" : "Keep it"}
            </Button>
            <Button
              small={small}
              className={big}
              disabled={keeping}
              onClick={() => void r.drop().then(r.start)}
            >
              Again
            </Button>
            <Button small={small} className={big} disabled={keeping} onClick={() => void r.drop()}>
              Drop it
            </Button>
          </div>
        </div>
      ) : null}
      {(fault ?? r.problem) ? (
        <p role="alert" className="mt-2 text-ember">
          ▲ {fault ?? r.problem}
        </p>
      ) : null}
    </div>
  );
}
