"use client";

import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { contract } from "@/core/api/contract";
import { commentBodyOf, fullComment, wholeComment, type LeanComment } from "@/core/comments/schema";
import { suggest, type Use } from "@/core/comments/suggest";
import { sayWords } from "@/core/speech/heard";
import type { CommentView } from "@/core/views/views";
import type { DraftMark } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";

/** A note that was said before, offered to the bank; or one that has just been kept. */
export type Offer =
  | { kind: "offer"; text: string; nature: CommentView["nature"]; times: number }
  | { kind: "kept"; comment: CommentView }
  | { kind: "known"; text: string; shorthand: string | null }
  | { kind: "failed"; words: string };

/** The comment bank at the Desk: what to suggest for these words, keeping notes, and noticing what is said again. */
export function useBank(first: readonly LeanComment<CommentView>[], handOutId: string) {
  const [bank, setBank] = useState(() => first.map((lean) => fullComment<CommentView>(lean)));
  const [offer, setOffer] = useState<Offer | null>(null);
  const uses = useQuery({
    queryKey: ["uses", handOutId],
    queryFn: () => call(contract.commentUses, { params: { handOutId } }),
    staleTime: 120_000,
  });
  const known = useMemo(() => new Map<string, Use>(Object.entries(uses.data ?? {})), [uses.data]);
  const suggested = useCallback(
    (words: string, criterion: string | null = null) => suggest(bank, known, { words, criterion }),
    [bank, known],
  );

  /** A note with its voice; one that is a voice alone is kept under its words or its title. */
  async function keepNote(mark: DraftMark): Promise<void> {
    const clip = mark.clipId
      ? await call(contract.clip, { params: { clipId: mark.clipId } }).catch(() => null)
      : null;
    const text =
      mark.body || (clip?.shows === "title" ? clip.title : sayWords(clip?.transcript.words ?? []));
    if (text === "")
      return setOffer({
        kind: "failed",
        words:
          "The words of this voice are not written down yet. Keep it in a moment, or write a word beside it.",
      });
    return keepComment(text, mark.nature, mark.clipId);
  }
  async function keepComment(
    text: string,
    nature: CommentView["nature"],
    clipId: string | null = null,
  ): Promise<void> {
    try {
      const comment = await call(contract.addComment, {
        body: commentBodyOf(wholeComment({ text, nature, clipId })),
      });
      setBank((old) => [...old, comment]);
      setOffer({ kind: "kept", comment });
    } catch (error) {
      setOffer({ kind: "failed", words: sayProblem(error) });
    }
  }
  async function giveShorthand(comment: CommentView, shorthand: string): Promise<void> {
    try {
      const { draftsChanged: _, ...named } = await call(contract.changeComment, {
        params: { commentId: comment.id },
        body: { ...commentBodyOf(comment), shorthand },
        revision: comment.revision,
      });
      setBank((old) => old.map((c) => (c.id === named.id ? named : c)));
      setOffer(null);
    } catch (error) {
      setOffer({ kind: "failed", words: sayProblem(error) });
    }
  }
  /** After a note was written by hand: was nearly the same said before? */
  async function noticed(mark: DraftMark): Promise<void> {
    if (mark.kind !== "note" || mark.commentId !== null || mark.body === "") return;
    try {
      const { times, inBank } = await call(contract.saidBefore, { body: { text: mark.body } });
      if (inBank) setOffer({ kind: "known", text: inBank.text, shorthand: inBank.shorthand });
      else if (times >= 2) setOffer({ kind: "offer", text: mark.body, nature: mark.nature, times });
    } catch {
      // An offer less is no loss.
    }
  }
  return { bank, suggested, offer, setOffer, keepComment, keepNote, giveShorthand, noticed };
}

export type Bank = ReturnType<typeof useBank>;
