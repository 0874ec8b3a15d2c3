"use client";

import { useCallback, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Answers } from "@/core/questions/question";
import { canonicalJson } from "@/core/text/canonical";
import type { RichDoc } from "@/core/text/richDoc";
import type { WorkState } from "@/core/views/workViews";
import { call, sayProblem } from "../client";
import type { KeeperState, Keeping } from "../keeping/Keeper";
import { useKeeper } from "../keeping/useKeeper";

export type Work = { doc: RichDoc; answers: Answers };
export type Saving = { ink: "soft" | "ember" | "moss"; words: string };
export type OtherCopy = Work & { revision: number; saved: string | null };
/** `dirty`: the server does not have it yet. */
type Left = { work: Work; dirty: boolean };
type Saved = { revision: number; saved: string };

const PAUSE_MS = 900;
export const workKey = (pieceId: string) => `work ${pieceId}`;

const keepingOf = (
  pieceId: string,
  onSent: (answer: Saved) => void,
  onOther: (saved: string | null) => void,
): Keeping<Work, Saved> => ({
  key: workKey(pieceId),
  pauseMs: PAUSE_MS,
  send: (body, revision) => call(contract.saveWork, { params: { pieceId }, body, revision }),
  isSame: (a, b) => canonicalJson(a) === canonicalJson(b),
  theirs({ theirs }) {
    const other = theirs as OtherCopy;
    onOther(other.saved);
    return copyOf(other);
  },
  onDevice: {
    write: (work, dirty): Left => ({ work, dirty }),
    read: (left: Left) => (left?.work ? { value: left.work, unsent: left.dirty } : null),
  },
  // What the server has stays here too, for a page that is opened without a connection.
  staysOnDevice: true,
  onSent,
});

const copyOf = ({ doc, answers, revision }: OtherCopy) => ({
  value: { doc, answers: answers ?? {} },
  revision,
});

/**
 * Keeps what is written and answered: on the device at once, on the server about a second later, again and again
 * until it is there. When another window or device has saved in between, nothing is overwritten: both are shown.
 */
export function useSaving(pieceId: string, initial: WorkState) {
  const [saved, setSaved] = useState(initial.saved);
  /** When the other copy was saved, where there is one. */
  const [otherSaved, setOtherSaved] = useState(initial.saved);
  const { doc, answers, revision } = initial;
  const { keeper, state, found } = useKeeper(
    () => keepingOf(pieceId, (answer) => setSaved(answer.saved), setOtherSaved),
    { value: { doc, answers }, revision },
  );
  const changed = useCallback(
    (part: Partial<Work>) => keeper.change((old) => ({ ...old, ...part })),
    [keeper],
  );
  /** Another act stored the work (a checkpoint): this is its revision. */
  const storedAs = useCallback(
    (next: number, when: string) => {
      setSaved(when);
      keeper.storedAs(next);
    },
    [keeper],
  );
  return {
    saving: saySaving(state, saved),
    other: state.theirs && {
      ...state.theirs.value,
      revision: state.theirs.revision,
      saved: otherSaved,
    },
    found,
    changed,
    choose: (which: "mine" | "theirs") => keeper.choose(which),
    /** What to hand in, once nothing is under way any more. */
    async settled() {
      const now = await keeper.settled();
      return { work: now.value, revision: now.revision, stopped: now.theirs !== null };
    },
    storedAs,
    /** Two copies came to light by another act. */
    conflict(theirs: OtherCopy) {
      setOtherSaved(theirs.saved);
      keeper.conflictWith(copyOf(theirs));
    },
    handedIn: () => keeper.handedOver(),
  };
}

/** Where the work is, in words that are true at this moment. */
function saySaving(state: KeeperState<Work>, saved: string | null): Saving {
  switch (state.stage) {
    case "saved":
      if (!saved) return { ink: "soft", words: "" };
      if (!state.sentAt) return { ink: "soft", words: `Saved ${saved}` };
      return { ink: "moss", words: `Saved ${saved.replace("today ", "")}` };
    case "changed":
      return state.deviceKeeps
        ? { ink: "soft", words: "Keeping on this device …" }
        : {
            ink: "soft",
            words: "This browser keeps nothing on the device; saving on the server …",
          };
    case "sending":
      return { ink: "soft", words: "Saving …" };
    case "waiting":
      return { ink: "ember", words: "Not saved: no connection. Kept on this device." };
    case "conflict":
      return {
        ink: "ember",
        words: "Not saved: this piece was changed in another window. Kept on this device.",
      };
    case "refused":
      return { ink: "ember", words: `Not saved. ${sayProblem(state.problem)}` };
  }
}
