"use client";

import { useDndContext } from "@dnd-kit/core";
import { useDeferredValue, useMemo, useState } from "react";
import { sentenceAround } from "@/core/text/noteText";
import type { CommentView } from "@/core/views/views";
import { TwoDrafts } from "../../comments/TwoDrafts";
import { usePieceOnDesk } from "../model";
import { AskBack } from "./AskBack";
import { BankSearch, Favourites } from "./Dock";
import { OverallNote, Score } from "./Fields";
import { ReviseDialog } from "./ReviseDialog";
import { RubricHere, sumForScore, useRubricOpen } from "./RubricHere";
import { RubricChip } from "./RubricStrip";
import { Standing } from "./Standing";
import { OutcomeOfDraft, TwoActs } from "./TwoActs";
import { useDraft } from "./useDraft";
import { isChanged, WhyChanged, WhyOther } from "./Why";

/** The tray under the sheet: one line, and what belongs to it above that line while it is used. */
export function Tray() {
  const { view, piece, marking } = usePieceOnDesk();
  const [used, setUsed] = useState(false);
  const rubric = useRubricOpen(view.rubricAsked);
  const [pointed, setPointed] = useState(false);
  const onWords = marking.picked !== null && marking.composing === null;
  // What is dragged out of the tray stays in it until it is let go.
  const dragging = useDndContext().active !== null;
  const more = used || pointed || onWords || dragging;
  return (
    <section
      aria-label="Tray"
      tabIndex={-1}
      className="no-print border-t border-line-strong bg-sunk px-3 py-1 [grid-area:tray] focus:outline-none"
      onPointerEnter={() => setPointed(true)}
      onPointerLeave={() => setPointed(false)}
      onFocus={() => setUsed(true)}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setUsed(false);
      }}
    >
      <TwoOfDrafts />
      <AboutScore used={used} />
      <RubricHere open={rubric.open} onClose={() => rubric.setOpen(false)} />
      {more ? (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-1 text-sm">
          <OutcomeOfDraft />
          <Favourites />
        </div>
      ) : null}
      <div className="flex items-center gap-x-2 gap-y-1 text-sm max-lg:flex-wrap">
        <OverallNote />
        {piece.points !== null ? <Score of={piece.scoreOf} /> : null}
        <ChipHere open={rubric.open} onTurn={() => rubric.setOpen(!rubric.open)} />
        <BankSearch suggested={useLikely()} />
        <Standing state={useDraft().state} />
        <TwoActs />
      </div>
      <ReviseDialog />
      <AskBack />
    </section>
  );
}

/** The draft was changed elsewhere too. */
function TwoOfDrafts() {
  const { keeper, state, draft } = useDraft();
  if (!state.theirs) return null;
  return (
    <TwoDrafts
      mine={draft.overall}
      theirs={state.theirs.value.overall}
      onChoose={(which) => keeper.choose(which)}
    />
  );
}

/** What is to be said or chosen of a score that is not what one would expect. */
function AboutScore({ used }: { used: boolean }) {
  const { piece } = usePieceOnDesk();
  const { draft } = useDraft();
  const sum = sumForScore(piece, draft.picks);
  if (sum !== null && draft.score !== "" && draft.score !== sum) return <WhyOther sum={sum} />;
  return isChanged(piece) && used ? <WhyChanged /> : null;
}

function ChipHere({ open, onTurn }: { open: boolean; onTurn: () => void }) {
  const { piece } = usePieceOnDesk();
  const { draft } = useDraft();
  if (!piece.rubric) return null;
  const { rubric, name } = piece.rubric;
  return <RubricChip {...{ rubric, name, open, onTurn }} picks={draft.picks} />;
}

/** What is likely here may come a moment later than the selection: the next key must not wait for it. */
function useLikely(): readonly CommentView[] {
  const { session, marking, help } = usePieceOnDesk();
  const settled = useDeferredValue(marking.picked);
  const { suggested } = help;
  return useMemo(() => {
    if (settled === null || settled.quote === "") return suggested("");
    return suggested(
      settled.on === "text" ? sentenceAround(session.marking.text, settled) : settled.quote,
    );
  }, [session, suggested, settled]);
}
