"use client";

import { useObserved } from "../../keeping/useObserved";
import { useEffect, useMemo, useState } from "react";
import { paceOf, sayPace } from "@/core/desk/pace";
import { isUnread, type QueueOrder } from "@/core/desk/queueOrder";
import type { LetterKeys, StripLook } from "@/core/desk/settings";
import type { LeanComment } from "@/core/comments/schema";
import type { CommentView } from "@/core/views/views";
import type { DeskPiece, DeskQueue } from "@/core/views/deskViews";
import { setLettersHere } from "../../kit/letterKeys";
import { browserWorld } from "../../keeping/world";
import { runCommand } from "../commands/commands";
import type { OwnKeys } from "../commands/keys";
import type { AboutPile, DeskModel, Own } from "../model";
import { deskApi } from "../store/deskApi";
import { DeskSession } from "../store/DeskSession";
import { draftOf, type Feedback } from "../store/feedback";
import { valuesOf } from "../store/Marking";
import { useAhead } from "./useAhead";
import { useBank } from "./useBank";
import { useHere } from "./useHere";
import { usePile } from "./usePile";
import { useSetting } from "./useSetting";

export type DeskSettings = {
  keys: OwnKeys;
  stamps: string[];
  strip: StripLook | null;
  margin: number | null;
  letters: LetterKeys;
  order: QueueOrder;
  scroll: number;
  hold: number;
};
export type DeskProps = Omit<AboutPile, "pace"> & {
  queue: DeskQueue;
  first: DeskPiece;
  bank: LeanComment<CommentView>[];
  settings: DeskSettings;
};

/** The Desk of this page: the session with its stores, and what the server tells beside it. */
export function useDeskModel({ queue, first, bank: firstBank, settings, ...about }: DeskProps) {
  const [session] = useState(() => new DeskSession(first, deskApi, browserWorld));
  const own = useOwn(settings);
  const view = useObserved(session);
  const { store } = session;
  const state = useObserved(store);
  const marking = useObserved(session.marking);
  const { piece } = state;
  const pile = usePile(session, view, queue, { about, settings });
  const bank = useBank(firstBank, pile.item.handOutId);
  const here = useHere(view.pieceId);
  const feedback = piece ? session.feedbackOf(piece) : null;
  useKept(feedback, piece);
  useAhead(session, [pile.items[pile.current + 1]?.pieceId, pile.items[pile.current - 1]?.pieceId]);
  useEffect(() => {
    if (piece) session.remember(piece);
  }, [session, piece]);
  const ready = piece !== undefined;
  useEffect(() => {
    if (ready) void session.marking.recover();
  }, [session, view.pieceId, ready]);
  const busy = marking.composing !== null || marking.editing !== null;
  useOthers(store, here, piece, busy);
  const help = useMemo(
    () => ({
      bank: bank.bank,
      suggested: bank.suggested,
      values: valuesOf(piece),
      rubric: piece?.rubric?.rubric ?? null,
      pieceId: view.pieceId,
    }),
    [bank.bank, bank.suggested, piece, view.pieceId],
  );
  const pace = sayPace(paceOf(queue.seconds), pile.items.filter(isUnread).length);
  const model: DeskModel = {
    ...{ session, view, marking, state, piece, feedback, pile, bank, here, help },
    about: { ...about, pace },
    own,
    run: (id) => runCommand(id, model),
  };
  return model;
}

/** Names stand in the strip from this width of the window, unless it is said otherwise. */
const ROOM_FOR_NAMES = 1280;

/** What a teacher has set for themselves, and setting it. */
function useOwn(settings: DeskSettings): Own {
  const [keys, setKeys] = useSetting<OwnKeys>("desk.keys", settings.keys);
  const [stamps, setStamps] = useSetting<string[]>("desk.stamps", settings.stamps);
  const [strip, setStrip] = useSetting<StripLook | null>("desk.strip", settings.strip);
  const [margin, setMargin, showMargin] = useSetting<number | null>("desk.margin", settings.margin);
  const [letters, keepLetters] = useSetting<LetterKeys>("letters", settings.letters);
  const setLetters = (next: LetterKeys) => {
    keepLetters(next);
    setLettersHere(next);
  };
  const foldStrip = () => {
    const usual = window.innerWidth >= ROOM_FOR_NAMES ? "names" : "moons";
    setStrip((strip ?? usual) === "names" ? "moons" : "names");
  };
  return {
    ...{ keys, setKeys, stamps, setStamps, strip, foldStrip, margin, setMargin, showMargin },
    ...{ letters, setLetters, hold: settings.hold },
  };
}

/** The draft is sent for as long as it is looked at; what another teacher changed is taken over. */
function useKept(feedback: Feedback | null, piece: DeskPiece | undefined): void {
  useEffect(() => {
    if (!feedback) return;
    void feedback.recover();
    return feedback.start();
  }, [feedback]);
  useEffect(() => {
    if (feedback && piece) feedback.takeOver(draftOf(piece), piece.revision);
  }, [feedback, piece]);
}

/** Someone else changed this draft: what is there now is fetched, unless something of mine is being written. */
function useOthers(
  store: DeskSession["store"],
  here: DeskModel["here"],
  piece: DeskPiece | undefined,
  busy: boolean,
): void {
  const stale = !busy && here !== null && piece !== undefined && isOutdated(here, piece.stamp);
  const stamp = here?.stamp;
  useEffect(() => {
    if (stale) void store.load();
    // Once for each stamp that is heard, not for each drawing until the piece is there.
  }, [store, stale, stamp]);
}

/** Whether what there is has another stamp: of the work, or of the draft where someone else had a hand in it. */
function isOutdated(here: NonNullable<DeskModel["here"]>, known: string): boolean {
  const [drafts, work] = here.stamp.split("/");
  const [knownDrafts, knownWork] = known.split("/");
  const theirs = here.lastBy !== null || here.others.length > 0;
  return (theirs && drafts !== knownDrafts) || work !== knownWork;
}
