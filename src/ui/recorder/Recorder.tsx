"use client";

import { useEffect, useRef } from "react";
import { sayDuration } from "@/core/items/kinds";
import { Button } from "../kit/Button";
import { useRecorder, type Recorded } from "./useRecorder";

/** Recording in the page: nothing counts until it is kept. */
export function Recorder({ kind, place, mostSeconds, onKeep }: { kind: "sound" | "film"; place: string; mostSeconds: number; onKeep: (recorded: Recorded) => Promise<void> }) {
  const r = useRecorder(kind, place, mostSeconds);
  const preview = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (preview.current) preview.current.srcObject = r.live;
  }, [r.live]);
  const left = mostSeconds - r.seconds;
  const running = r.state === "recording" || r.state === "paused";
  const big = "max-sm:min-h-11";
  return (
    <div className="border border-line-strong bg-raised p-4" role="group" aria-label={kind === "film" ? "Record a film" : "Record sound"}>
      {r.live ? <video ref={preview} muted autoPlay playsInline className="mb-3 max-h-72 w-full bg-ink object-contain" aria-label="What the camera sees" /> : null}
      <div className="flex flex-wrap items-center gap-3">
        {r.state === "ready" || r.state === "asking" ? (
          <Button ink="tide" className={big} disabled={r.state === "asking"} onClick={() => void r.start()}>
            {r.state === "asking" ? "Asking for the microphone …" : "● Record"}
          </Button>
        ) : null}
        {running ? (
          <>
            <Button ink="tide" className={big} onClick={r.stop}>
              ■ Stop
            </Button>
            <Button className={big} onClick={r.state === "paused" ? r.goOn : r.pause}>
              {r.state === "paused" ? "Go on" : "Pause"}
            </Button>
          </>
        ) : null}
        <span className="font-serif text-xl" role="timer" aria-label="Length">
          {sayDuration(r.seconds)} <span className="text-base text-soft">of {sayDuration(mostSeconds)}</span>
        </span>
        {running && left <= 10 ? <strong className="text-ember">▲ {Math.max(0, Math.ceil(left))} s left</strong> : null}
        <span className="sr-only" role="status">
          {r.state === "recording" ? "Recording" : r.state === "paused" ? "Paused" : r.state === "recorded" ? "Recorded" : ""}
        </span>
        {r.state === "recording" && kind === "sound" ? <meter className="h-3 w-32" min={0} max={1} low={0.15} high={0.95} optimum={0.5} value={r.level} aria-label="How loud" /> : null}
      </div>
      {r.recorded ? (
        <div className="mt-3 grid gap-3">
          {kind === "film" ? <video controls src={r.recorded.href} className="max-h-72 w-full bg-ink" aria-label="What was recorded" /> : <audio controls src={r.recorded.href} className="w-full" aria-label="What was recorded" />}
          <div className="flex flex-wrap gap-3">
            <Button ink="tide" className={big} onClick={() => void onKeep(r.recorded!).then(r.drop)}>
              Keep it
            </Button>
            <Button className={big} onClick={() => void r.drop().then(r.start)}>
              Again
            </Button>
            <Button className={big} onClick={() => void r.drop()}>
              Drop it
            </Button>
          </div>
        </div>
      ) : null}
      {r.problem ? (
        <p role="alert" className="mt-2 text-ember">
          ▲ {r.problem}
        </p>
      ) : null}
    </div>
  );
}
