"use client";

import {
  createContext,
  use,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from "react";
import { contract } from "@/core/api/contract";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";

type Aloud = {
  on: boolean;
  set: (on: boolean) => void;
  /** What is read just now. */ reading: string | null;
  read: (text: string) => void;
  problem: string | null;
};
const Here = createContext<Aloud | null>(null);

/** Reading aloud for a page: on or off for the person, and one text at a time. */
export function AloudProvider({ first, children }: { first: boolean; children: ReactNode }) {
  const [on, setOn] = useState(first);
  const [reading, setReading] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const player = useRef<HTMLAudioElement | null>(null);
  const stop = useCallback(() => {
    if (!player.current) return;
    player.current.pause();
    URL.revokeObjectURL(player.current.src);
    player.current = null;
    setReading(null);
  }, []);
  useEffect(() => stop, [stop]);

  const value = useMemo<Aloud>(
    () => ({
      on,
      reading,
      problem,
      set(next) {
        setOn(next);
        if (!next) stop();
        void call(contract.setSetting, {
          body: { name: "aloud", value: next ? "on" : "off" },
        }).catch(() => undefined);
      },
      read(text) {
        const again = reading === text;
        stop();
        if (again) return;
        setReading(text);
        setProblem(null);
        void spoken(text).then(
          (href) => {
            const audio = new Audio(href);
            audio.onended = stop;
            player.current = audio;
            return audio.play();
          },
          (error: unknown) => {
            setReading(null);
            setProblem(sayProblem(error));
          },
        );
      },
    }),
    [on, reading, problem, stop],
  );
  return <Here value={value}>{children}</Here>;
}

/** The text goes in the body of the request: nothing of it stands in an address. */
async function spoken(text: string): Promise<string> {
  // A longer text is spoken in the background: asked again until it is there.
  for (let tries = 0; tries < 60; tries += 1) {
    const answer = await askFor(text);
    if (answer.status !== 202) return URL.createObjectURL(await answer.blob());
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
  throw new Error("It takes longer than a minute to be read. Try a shorter part of it.");
}

async function askFor(text: string): Promise<Response> {
  const answer = await fetch(contract.readAloud.path, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ text: text.slice(0, 6000) }),
    credentials: "same-origin",
  });
  if (!answer.ok)
    throw new Error(((await answer.json().catch(() => ({}))) as { title?: string }).title);
  return answer;
}

/** Reads a text aloud, where the reader has that on. */
export function Hear({ text, words = "Hear it" }: { text: string; words?: string }) {
  const aloud = use(Here);
  if (!aloud?.on || text.trim() === "") return null;
  const now = aloud.reading === text;
  return (
    <Button
      small
      ink="quiet"
      className="-ml-2"
      aria-pressed={now}
      onClick={(event) => (event.stopPropagation(), aloud.read(text))}
    >
      {now ? "■ Stop" : `▷ ${words}`}
    </Button>
  );
}

/** Switches reading aloud on and off, for this person wherever they sign in. */
export function AloudSwitch() {
  const aloud = use(Here);
  if (!aloud) return null;
  return (
    <span>
      <label className="no-print flex min-h-9 items-center gap-2 text-sm max-sm:min-h-11">
        <input
          type="checkbox"
          className="size-5 accent-tide"
          checked={aloud.on}
          onChange={(event) => aloud.set(event.target.checked)}
        />
        Let me hear what is written
      </label>
      {aloud.problem ? (
        <span role="alert" className="text-sm text-ember">
          ▲ {aloud.problem}
        </span>
      ) : null}
    </span>
  );
}
