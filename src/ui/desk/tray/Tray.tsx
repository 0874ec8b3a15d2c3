"use client";

import { useEffect, useState, type RefObject } from "react";
import { sumOfPoints } from "@/core/marks/points";
import { scoreOf, type Picks } from "@/core/rubrics/rubric";
import type { CommentView, DeskPiece } from "@/core/views/views";
import { BankField } from "../../comments/BankField";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TextField } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { classes } from "../../kit/classes";
import type { NoteHelp } from "../sheet/NoteFields";
import { Dock } from "./Dock";
import { RubricStrip } from "./RubricStrip";
import { useFeedbackDraft } from "./useFeedbackDraft";

export type TrayRefs = {
  dock: RefObject<HTMLInputElement | null>;
  rubric: RefObject<(() => void) | null>;
  overall: RefObject<HTMLTextAreaElement | null>;
  score: RefObject<HTMLInputElement | null>;
  /** Puts a score in as if it had been typed. */ setScore: RefObject<(score: string) => void>;
};

/** The tray under the sheet: the overall note, the score, the favourites, and the two acts. */
export function Tray(props: {
  piece: DeskPiece;
  help: NoteHelp;
  suggested: readonly CommentView[];
  refs: TrayRefs;
  hasSelection: boolean;
  revising: boolean;
  setRevising: (open: boolean) => void;
  patch: (change: (old: DeskPiece) => DeskPiece) => void;
  onTake: (comment: CommentView) => void;
  /** A flag typed where the score goes. */
  onWord: (word: "excused" | "unfinished") => void;
  onLeave: (flush: () => Promise<boolean>) => void;
  /** Lets the key of the Desk press the button here, with what is in the fields. */
  pressRef: RefObject<(() => void) | null>;
  leaveRef: RefObject<(() => void) | null>;
  onHandBack: (
    outcome: "final" | "revise",
    due: string | null,
    flush: () => Promise<boolean>,
  ) => Promise<boolean>;
}) {
  const { piece, help, refs, revising, setRevising } = props;
  const feedback = useFeedbackDraft(piece, props.patch);
  useEffect(() => {
    refs.setScore.current = (score) => feedback.change({ score });
  });
  const [due, setDue] = useState(piece.suggestedDue);
  const [busy, setBusy] = useState(false);
  const [focused, setFocused] = useState(false);
  const out = piece.moon.state === "reworking";

  async function handBack(outcome: "final" | "revise") {
    setBusy(true);
    const done = await props.onHandBack(outcome, outcome === "revise" ? due : null, feedback.flush);
    setBusy(false);
    if (done) setRevising(false);
  }
  // The score follows the rubric's sum, unless the teacher has written another over it.
  const sum =
    piece.rubric && piece.points !== null
      ? scoreOf(piece.rubric.rubric, feedback.draft.picks, piece.points)
      : null;
  const overridden = sum !== null && feedback.draft.score !== "" && feedback.draft.score !== sum;
  function pick(picks: Picks, score: string | null) {
    feedback.change(score === null || overridden ? { picks } : { picks, score });
  }
  /** A score as it is typed; `ex` excuses, and `inc` flags as unfinished where the score itself has no such word. */
  function takeScore(typed: string) {
    const word = typed.trim().toLowerCase();
    if (word === "ex") return props.onWord("excused");
    if (word === "inc" && !piece.scoreHint?.includes("inc")) return props.onWord("unfinished");
    feedback.change({ score: typed });
  }
  const pointed = sumOfPoints(piece.marks);
  const mayNow = !busy && !out && piece.mayHandBack;
  useEffect(() => {
    props.pressRef.current = () => mayNow && void handBack("final");
    props.leaveRef.current = () => props.onLeave(feedback.flush);
  });
  const leave = (event: React.KeyboardEvent<HTMLElement>) =>
    event.key === "Escape" && event.currentTarget.blur();

  return (
    <section
      aria-label="Tray"
      className="border-t border-line-strong bg-sunk px-4 pb-1.5 pt-1.5 sm:px-6"
    >
      {feedback.theirs ? (
        <TwoDrafts
          mine={feedback.draft.overall}
          theirs={feedback.theirs.overall}
          onChoose={feedback.settleConflict}
        />
      ) : null}
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <div className="min-w-64 flex-1">
          <BankField
            upward
            label="Overall note (o)"
            hideLabel
            rows={focused ? 4 : feedback.draft.overall.length > 60 ? 2 : 1}
            onFocus={() => setFocused(true)}
            value={feedback.draft.overall}
            onChange={(overall) => feedback.change({ overall })}
            bank={help.bank}
            values={{ ...help.values, score: feedback.scoreWords ?? undefined }}
            fieldRef={refs.overall}
            onKeyDown={leave}
            onBlur={() => {
              setFocused(false);
              void feedback.flush();
            }}
            placeholder="A word on the whole (o). Type ; for a comment of the bank"
          />
        </div>
        {piece.points !== null ? (
          <div className="flex items-center gap-2">
            <span className="w-36">
              <TextField
                ref={refs.score}
                label={`Score of ${piece.points} (s)`}
                hideLabel
                value={feedback.draft.score}
                onChange={(e) => takeScore(e.target.value)}
                onKeyDown={leave}
                onBlur={() => void feedback.flush()}
                placeholder={piece.scoreHint ?? undefined}
                error={feedback.scoreFault ?? undefined}
                autoComplete="off"
              />
            </span>
            <span className="label whitespace-nowrap">of {piece.points} (s)</span>
          </div>
        ) : null}
        <div className="flex flex-col gap-1.5">
          <div className="flex gap-2">
            <Button
              disabled={busy}
              onClick={() => props.onLeave(feedback.flush)}
              title="The feedback stays a draft (l)"
            >
              Leave as draft <kbd className="text-xs opacity-80">l</kbd>
            </Button>
            <Button ink="tide" disabled={!mayNow} onClick={() => void handBack("final")}>
              {piece.moon.state === "handed_back" ? "Hand back again" : "Hand back"}{" "}
              <kbd className="text-xs opacity-80">h</kbd>
            </Button>
            <Button
              ink="plum"
              disabled={!mayNow || piece.versionId === null || piece.lastRound}
              title={piece.lastRound ? "This is the last round of this work" : undefined}
              onClick={() => setRevising(true)}
            >
              Hand back to revise <kbd className="text-xs opacity-80">r</kbd>
            </Button>
          </div>
          {piece.mayHandBack ? null : (
            <p className="text-sm text-soft">The section’s owner hands back.</p>
          )}
        </div>
      </div>
      {overridden ? (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm">
          <span>
            The rubric’s sum is <strong>{sum}</strong>; you wrote{" "}
            <strong>{feedback.draft.score}</strong>.
          </span>
          <label className="flex min-w-64 flex-1 items-baseline gap-2">
            <span className="label">why (for the section’s teachers)</span>
            <input
              className="min-h-7 flex-1 border border-line-strong bg-raised px-2"
              value={feedback.draft.reason}
              maxLength={600}
              onChange={(event) => feedback.change({ reason: event.target.value })}
              onBlur={() => void feedback.flush()}
              onKeyDown={leave}
            />
          </label>
          <Button small onClick={() => feedback.change({ score: sum!, reason: "" })}>
            Take the sum
          </Button>
        </div>
      ) : null}
      {piece.rubric ? (
        <RubricStrip
          rubric={piece.rubric.rubric}
          name={piece.rubric.name}
          picks={feedback.draft.picks}
          possible={piece.points}
          openRef={refs.rubric}
          onPick={pick}
        />
      ) : null}
      <div className="mt-1 flex items-center gap-x-4 gap-y-1 text-sm max-xl:flex-wrap">
        <p
          aria-live="polite"
          className={classes(
            "whitespace-nowrap",
            feedback.state.kind === "not saved" ? "text-ember" : "text-soft",
          )}
        >
          {feedback.state.kind === "saved" && piece.marks.length > 0 && piece.revision === 0
            ? "Draft saved"
            : feedback.state.words}
        </p>
        {piece.points !== null && feedback.scoreWords && !feedback.scoreFault ? (
          <p className="max-w-80 shrink-0 truncate" title={feedback.scoreWords}>
            score: {feedback.scoreWords}
          </p>
        ) : null}
        {pointed !== null ? (
          <p className="whitespace-nowrap">points on the marks: {pointed}</p>
        ) : null}
        <p className="min-w-0 truncate text-soft" title={sayVisible(piece)}>
          <span aria-hidden="true">◐ </span>
          {sayVisible(piece)}
        </p>
        <Dock
          bank={help.bank}
          suggested={props.suggested}
          values={help.values}
          enabled={props.hasSelection}
          onTake={props.onTake}
          fieldRef={refs.dock}
        />
      </div>
      <Dialog
        open={revising}
        onClose={() => setRevising(false)}
        title={`Hand back to revise: ${piece.student}`}
      >
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void handBack("revise");
          }}
        >
          <p className="mb-3 text-soft">
            {piece.marks.filter((m) => m.nature === "request").length} requests and{" "}
            {piece.marks.length} marks go back. Round {piece.round + 1} opens when the student
            begins.
          </p>
          <TextField
            label={`Round ${piece.round + 1} is due`}
            type="datetime-local"
            value={due}
            onChange={(e) => setDue(e.target.value)}
            required
          />
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={() => setRevising(false)}>Not yet</Button>
            <Button ink="plum" type="submit" disabled={busy}>
              Hand back to revise
            </Button>
          </div>
        </form>
      </Dialog>
    </section>
  );
}

