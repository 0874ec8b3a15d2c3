"use client";

import { useObserved } from "../../keeping/useObserved";
import { TwoDrafts } from "../../comments/TwoDrafts";
import { useDeferredValue, useMemo, useState } from "react";
import { DRAFT_WORDS } from "@/core/handingBack/say";
import { sumOfPoints } from "@/core/marks/points";
import { scoreOf, type Picks } from "@/core/rubrics/rubric";
import { sentenceAround } from "@/core/text/noteText";
import type { CommentView } from "@/core/views/views";
import type { DeskPiece } from "@/core/views/deskViews";
import { BankField } from "../../comments/BankField";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/Field";
import { classes } from "../../kit/classes";
import type { KeeperState } from "../../keeping/Keeper";
import { setExcused, setFlag } from "../commands/flags";
import { useDesk, usePieceOnDesk } from "../model";
import { saySaved, scoreFault, type Feedback, type FeedbackDraft } from "../store/feedback";
import { Dock } from "./Dock";
import { AskBack } from "./AskBack";
import { ReviseDialog } from "./ReviseDialog";
import { RubricStrip } from "./RubricStrip";
import { TwoActs } from "./TwoActs";

/** The draft of the piece on the Desk, and changing it. */
function useDraft() {
  const { feedback } = useDesk();
  const keeper: Feedback = feedback!;
  const state = useObserved(keeper);
  const change = (part: Partial<FeedbackDraft>) => keeper.change((old) => ({ ...old, ...part }));
  return { keeper, state, draft: state.value, change };
}

const leaveField = (event: React.KeyboardEvent<HTMLElement>) =>
  event.key === "Escape" && event.currentTarget.blur();

/** The tray under the sheet: the overall note, the score, the favourites, and the two acts. */
export function Tray() {
  const { view, piece } = usePieceOnDesk();
  const { keeper, state, draft, change } = useDraft();
  // The score follows the rubric's sum, unless the teacher has written another over it.
  const sum =
    piece.rubric && piece.points !== null
      ? scoreOf(piece.rubric.rubric, draft.picks, piece.points)
      : null;
  const overridden = sum !== null && draft.score !== "" && draft.score !== sum;
  const pick = (picks: Picks, score: string | null) =>
    change(score === null || overridden ? { picks } : { picks, score });
  return (
    <section
      aria-label="Tray"
      className="border-t border-line-strong bg-sunk px-4 pb-1.5 pt-1.5 sm:px-6"
    >
      {state.theirs ? (
        <TwoDrafts
          mine={draft.overall}
          theirs={state.theirs.value.overall}
          onChoose={(which) => keeper.choose(which)}
        />
      ) : null}
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <OverallNote />
        {piece.points !== null ? <Score of={piece.scoreOf} /> : null}
        <TwoActs />
      </div>
      {overridden ? <WhyOther sum={sum} /> : null}
      {!overridden && isChanged(piece) ? <WhyChanged /> : null}
      {piece.rubric ? (
        <RubricStrip
          rubric={piece.rubric.rubric}
          name={piece.rubric.name}
          picks={draft.picks}
          possible={piece.points}
          asked={view.rubricAsked}
          onPick={pick}
        />
      ) : null}
      <div className="mt-1 flex items-center gap-x-4 gap-y-1 text-sm max-xl:flex-wrap">
        <Standing state={state} />
        <Dock suggested={useLikely()} />
      </div>
      <ReviseDialog />
      <AskBack />
    </section>
  );
}

function OverallNote() {
  const { session, piece, help } = usePieceOnDesk();
  const { keeper, draft, change } = useDraft();
  const [focused, setFocused] = useState(false);
  const resting = draft.overall.length > 60 ? 2 : 1;
  return (
    <div className="min-w-64 flex-1">
      <BankField
        upward
        label="Overall note (o)"
        hideLabel
        rows={focused ? 4 : resting}
        onFocus={() => setFocused(true)}
        value={draft.overall}
        onChange={(overall) => change({ overall })}
        bank={help.bank}
        values={{ ...help.values, score: piece.scoreWords ?? undefined }}
        fieldRef={session.port("overall")}
        onKeyDown={leaveField}
        onBlur={() => {
          setFocused(false);
          void keeper.flush();
        }}
        placeholder="A word on the whole (o). Type ; for a comment of the bank"
      />
    </div>
  );
}

