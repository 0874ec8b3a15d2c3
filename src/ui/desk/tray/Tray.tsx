"use client";

import { useEffect, useState, type RefObject } from "react";
import type { CommentView, DeskPiece } from "@/core/views/views";
import { fillPlaceholders } from "@/core/comments/placeholders";
import { BankField } from "../comments/BankField";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { classes } from "../kit/classes";
import { RubricStrip } from "./RubricStrip";
import { useFeedbackDraft } from "./useFeedbackDraft";

export type TrayRefs = { overall: RefObject<HTMLTextAreaElement | null>; score: RefObject<HTMLInputElement | null>; /** Puts a score in as if it had been typed. */ setScore: RefObject<(score: string) => void> };

/** The tray under the sheet: the overall note, the score, the favourites, and the two acts. */
export function Tray(props: {
  piece: DeskPiece;
  bank: readonly CommentView[];
  refs: TrayRefs;
  hasSelection: boolean;
  revising: boolean;
  setRevising: (open: boolean) => void;
  patch: (change: (old: DeskPiece) => DeskPiece) => void;
  onFavourite: (comment: CommentView) => void;
  /** Lets the key of the Desk press the button here, with what is in the fields. */
  pressRef: RefObject<(() => void) | null>;
  onHandBack: (outcome: "final" | "revise", due: string | null, flush: () => Promise<boolean>) => Promise<boolean>;
}) {
  const { piece, bank, refs, revising, setRevising } = props;
  const feedback = useFeedbackDraft(piece, props.patch);
  useEffect(() => {
    refs.setScore.current = (score) => feedback.change({ score });
  });
  const [due, setDue] = useState(piece.suggestedDue);
  const [busy, setBusy] = useState(false);
  const out = piece.moon.state === "reworking";

  async function handBack(outcome: "final" | "revise") {
    setBusy(true);
    const done = await props.onHandBack(outcome, outcome === "revise" ? due : null, feedback.flush);
    setBusy(false);
    if (done) setRevising(false);
  }
  const mayNow = !busy && !out && piece.mayHandBack;
  useEffect(() => {
    props.pressRef.current = () => mayNow && void handBack("final");
  });
  const leave = (event: React.KeyboardEvent<HTMLElement>) => event.key === "Escape" && event.currentTarget.blur();

  return (
    <section aria-label="Tray" className="border-t border-line-strong bg-sunk px-4 pb-2.5 pt-2 sm:px-6">
      {feedback.theirs ? <TwoDrafts mine={feedback.draft.overall} theirs={feedback.theirs.overall} onChoose={feedback.settleConflict} /> : null}
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <div className="min-w-64 flex-1">
          <BankField label="Overall note (o)" rows={2} value={feedback.draft.overall} onChange={(overall) => feedback.change({ overall })} bank={bank} values={{ name: piece.called, title: piece.title }} fieldRef={refs.overall} onKeyDown={leave} onBlur={() => void feedback.flush()} placeholder="A word on the whole. Type ; for a comment of the bank" />
        </div>
        {piece.points !== null ? (
          <div className="w-40">
            <TextField ref={refs.score} label={`Score of ${piece.points} (s)`} value={feedback.draft.score} onChange={(e) => feedback.change({ score: e.target.value })} onKeyDown={leave} onBlur={() => void feedback.flush()} placeholder={piece.scoreHint ?? undefined} error={feedback.scoreFault ?? undefined} hint={feedback.scoreFault ? undefined : (feedback.scoreWords ?? undefined)} autoComplete="off" />
          </div>
        ) : null}
        <div className="flex flex-col gap-1.5 pt-6">
          <div className="flex gap-2">
            <Button ink="tide" disabled={!mayNow} onClick={() => void handBack("final")}>
              {piece.moon.state === "handed_back" ? "Hand back again" : "Hand back"} <kbd className="text-xs opacity-80">h</kbd>
            </Button>
            <Button ink="plum" disabled={!mayNow || piece.versionId === null || piece.lastRound} title={piece.lastRound ? "This is the last round of this work" : undefined} onClick={() => setRevising(true)}>
              Hand back to revise <kbd className="text-xs opacity-80">r</kbd>
            </Button>
          </div>
          {piece.mayHandBack ? null : <p className="text-sm text-soft">The section’s owner hands back.</p>}
        </div>
      </div>
      {piece.rubric ? <RubricStrip rubric={piece.rubric.rubric} name={piece.rubric.name} picks={feedback.draft.picks} possible={piece.points} onPick={(picks, score) => feedback.change(score === null ? { picks } : { picks, score })} /> : null}
      <div className="mt-1.5 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm">
        <p aria-live="polite" className={classes(feedback.state.kind === "not saved" ? "text-ember" : "text-soft")}>
          {feedback.state.words}
        </p>
        <p className="text-soft">
          <span aria-hidden="true">◐ </span>
          {sayVisible(piece)}
        </p>
        <Favourites bank={bank} called={piece.called} title={piece.title} enabled={props.hasSelection} onTake={props.onFavourite} />
      </div>
      <Dialog open={revising} onClose={() => setRevising(false)} title={`Hand back to revise: ${piece.student}`}>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void handBack("revise");
          }}
        >
          <p className="mb-3 text-soft">
            {piece.marks.filter((m) => m.nature === "request").length} requests and {piece.marks.length} marks go back. Round {piece.round + 1} opens when the student begins.
          </p>
          <TextField label={`Round ${piece.round + 1} is due`} type="datetime-local" value={due} onChange={(e) => setDue(e.target.value)} required />
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
  const seen = handedBack.seen ? `${called} looked at it ${handedBack.seen}.` : `${called} has not looked yet.`;
  if (moon.state === "reworking") return `Handed back ${handedBack.when}; ${called} is revising. ${seen}`;
  if (handedBack.changedSince) return `${called} sees what was handed back ${handedBack.when}, not what you changed since.`;
  return `Handed back ${handedBack.when}${handedBack.nextDue ? `, due again ${handedBack.nextDue}` : ""}. ${seen}`;
}

function Favourites({ bank, called, title, enabled, onTake }: { bank: readonly CommentView[]; called: string; title: string; enabled: boolean; onTake: (comment: CommentView) => void }) {
  const favourites = bank.filter((comment) => comment.favourite !== null);
  if (favourites.length === 0) return null;
  return (
    <ul className="ml-auto flex max-w-full flex-wrap gap-1" aria-label="Favourite comments">
      {favourites.map((comment) => (
        <li key={comment.id}>
          <button
            type="button"
            aria-disabled={!enabled}
            title={`${fillPlaceholders(comment.text, { name: called, title })}${enabled ? "" : " (select words first)"}`}
            // The selection must outlive the press.
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => enabled && onTake(comment)}
            className="cursor-pointer border border-line-strong bg-raised px-1.5 text-xs leading-6 hover:border-tide aria-disabled:cursor-default aria-disabled:text-soft"
          >
            <kbd className="font-semibold">{comment.favourite}</kbd> {comment.shorthand ?? comment.text.slice(0, 12)}
          </button>
        </li>
      ))}
    </ul>
  );
}

function TwoDrafts({ mine, theirs, onChoose }: { mine: string; theirs: string; onChoose: (choice: "mine" | "theirs") => void }) {
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
      <p>This note was changed elsewhere since you opened it. Nothing is lost; choose which to go on with.</p>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        <dt className="label">mine</dt>
        <dd>{mine || "(empty)"}</dd>
        <dt className="label">theirs</dt>
        <dd>{theirs || "(empty)"}</dd>
      </dl>
    </Notice>
  );
}