/** What the student can see at this moment is always written here. */
function sayVisible({ handedBack, moon, called, lastBy }: DeskPiece): string {
  const other = lastBy ? ` Last changed by ${lastBy}.` : "";
  if (!handedBack) return `A draft: only the section’s teachers see this.${other}`;
  const seen = handedBack.seen
    ? `${called} looked at it ${handedBack.seen}.`
    : `${called} has not looked yet.`;
  if (moon.state === "reworking")
    return `Handed back ${handedBack.when}; ${called} is revising. ${seen}`;
  if (handedBack.changedSince)
    return `${called} sees what was handed back ${handedBack.when}, not what you changed since.`;
  return `Handed back ${handedBack.when}${handedBack.nextDue ? `, due again ${handedBack.nextDue}` : ""}. ${seen}`;
}

function TwoDrafts({
  mine,
  theirs,
  onChoose,
}: {
  mine: string;
  theirs: string;
  onChoose: (choice: "mine" | "theirs") => void;
}) {
  return (
    <Notice
      ink="ember"
      className="mb-2"
      acts={
        <>
          <Button small onClick={() => onChoose("mine")}>
            Keep mine
          </Button>
          <Button small onClick={() => onChoose("theirs")}>
            Take theirs
          </Button>
        </>
      }
    >
      <p>
        This note was changed elsewhere since you opened it. Nothing is lost; choose which to go on
        with.
      </p>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        <dt className="label">mine</dt>
        <dd>{mine || "(empty)"}</dd>
        <dt className="label">theirs</dt>
        <dd>{theirs || "(empty)"}</dd>
      </dl>
    </Notice>
  );
}