function Score({ of }: { of: string | null }) {
  const { session, piece } = usePieceOnDesk();
  const { keeper, state, draft, change } = useDraft();
  /** A score as it is typed; `ex` excuses, and `inc` flags as unfinished where the score itself has no such word. */
  function take(typed: string) {
    const word = typed.trim().toLowerCase();
    if (word === "ex") return void setExcused(session.store, true);
    if (word === "inc" && !piece.scoreHint?.includes("inc"))
      return void setFlag(session.store, "unfinished");
    change({ score: typed });
  }
  return (
    <div className="flex items-center gap-2">
      <span className="w-36">
        <TextField
          ref={session.port("score")}
          label={of ? `Score of ${of} (s)` : "Score (s)"}
          hideLabel
          value={draft.score}
          onChange={(e) => take(e.target.value)}
          onKeyDown={leaveField}
          onBlur={() => void keeper.flush()}
          placeholder={piece.scoreHint ?? undefined}
          error={scoreFault(state) ?? undefined}
          autoComplete="off"
        />
      </span>
      <span className="label whitespace-nowrap">{of ? `of ${of} (s)` : "score (s)"}</span>
    </div>
  );
}

/** The score is another than the rubric's sum: why, for the section's teachers. */
function WhyOther({ sum }: { sum: string }) {
  const { draft, change } = useDraft();
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm">
      <span>
        The rubric’s sum is <strong>{sum}</strong>; you wrote <strong>{draft.score}</strong>.
      </span>
      <WhyField />
      <Button small onClick={() => change({ score: sum, reason: "" })}>
        Take the sum
      </Button>
    </div>
  );
}

/** A score that was handed back is another in the draft. */
function isChanged({ handedBack, scoreWords }: DeskPiece): boolean {
  const was = handedBack?.score ?? null;
  return was !== null && scoreWords !== null && !scoreWords.startsWith(was);
}

function WhyChanged() {
  const { piece } = usePieceOnDesk();
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm">
      <span>
        Handed back was <strong>{piece.handedBack?.score}</strong>; the student is told that it
        changed.
      </span>
      <WhyField />
    </div>
  );
}

/** Why a score is what it is, for the section's teachers. */
function WhyField() {
  const { keeper, draft, change } = useDraft();
  return (
    <label className="flex min-w-64 flex-1 items-baseline gap-2">
      <span className="label">why (for the section’s teachers)</span>
      <input
        className="min-h-7 flex-1 border border-line-strong bg-raised px-2"
        value={draft.reason}
        maxLength={600}
        onChange={(event) => change({ reason: event.target.value })}
        onBlur={() => void keeper.flush()}
        onKeyDown={leaveField}
      />
    </label>
  );
}

/** Where the draft is, what it comes to, and what the student can see now. */
function Standing({ state }: { state: KeeperState<FeedbackDraft> }) {
  const { piece } = usePieceOnDesk();
  const pointed = sumOfPoints(piece.marks);
  const troubled = ["waiting", "refused", "conflict"].includes(state.stage);
  const showsScore = piece.points !== null && piece.scoreWords && !scoreFault(state);
  return (
    <>
      <p
        aria-live="polite"
        className={classes("whitespace-nowrap", troubled ? "text-ember" : "text-soft")}
      >
        {saySaved(state, piece.marks.length > 0)}
      </p>
      {showsScore ? (
        <p className="max-w-80 shrink-0 truncate" title={piece.scoreWords ?? undefined}>
          score: {piece.scoreWords}
        </p>
      ) : null}
      {pointed !== null ? (
        <p className="whitespace-nowrap">points on the marks: {pointed}</p>
      ) : null}
      <p className="min-w-0 truncate text-soft" title={sayVisible(piece)}>
        <span aria-hidden="true">◐ </span>
        {sayVisible(piece)}
      </p>
    </>
  );
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

/** What the student can see at this moment is always written here, in the words of every list. */
function sayVisible({ standing, moon, called, lastBy }: DeskPiece): string {
  const other = lastBy ? `. Last changed by ${lastBy}` : "";
  const revising = moon.state === "reworking" ? `. ${called} is revising` : "";
  return `${standing || DRAFT_WORDS}${revising}${other}`;
}
