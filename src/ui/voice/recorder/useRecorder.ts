"use client";

import { useCallback, useEffect, useEffectEvent, useRef, useState } from "react";
import { dropRecording, keepChunk, leftRecordings, takeMicrophone } from "./chunks";

export type RecorderState = "ready" | "asking" | "recording" | "paused" | "recorded";
export type Recorded = { id: string; blob: Blob; href: string; seconds: number };

const SLICE_MS = 1000;

/** Formats in the order in which they are wanted; the first the browser can write is taken. */
const FORMATS = {
  sound: ["audio/webm;codecs=opus", "audio/mp4", "audio/webm"],
  film: ["video/webm;codecs=vp8,opus", "video/mp4", "video/webm"],
} as const;

/**
 * Records sound or film in the page: pause, go on, stop by itself at the limit, listen, again. Each second of it is on the
 * device as soon as it is made.
 *
 * @param place what it belongs to; a recording left there by a killed tab is found again
 * @param auto begins at once, unless such a recording is found
 */
export function useRecorder(
  kind: "sound" | "film",
  place: string,
  mostSeconds: number,
  auto = false,
) {
  const [state, setState] = useState<RecorderState>("ready");
  const [seconds, setSeconds] = useState(0);
  const [level, setLevel] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [recorded, setRecorded] = useState<Recorded | null>(null);
  const [live, setLive] = useState<MediaStream | null>(null);
  const recorder = useRef<MediaRecorder | null>(null);
  const clock = useRef({ before: 0, since: 0 });
  const ending = useRef<(() => void) | null>(null);

  const running = useCallback(
    () =>
      clock.current.before +
      (clock.current.since ? (performance.now() - clock.current.since) / 1000 : 0),
    [],
  );

  const start = useCallback(async () => {
    setProblem(null);
    setState("asking");
    const id = crypto.randomUUID();
    const giveBack = await takeMicrophone(id);
    if (!giveBack) {
      setState("ready");
      return setProblem(
        "Another tab of this browser is recording just now. Stop it there, then press Record again.",
      );
    }
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia(
        kind === "film"
          ? {
              audio: true,
              video: { width: { ideal: 640 }, height: { ideal: 480 }, facingMode: "environment" },
            }
          : { audio: true },
      );
    } catch (error) {
      giveBack();
      setState("ready");
      setProblem(sayFault(error, kind));
      return;
    }
    const type = FORMATS[kind].find((t) => MediaRecorder.isTypeSupported(t)) ?? "";
    const chunks: Blob[] = [];
    let count = 0;
    const made = new MediaRecorder(stream, {
      ...(type ? { mimeType: type } : {}),
      audioBitsPerSecond: 48_000,
      ...(kind === "film" ? { videoBitsPerSecond: 900_000 } : {}),
    });
    const stopMeter = kind === "sound" ? meter(stream, setLevel) : () => {};
    const tick = setInterval(() => {
      const now = running();
      setSeconds(now);
      if (now >= mostSeconds && made.state !== "inactive") made.stop();
    }, 200);
    const release = () => {
      clearInterval(tick);
      stopMeter();
      stream.getTracks().forEach((track) => track.stop());
      giveBack();
      setLive(null);
      setLevel(0);
      ending.current = null;
    };
    made.ondataavailable = (event) => {
      if (event.data.size === 0) return;
      chunks.push(event.data);
      void keepChunk(place, id, count++, { bytes: event.data, type, seconds: running() }).then(
        (ok) =>
          ok ||
          setProblem(
            "This device has no room to keep the recording: leave the page open until it is sent.",
          ),
      );
    };
    made.onstop = () => {
      const length = running();
      clock.current = { before: 0, since: 0 };
      release();
      const blob = new Blob(chunks, { type: type || chunks[0]?.type });
      if (blob.size === 0 || length < 0.3) {
        void dropRecording(place, id);
        setState("ready");
        setSeconds(0);
        setProblem("Nothing was recorded. Press Record and speak, then stop.");
        return;
      }
      setSeconds(length);
      setRecorded({ id, blob, href: URL.createObjectURL(blob), seconds: length });
      setState("recorded");
      if (length >= mostSeconds)
        setProblem("It stopped at the limit. What was recorded until then is here.");
    };
    // Unplugged in the middle: what there is, is kept.
    stream
      .getTracks()
      .forEach((track) =>
        track.addEventListener(
          "ended",
          () =>
            made.state !== "inactive" &&
            (setProblem(
              `The ${kind === "film" ? "camera or microphone" : "microphone"} was taken away. What was recorded until then is here.`,
            ),
            made.stop()),
        ),
      );
    recorder.current = made;
    ending.current = () => made.state !== "inactive" && made.stop();
    clock.current = { before: 0, since: performance.now() };
    if (kind === "film") setLive(stream);
    made.start(SLICE_MS);
    setSeconds(0);
    setState("recording");
  }, [kind, mostSeconds, place, running]);

  const begin = useEffectEvent(() => start());
  // A recording that a closed page left behind is offered as if it had just been made.
  useEffect(() => {
    let gone = false;
    void leftRecordings(place).then(([left]) => {
      if (gone) return;
      if (!left) return auto ? void begin() : undefined;
      setRecorded({
        id: left.id,
        blob: left.blob,
        href: URL.createObjectURL(left.blob),
        seconds: left.seconds,
      });
      setSeconds(left.seconds);
      setState("recorded");
      setProblem("This recording was left on this device. Listen to it, and keep or drop it.");
    });
    return () => {
      gone = true;
      ending.current?.();
    };
  }, [place, auto]);

  const pause = useCallback(() => {
    recorder.current?.pause();
    clock.current = { before: running(), since: 0 };
    setState("paused");
  }, [running]);
  const goOn = useCallback(() => {
    recorder.current?.resume();
    clock.current = { ...clock.current, since: performance.now() };
    setState("recording");
  }, []);
  const stop = useCallback(() => recorder.current?.stop(), []);

  /** Throws it away; or, once it is on its way to the server, lets go of the copy here. */
  const drop = useCallback(async () => {
    if (recorded) {
      URL.revokeObjectURL(recorded.href);
      await dropRecording(place, recorded.id);
    }
    setRecorded(null);
    setSeconds(0);
    setProblem(null);
    setState("ready");
  }, [place, recorded]);

  return { state, seconds, level, problem, recorded, live, start, pause, goOn, stop, drop };
}

