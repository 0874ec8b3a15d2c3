"use client";

import { useEffect, useEffectEvent, useRef, useState, type RefObject } from "react";
import { sayDuration } from "@/core/items/kinds";
import type { ClipView } from "@/core/views/voiceViews";
import { sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { VoicePlayer } from "../VoicePlayer";
import { useRecorder, type Recorded, type RecorderState } from "./useRecorder";

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

type Recording = ReturnType<typeof useRecorder>;

const BIG = "max-sm:min-h-11";
/** What is told to those who do not see it. */
const SAID: Partial<Record<RecorderState, string>> = {
  recording: "Recording",
  paused: "Paused",
  recorded: "Recorded",
};
const isRunning = ({ state }: Recording) => state === "recording" || state === "paused";

/** Recording in the page: nothing counts until it is kept. Alt+R starts, stops, and starts again. */
export function Recorder({ kind, place, mostSeconds, onKeep, auto = false, small = false }: Props) {
  const r = useRecorder(kind, place, mostSeconds, auto);
  const main = useRef<HTMLButtonElement>(null);
  const { keeping, fault, keep } = useKeep(r, onKeep);
  useRecorderKey(r);
  // What can be done next has the focus: stop while it runs, then keep.
  useEffect(() => {
    if (r.state === "recording" || r.state === "recorded") main.current?.focus();
  }, [r.state]);
  return (
    <div
      className={classes("border border-line-strong bg-raised", small ? "p-2" : "p-4")}
      role="group"
      aria-label={kind === "film" ? "Record a film" : "Record sound"}
    >
      {r.live ? <Live stream={r.live} /> : null}
      <div className={classes("flex flex-wrap items-center", small ? "gap-2" : "gap-3")}>
        <StartAndStop r={r} main={main} small={small} />
        <Timer r={r} mostSeconds={mostSeconds} small={small} />
        <span className="sr-only" role="status">
          {SAID[r.state] ?? ""}
        </span>
        <Loudness shown={r.state === "recording" && kind === "sound"} r={r} small={small} />
      </div>
      {r.recorded ? (
        <div className={classes("grid", small ? "mt-2 gap-2" : "mt-3 gap-3")}>
          <Preview kind={kind} recorded={r.recorded} />
          <KeepOrDrop r={r} main={main} small={small} keeping={keeping} onKeep={keep} />
        </div>
      ) : null}
      <Fault words={fault ?? r.problem} />
    </div>
  );
}

const Fault = ({ words }: { words: string | null }) =>
  words ? (
    <p role="alert" className="mt-2 text-ember">
      ▲ {words}
    </p>
  ) : null;

function useRecorderKey(r: Recording) {
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (!event.altKey || event.key.toLowerCase() !== "r") return;
    event.preventDefault();
    if (isRunning(r)) r.stop();
    else if (r.state === "ready") void r.start();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, []);
}

/** What could not be sent stays here, and on the device. */
function useKeep(r: Recording, onKeep: Props["onKeep"]) {
  const [keeping, setKeeping] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  async function keep() {
    if (!r.recorded) return;
    setKeeping(true);
    setFault(null);
    try {
      await onKeep(r.recorded);
      await r.drop();
    } catch (error) {
      setFault(`${sayProblem(error)} The recording is still here: press Keep again.`);
    } finally {
      setKeeping(false);
    }
  }
  return { keeping, fault, keep };
}

function Live({ stream }: { stream: MediaStream }) {
  const preview = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (preview.current) preview.current.srcObject = stream;
  }, [stream]);
  return (
    <video
      ref={preview}
      muted
      autoPlay
      playsInline
      className="mb-3 max-h-72 w-full bg-ink object-contain"
      aria-label="What the camera sees"
    />
  );
}

type PartProps = { r: Recording; main: RefObject<HTMLButtonElement | null>; small: boolean };

function StartAndStop({ r, main, small }: PartProps) {
  if (r.state === "ready" || r.state === "asking")
    return (
      <Button
        ink="tide"
        small={small}
        className={BIG}
        disabled={r.state === "asking"}
        onClick={() => void r.start()}
        title={KEY}
      >
        {r.state === "asking" ? "Asking for the microphone …" : "● Record"}
      </Button>
    );
  if (!isRunning(r)) return null;
  return (
    <>
      <Button ref={main} ink="tide" small={small} className={BIG} onClick={r.stop} title={KEY}>
        ■ Stop
      </Button>
      <Button small={small} className={BIG} onClick={r.state === "paused" ? r.goOn : r.pause}>
        {r.state === "paused" ? "Go on" : "Pause"}
      </Button>
    </>
  );
}

function Timer(props: { r: Recording; mostSeconds: number; small: boolean }) {
  const { r, mostSeconds, small } = props;
  const left = mostSeconds - r.seconds;
  return (
    <>
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
      {isRunning(r) && left <= 10 ? (
        <strong className="text-ember">▲ {Math.max(0, Math.ceil(left))} s left</strong>
      ) : null}
    </>
  );
}

const Loudness = (props: { shown: boolean; r: Recording; small: boolean }) =>
  props.shown ? (
    <meter
      className={classes("h-3", props.small ? "w-20" : "w-32")}
      min={0}
      max={1}
      low={0.15}
      high={0.95}
      optimum={0.5}
      value={props.r.level}
      aria-label="How loud"
    />
  ) : null;

const Preview = ({ kind, recorded }: { kind: Props["kind"]; recorded: Recorded }) =>
  kind === "film" ? (
    <video
      controls
      src={recorded.href}
      className="max-h-72 w-full bg-ink"
      aria-label="What was recorded"
    />
  ) : (
    <VoicePlayer clip={asClip(recorded)} label="what was recorded" />
  );

function KeepOrDrop(props: PartProps & { keeping: boolean; onKeep: () => Promise<void> }) {
  const { r, main, small, keeping, onKeep } = props;
  const words = small ? "Keep the voice" : "Keep it";
  const button = { small, className: BIG, disabled: keeping };
  return (
    <div className={classes("flex flex-wrap", small ? "gap-1.5" : "gap-3")}>
      <Button ref={main} ink="tide" {...button} onClick={() => void onKeep()}>
        {keeping ? "Sending …" : words}
      </Button>
      <Button {...button} onClick={() => void r.drop().then(r.start)}>
        Again
      </Button>
      <Button {...button} onClick={() => void r.drop()}>
        Drop it
      </Button>
    </div>
  );
}
