"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Plan } from "@/core/handouts/plan";
import { canonicalJson } from "@/core/text/canonical";
import { call, sayProblem } from "../../client";
import { Keeper, type KeeperState } from "../../keeping/Keeper";
import { useObserved } from "../../keeping/useObserved";
import { browserWorld } from "../../keeping/world";
import { sayClock } from "../../time";

export type DraftState = { id: string; revision: number; kept: boolean };
/** The plan, and whether it is kept as a template beside being a draft. */
type Draft = { plan: Plan; kept: boolean };
type OnDevice = { plan: Plan; draftId: string | null };

const KEY = "hand-out draft";
const PAUSE_MS = 900;

/** Keeps the plan as a draft: begun on the server with the first change, under the id it then has. */
function keeperOf(first: Plan, draft: DraftState | null) {
  let id = draft?.id ?? null;
  // One id for all attempts: a beginning whose answer was lost makes no second draft.
  const begun = crypto.randomUUID();
  async function send({ plan, kept }: Draft, revision: number): Promise<{ revision: number }> {
    if (id)
      return call(contract.saveDraft, { params: { draftId: id }, body: { plan, kept }, revision });
    const answer = await call(contract.beginDraft, { body: { id: begun, plan, kept } });
    id = begun;
    window.history.replaceState(null, "", `/hand-out?draft=${begun}`);
    return answer;
  }
  const keeper = new Keeper<Draft, { revision: number }>(
    {
      key: KEY,
      pauseMs: PAUSE_MS,
      send,
      isSame: (a, b) => canonicalJson(a) === canonicalJson(b),
      theirs: ({ theirs }) => {
        const { revision, ...value } = theirs as Draft & { revision: number };
        return { value, revision };
      },
      onDevice: {
        write: ({ plan }): OnDevice => ({ plan, draftId: id }),
        read: ({ plan }: OnDevice) => ({ value: { plan, kept: false }, unsent: true }),
      },
    },
    { value: { plan: first, kept: draft?.kept ?? false }, revision: draft?.revision ?? 0 },
    browserWorld,
  );
  return { keeper, draftId: () => id };
}

/**
 * The plan on the page, kept as a draft a moment after every change: on the device at once, on the server soon after,
 * again until it is there. `words` says where it is. Without a draft to keep (changing what was handed out) it only
 * holds the plan.
 */
export function usePlan(first: Plan, draft: DraftState | null, keeping: boolean) {
  const [{ keeper, draftId }] = useState(() => keeperOf(first, draft));
  const state = useObserved(keeper);
  const [held, setHeld] = useState(first);
  useEffect(() => (keeping ? keeper.start() : undefined), [keeper, keeping]);

  const change = (make: (old: Plan) => Plan) => {
    if (keeping) keeper.change((old) => ({ ...old, plan: make(old.plan) }));
    else setHeld(make);
  };
  /** Keeps it as a template beside being a draft. */
  const keepAsTemplate = () => {
    keeper.change((old) => ({ ...old, kept: true }));
    return keeper.flush();
  };
  const { found, takeFound } = useLeftOver(keeping, draft?.id ?? null, (plan) =>
    change(() => plan),
  );
  return {
    plan: keeping ? state.value.plan : held,
    change,
    words: keeping ? sayKept(state, draft !== null) : "",
    /** It was changed in another window: which of the two to go on with. */
    conflict: state.theirs !== null,
    choose: (which: "mine" | "theirs") => keeper.choose(which).plan,
    keepAsTemplate,
    draftId,
    /** Nothing is on its way any more: it is about to be handed out. */
    settled: () => keeper.settled(),
    /** It was not handed out after all: what waits is kept. */
    goOn: () => void keeper.flush(),
    /** Stops keeping: it is handed out. */
    stop: () => keeper.stop(),
    found,
    takeFound,
  };
}

/** What a dead tab or a lost connection left on the device is offered again, on its own page or a new one. */
function useLeftOver(keeping: boolean, opened: string | null, take: (plan: Plan) => void) {
  const [found, setFound] = useState<Plan | null>(null);
  useEffect(() => {
    if (!keeping) return;
    void browserWorld.device.kept<OnDevice>(KEY).then((left) => {
      const { plan, draftId } = left?.value ?? {};
      if (plan && (draftId === opened || draftId === null)) setFound(plan);
    });
  }, [keeping, opened]);
  const takeFound = (taken: boolean) => {
    if (taken && found) take(found);
    else void browserWorld.device.release(KEY);
    setFound(null);
  };
  return { found, takeFound };
}

/** Where the draft is, in words that are true at this moment. */
function sayKept(state: KeeperState<Draft>, known: boolean): string {
  switch (state.stage) {
    case "saved": {
      if (state.sentAt) return `Draft kept ${sayClock(state.sentAt)}`;
      return known ? "Draft kept" : "";
    }
    case "changed":
    case "sending":
      return "Kept on this device …";
    case "waiting":
      return "No connection: the draft is kept on this device.";
    case "conflict":
      return "This draft was changed in another window. What you typed is still here.";
    case "refused":
      return sayProblem(state.problem);
  }
}
