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
import type { ClipView } from "@/core/views/voiceViews";
import { call } from "../client";

type Clips = {
  of(id: string | null | undefined): ClipView | null;
  /** A clip that was just made or changed here. */
  put(clip: ClipView): void;
  /** Each player says how it is started, so that several can be heard in a row. */
  register(id: string, play: () => void): () => void;
  /** Plays clips one after the other; `onEach` is told before each. */
  playRow(ids: readonly string[], onEach: (id: string) => void): void;
  stopRow(): void;
  /** A player has come to its end. */
  ended(id: string): void;
  row: string | null;
  /** How long a voice may be here, in seconds. */
  mostSeconds: number;
};

const Here = createContext<Clips | null>(null);
const ASK_AGAIN_MS = 2000;

/** The voices of a page: those it came with and those made on it. What is still being made is asked for again. */
export function ClipsProvider({
  clips,
  mostSeconds,
  children,
}: {
  clips: readonly ClipView[];
  mostSeconds: number;
  children: ReactNode;
}) {
  const [fresh, setFresh] = useState<ReadonlyMap<string, ClipView>>(new Map());
  const put = useCallback(
    (clip: ClipView) => setFresh((old) => new Map(old).set(clip.id, clip)),
    [],
  );
  const all = useMemo(() => {
    const map = new Map(clips.map((c) => [c.id, c]));
    for (const [id, clip] of fresh)
      if ((map.get(id)?.revision ?? 0) <= clip.revision) map.set(id, clip);
    return map;
  }, [clips, fresh]);

  const making = [...all.values()]
    .filter((c) => c.state === "being made" || c.transcript.state === "being made")
    .map((c) => c.id)
    .join(" ");
  useEffect(() => {
    if (making === "") return;
    const timer = setInterval(() => {
      for (const clipId of making.split(" "))
        void call(contract.clip, { params: { clipId } }).then(put, () => undefined);
    }, ASK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [making, put]);

  const players = useRef(new Map<string, () => void>());
  const waiting = useRef<{ ids: string[]; onEach: (id: string) => void } | null>(null);
  const [row, setRow] = useState<string | null>(null);
  const next = useCallback(() => {
    const id = waiting.current?.ids.shift() ?? null;
    setRow(id);
    if (id === null) return void (waiting.current = null);
    waiting.current?.onEach(id);
    // Its words come into view first.
    setTimeout(() => players.current.get(id)?.(), 350);
  }, []);
  const value = useMemo<Clips>(
    () => ({
      of: (id) => (id ? (all.get(id) ?? null) : null),
      put,
      register(id, play) {
        players.current.set(id, play);
        return () => void players.current.delete(id);
      },
      playRow(ids, onEach) {
        waiting.current = { ids: [...ids], onEach };
        next();
      },
      stopRow() {
        waiting.current = null;
        setRow(null);
      },
      ended: (id) => void (waiting.current && row === id && next()),
      row,
      mostSeconds,
    }),
    [all, put, next, row, mostSeconds],
  );
  return <Here value={value}>{children}</Here>;
}

export function useClips(): Clips {
  const clips = use(Here);
  if (!clips) throw new Error("There is no ClipsProvider around this.");
  return clips;
}
