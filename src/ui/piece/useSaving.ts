"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { canonicalJson } from "@/core/text/canonical";
import type { RichDoc } from "@/core/text/richDoc";
import { call, Problem, Unreachable, sayProblem } from "../client";
import { keep, kept, release } from "../device";

export type Saving = { ink: "soft" | "ember" | "moss"; words: string };
export type OtherCopy = { doc: RichDoc; revision: number; saved: string | null };

const PAUSE = 900;
const RETRY = 5000;

/**
 * Keeps what is written: on the device at once, on the server about a second later, again and again
 * until it is there. The words say only what is true at that moment. When another window or device
 * has saved in between, nothing is overwritten: both copies are shown.
 */
export function useSaving(pieceId: string, initial: { doc: RichDoc; revision: number; saved: string | null }, canWrite: boolean) {
  const key = `work ${pieceId}`;
  const [saving, setSaving] = useState<Saving>({ ink: "soft", words: initial.saved ? `Saved ${initial.saved}` : "" });
  const [other, setOther] = useState<OtherCopy | null>(null);
  const [found, setFound] = useState<RichDoc | null>(null);
  const revision = useRef(initial.revision);
  const latest = useRef<RichDoc>(initial.doc);
  const dirty = useRef(false);
  const stopped = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const chain = useRef<Promise<unknown>>(Promise.resolve());

  const send = useCallback(async (): Promise<void> => {
    if (!dirty.current || stopped.current) return;
    const doc = latest.current;
    setSaving({ ink: "soft", words: "Saving …" });
    try {
      const answer = await call(contract.saveWork, { params: { pieceId }, body: { doc }, revision: revision.current });
      revision.current = answer.revision;
      if (latest.current === doc) {
        dirty.current = false;
        await release(key);
        setSaving({ ink: "moss", words: `Saved ${answer.saved.replace("today ", "")}` });
      }
    } catch (error) {
      if (error instanceof Problem && error.status === 412) {
        stopped.current = true;
        setOther(error.theirs as OtherCopy);
        setSaving({ ink: "ember", words: "Not saved: this piece was changed in another window. Kept on this device." });
      } else if (error instanceof Unreachable || (error instanceof Problem && error.status >= 500)) {
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
    (doc: RichDoc) => {
      latest.current = doc;
      dirty.current = true;
      setSaving({ ink: "soft", words: "Keeping on this device …" });
      void keep(key, doc, revision.current).then((ok) => ok || setSaving({ ink: "soft", words: "This browser keeps nothing on the device; saving on the server …" }));
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

  // What a closed tab or a dead network left on the device is put back, or shown beside what is newer.
  useEffect(() => {
    if (!canWrite) return;
    void kept<RichDoc>(key).then((left) => {
      if (!left) return;
      if (canonicalJson(left.value) === canonicalJson(initial.doc)) return void release(key);
      latest.current = left.value;
      dirty.current = true;
      if (left.revision === initial.revision) {
        setFound(left.value);
        void enqueue();
      } else {
        stopped.current = true;
        setFound(left.value);
        setOther(initial);
        setSaving({ ink: "ember", words: "This device has a copy that is not on the server, and the server has a newer one." });
      }
    });
    // Once, for the copy this page was loaded with.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  /** Goes on with one of two copies; the other is not touched until the next saving. */
  const choose = useCallback(
    (choice: "mine" | "theirs"): RichDoc => {
      const chosen = choice === "mine" || !other ? latest.current : other.doc;
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
    return { doc: latest.current, revision: revision.current, stopped: stopped.current };
  }, []);

  const handedIn = useCallback(() => {
    dirty.current = false;
    revision.current += 1;
    void release(key);
  }, [key]);

  return { saving, other, found, changed, choose, settled, handedIn };
}
