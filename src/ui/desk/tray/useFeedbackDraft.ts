"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Picks } from "@/core/rubrics/rubric";
import type { DeskPiece } from "@/core/views/views";
import { call, Problem, sayProblem } from "../../client";
import { keep, kept, release } from "../../device";

type Draft = { overall: string; score: string; picks: Picks; reason: string };
export type Theirs = Draft & { revision: number };
export type SavingState =
  { kind: "saved" | "changed" | "saving"; words: string } | { kind: "not saved"; words: string };

const PAUSE = 500;

/**
 * The overall note and the score: kept on the device at once, on the server half a second after the
 * last key. The words about it are always true: "saved" is said only when the server has it.
 */
export function useFeedbackDraft(
  piece: DeskPiece,
  patch: (change: (old: DeskPiece) => DeskPiece) => void,
) {
  const key = `feedback ${piece.id} ${piece.round}`;
  const [draft, setDraft] = useState<Draft>({
    overall: piece.overall,
    score: piece.scoreTyped,
    picks: piece.picks,
    reason: piece.scoreReason,
  });
  const [state, setState] = useState<SavingState>({
    kind: "saved",
    words: piece.revision > 0 ? "Draft saved" : "Nothing written yet",
  });
  const [scoreWords, setScoreWords] = useState(piece.scoreWords);
  const [scoreFault, setScoreFault] = useState<string | null>(null);
  const [theirs, setTheirs] = useState<Theirs | null>(null);
  const revision = useRef(piece.revision);
  const latest = useRef(draft);
  const onServer = useRef(draft);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const queue = useRef<Promise<boolean>>(Promise.resolve(true));

  const send = useCallback(async (): Promise<boolean> => {
    const sending = latest.current;
    setState({ kind: "saving", words: "Saving …" });
    try {
      const saved = await call(contract.saveFeedback, {
        params: { pieceId: piece.id },
        body: sending,
        revision: revision.current,
      });
      revision.current = saved.revision;
      onServer.current = sending;
      setScoreWords(saved.scoreWords);
      setScoreFault(null);
      patch((old) => ({
        ...old,
        picks: sending.picks,
        scoreReason: sending.reason,
        overall: sending.overall,
        scoreTyped: sending.score,
        scoreWords: saved.scoreWords,
        revision: saved.revision,
      }));
      if (latest.current === sending) {
        await release(key);
        setState({ kind: "saved", words: `Draft saved ${clock()}` });
      }
      return true;
    } catch (error) {
      if (error instanceof Problem && error.status === 412) setTheirs(error.theirs as Theirs);
      if (error instanceof Problem && error.fields.score) {
        setScoreFault(error.fields.score);
        setState({
          kind: "not saved",
          words: "Not saved: the score cannot be read. The note is kept on this device.",
        });
      } else setState({ kind: "not saved", words: `Not saved. ${sayProblem(error)}` });
      return false;
    }
  }, [key, patch, piece.id]);

  /** Sends what is waiting now, one after the other; true when the server has everything. */
  const flush = useCallback((): Promise<boolean> => {
    clearTimeout(timer.current);
    timer.current = undefined;
    queue.current = queue.current.then(() => (latest.current === onServer.current ? true : send()));
    return queue.current;
  }, [send]);

  function change(part: Partial<Draft>) {
    const next = { ...latest.current, ...part };
    latest.current = next;
    setDraft(next);
    setState({ kind: "changed", words: "Kept on this device …" });
    void keep(key, next, revision.current);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void (queue.current = queue.current.then(send)), PAUSE);
  }

  // What a killed tab left on the device is put back, as long as the server has not moved on.
  useEffect(() => {
    let gone = false;
    void kept<Draft>(key).then((found) => {
      if (
        gone ||
        !found ||
        (found.value.overall === piece.overall &&
          found.value.score === piece.scoreTyped &&
          JSON.stringify(found.value.picks) === JSON.stringify(piece.picks))
      )
        return;
      if (found.revision === piece.revision) change(found.value);
      else
        setTheirs({
          overall: piece.overall,
          score: piece.scoreTyped,
          picks: piece.picks,
          reason: piece.scoreReason,
          revision: piece.revision,
        });
    });
    return () => {
      gone = true;
    };
    // Once, for the piece this was made for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  // What another teacher changed is taken over, as long as nothing of mine waits; else both are shown when mine is sent.
  useEffect(() => {
    if (piece.revision <= revision.current || latest.current !== onServer.current) return;
    const fresh = {
      overall: piece.overall,
      score: piece.scoreTyped,
      picks: piece.picks,
      reason: piece.scoreReason,
    };
    revision.current = piece.revision;
    latest.current = fresh;
    onServer.current = fresh;
    setDraft(fresh);
    setScoreWords(piece.scoreWords);
  }, [
    piece.overall,
    piece.picks,
    piece.revision,
    piece.scoreReason,
    piece.scoreTyped,
    piece.scoreWords,
  ]);

  // As soon as there is a connection again, what could not be sent goes by itself.
  useEffect(() => {
    const online = () => void flush();
    window.addEventListener("online", online);
    return () => window.removeEventListener("online", online);
  }, [flush]);

  // Leaving the piece sends what is still waiting.
  useEffect(
    () => () => void (timer.current && (clearTimeout(timer.current), queue.current.then(send))),
    [send],
  );

  function settleConflict(choice: "mine" | "theirs") {
    if (!theirs) return;
    revision.current = theirs.revision;
    if (choice === "theirs") {
      latest.current = {
        overall: theirs.overall,
        score: theirs.score,
        picks: theirs.picks,
        reason: theirs.reason,
      };
      onServer.current = latest.current;
      setDraft(latest.current);
      void release(key);
      setState({ kind: "saved", words: "Draft saved" });
    } else change({});
    setTheirs(null);
  }

  return { draft, change, flush, state, scoreWords, scoreFault, theirs, settleConflict };
}

function clock(): string {
  return new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
