"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Answers } from "@/core/questions/question";
import { canonicalJson } from "@/core/text/canonical";
import type { RichDoc } from "@/core/text/richDoc";
import type { WorkState } from "@/core/views/workViews";
import { call, Problem, Unreachable, sayProblem } from "../client";
import { keep, kept, release } from "../device";

export type Work = { doc: RichDoc; answers: Answers };
export type Saving = { ink: "soft" | "ember" | "moss"; words: string };
export type OtherCopy = Work & { revision: number; saved: string | null };
/** `dirty`: the server does not have it yet. What it has stays here too, for a page that is opened without a connection. */
type Left = { work: Work; dirty: boolean };

const PAUSE = 900;
const RETRY = 5000;
export const workKey = (pieceId: string) => `work ${pieceId}`;

/**
 * Keeps what is written and answered: on the device at once, on the server about a second later, again and again
 * until it is there. The words say only what is true at that moment. When another window or device has saved in
 * between, nothing is overwritten: both copies are shown.
 */
export function useSaving(pieceId: string, initial: WorkState) {
  const key = workKey(pieceId);
  const [saving, setSaving] = useState<Saving>({
    ink: "soft",
    words: initial.saved ? `Saved ${initial.saved}` : "",
  });
  const [other, setOther] = useState<OtherCopy | null>(null);
  const [found, setFound] = useState<Work | null>(null);
  const revision = useRef(initial.revision);
  const latest = useRef<Work>({ doc: initial.doc, answers: initial.answers });
  const dirty = useRef(false);
  const stopped = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const chain = useRef<Promise<unknown>>(Promise.resolve());

  const send = useCallback(async (): Promise<void> => {
    if (!dirty.current || stopped.current) return;
    const work = latest.current;
    setSaving({ ink: "soft", words: "Saving …" });
    try {
      const answer = await call(contract.saveWork, {
        params: { pieceId },
        body: work,
        revision: revision.current,
      });
      revision.current = answer.revision;
      if (latest.current === work) {
        dirty.current = false;
        await keep<Left>(key, { work, dirty: false }, answer.revision);
        setSaving({ ink: "moss", words: `Saved ${answer.saved.replace("today ", "")}` });
      }
    } catch (error) {
      if (error instanceof Problem && error.status === 412) {
        stopped.current = true;
        setOther(error.theirs as OtherCopy);
        setSaving({
          ink: "ember",
          words: "Not saved: this piece was changed in another window. Kept on this device.",
        });
      } else if (
        error instanceof Unreachable ||
        (error instanceof Problem && error.status >= 500)
      ) {
        setSaving({ ink: "ember", words: "Not saved: no connection. Kept on this device." });
        clearTimeout(timer.current);
        timer.current = setTimeout(() => enqueue(), RETRY);
      } else setSaving({ ink: "ember", words: `Not saved. ${sayProblem(error)}` });
    }
    // `enqueue` only passes through here to the timer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, pieceId]);

  /** Savings go one after the other, so that none overtakes another. */
  const enqueue = useCallback(() => (chain.current = chain.current.then(send)), [send]);

  const changed = useCallback(
    (part: Partial<Work>) => {
      latest.current = { ...latest.current, ...part };
      dirty.current = true;
      setSaving({ ink: "soft", words: "Keeping on this device …" });
      void keep<Left>(key, { work: latest.current, dirty: true }, revision.current).then(
        (ok) =>
          ok ||
          setSaving({
            ink: "soft",
            words: "This browser keeps nothing on the device; saving on the server …",
          }),
      );
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void enqueue(), PAUSE);
    },
    [enqueue, key],
  );

  useEffect(() => {
    const again = () => void enqueue();
    window.addEventListener("online", again);
    return () => {
      window.removeEventListener("online", again);
      clearTimeout(timer.current);
      void enqueue();
    };
  }, [enqueue]);

  // What a closed tab or a dead network left on the device is put back, or shown beside what is newer. The page
  // itself may be an old one, kept for times without a connection: then the device knows better.
  useEffect(() => {
    void kept<Left>(key).then((left) => {
      if (!left?.value.work) return;
      const { work, dirty: unsaved } = left.value;
      const same =
        canonicalJson(work) === canonicalJson({ doc: initial.doc, answers: initial.answers });
      if (same || (!unsaved && left.revision <= initial.revision)) return;
      latest.current = work;
      setFound(work);
      if (left.revision >= initial.revision) {
        revision.current = left.revision;
        dirty.current = unsaved;
        if (unsaved) void enqueue();
      } else {
        dirty.current = true;
        stopped.current = true;
        setOther(initial);
        setSaving({
          ink: "ember",
          words:
            "This device has a copy that is not on the server, and the server has a newer one.",
        });
      }
    });
    // Once, for the copy this page was loaded with.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  /** Goes on with one of two copies; the other is not touched until the next saving. */
  const choose = useCallback(
    (choice: "mine" | "theirs"): Work => {
      const chosen =
        choice === "mine" || !other
          ? latest.current
          : { doc: other.doc, answers: other.answers ?? {} };
      if (other) revision.current = other.revision;
      latest.current = chosen;
      stopped.current = false;
      setOther(null);
      if (choice === "mine") {
        dirty.current = true;
        void enqueue();
      } else {
        dirty.current = false;
        void release(key);
        setSaving({ ink: "moss", words: other?.saved ? `Saved ${other.saved}` : "Saved" });
      }
      return chosen;
    },
    [enqueue, key, other],
  );

  /** What to hand in, once nothing is under way any more. */
  const settled = useCallback(async () => {
    clearTimeout(timer.current);
    await chain.current;
    return { work: latest.current, revision: revision.current, stopped: stopped.current };
  }, []);

  /** Another act stored the work (a checkpoint): this is its revision. */
  const storedAs = useCallback(
    (next: number, saved: string) => {
      revision.current = next;
      dirty.current = false;
      void keep<Left>(key, { work: latest.current, dirty: false }, next);
      setSaving({ ink: "moss", words: `Saved ${saved.replace("today ", "")}` });
    },
    [key],
  );

  /** Two copies came to light by another act. */
  const conflict = useCallback((theirs: OtherCopy) => {
    stopped.current = true;
    setOther(theirs);
  }, []);

  const handedIn = useCallback(() => {
    dirty.current = false;
    revision.current += 1;
    void release(key);
  }, [key]);

  return { saving, other, found, latest, changed, choose, settled, storedAs, conflict, handedIn };
}
