"use client";

import { useState } from "react";
import { scoreBeside } from "@/core/rubrics/beside";
import { scoreOf, type Picks } from "@/core/rubrics/rubric";
import type { DeskPiece } from "@/core/views/deskViews";
import { noteDraft } from "../commands/undo";
import { usePieceOnDesk } from "../model";
import { RubricRows } from "./RubricStrip";
import { useDraft } from "./useDraft";

/** Opened by its key each time, folded by its chip. */
export function useRubricOpen(asked: number) {
  const [open, setOpen] = useState(false);
  const [obeyed, setObeyed] = useState(asked);
  if (asked !== obeyed) {
    setObeyed(asked);
    setOpen(true);
  }
  return { open, setOpen };
}

/** What the chosen levels come to as a score; null until all are chosen. */
export const sumForScore = ({ rubric, points }: DeskPiece, picks: Picks): string | null =>
  rubric && points !== null ? scoreOf(rubric.rubric, picks, points) : null;

/** The rubric of the piece that lies here, opened; the score follows its sum, unless one was typed. */
export function RubricHere({ open, onClose }: { open: boolean; onClose: () => void }) {
  const desk = usePieceOnDesk();
  const { view, piece } = desk;
  const { draft, change } = useDraft();
  if (!piece.rubric || !open) return null;
  const pick = (picks: Picks) => {
    noteDraft(desk, { picks: draft.picks, score: draft.score });
    const [before, after] = [sumForScore(piece, draft.picks), sumForScore(piece, picks)];
    change({ picks, score: scoreBeside(draft.score, before, after) });
  };
  return (
    <RubricRows
      rubric={piece.rubric.rubric}
      picks={draft.picks}
      asked={view.rubricAsked}
      onPick={pick}
      onClose={onClose}
    />
  );
}