function sayFault(error: unknown, kind: "sound" | "film"): string {
  const what = kind === "film" ? "camera and microphone" : "microphone";
  const name = error instanceof DOMException ? error.name : "";
  if (name === "NotAllowedError")
    return `The browser does not let this page use the ${what}. Allow it at the sign beside the address, then press Record again. You can also choose a file.`;
  if (name === "NotFoundError" || name === "OverconstrainedError")
    return `No ${what} was found on this device. Plug one in and press Record again, or choose a file.`;
  if (name === "NotReadableError")
    return `Another program is using the ${what}. Close it there, then press Record again.`;
  return `This browser cannot record ${kind === "film" ? "film" : "sound"} here. Choose a file instead.`;
}

/** How loud it is just now, from 0 to 1, some ten times a second. */
function meter(stream: MediaStream, set: (level: number) => void): () => void {
  const context = new AudioContext();
  const analyser = context.createAnalyser();
  analyser.fftSize = 1024;
  context.createMediaStreamSource(stream).connect(analyser);
  const samples = new Float32Array(analyser.fftSize);
  const timer = setInterval(() => {
    analyser.getFloatTimeDomainData(samples);
    const rms = Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);
    // From −50 dB (quiet room) to 0 dB.
    set(Math.min(1, Math.max(0, 1 + (20 * Math.log10(rms || 1e-6)) / 50)));
  }, 100);
  return () => {
    clearInterval(timer);
    void context.close();
  };
}
