"use client";

import type { Nature } from "@/core/marks/schema";
import { useState } from "react";
import { isEdit, isStamp, sayEdit, STAMP_SIGNS } from "@/core/marks/mark";
import type { AnsweredMark, MessageView } from "@/core/views/views";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { sayPlace } from "../marks/drawn";
import { noteInk } from "../marks/noteInk";
import { NoteText } from "../marks/NoteText";
import { PrintedQuote } from "../marks/PrintedQuote";
import { sayNote } from "@/core/text/noteText";
import { Hear } from "../voice/Hear";
import { VoiceNote } from "../voice/VoiceNote";
import { goToWords } from "./rounds/goToTask";
import { Thread } from "./Thread";

type Acts = {
  onTick: (mark: AnsweredMark, done: boolean) => void;
  onDecide: (mark: AnsweredMark, decision: "accepted" | "declined" | null) => void;
  /** Why the page cannot make the change of an edit itself (on a file it never can); null: it can. */
  whyNot?: (mark: AnsweredMark) => "there" | "changed" | "gone" | null;
  onReply: (mark: AnsweredMark, message: MessageView) => void;
};

/** A mark that came back, in the student's margin: what it says, and what can be done about it. */
export function CameBackNote({
  mark,
  number,
  pieceId,
  chosen,
  active,
  onChoose,
  onLeave,
  onTick,
  onDecide,
  whyNot,
  onReply,
}: {
  mark: AnsweredMark;
  /** What stands on its pin. */ number?: number;
  pieceId: string;
  chosen: boolean;
  active: boolean;
  onChoose: () => void;
  /** It is no longer what one is at. */ onLeave: () => void;
} & Acts) {
  const edit = isEdit(mark);
  const keys = (event: React.KeyboardEvent) => {
    // Keys of the note itself, never of a field in it.
    if (!active || event.target !== event.currentTarget || event.ctrlKey || event.metaKey) return;
    const act = keyOf(event.key, mark, { onTick, onDecide });
    if (event.key === "Escape" || event.key === "Enter") goToWords(mark.id);
    else if (act) act();
    else return;
    event.preventDefault();
  };
  return (
    <article
      className={classes(
        "border-l-2 bg-paper pl-2.5 text-sm",
        edgeOf(mark),
        noteInk(mark.ink),
        chosen && "bg-tide-wash",
      )}
      onClick={onChoose}
      tabIndex={-1}
      onKeyDown={keys}
    >
      {active && chosen ? (
        <button
          type="button"
          className="float-right min-h-11 min-w-11 cursor-pointer text-lg text-soft lg:hidden"
          aria-label="Close this note"
          onClick={(event) => {
            event.stopPropagation();
            onLeave();
          }}
        >
          ×
        </button>
      ) : null}
      <p className="flex flex-wrap items-baseline gap-x-2">
        {number ? <span className="font-semibold">{number}</span> : null}
        <span className={classes("label", mark.request === "open" && "text-ember")}>
          {sayKind(mark)}
        </span>
        {mark.from ? <span className="label">{mark.from}</span> : null}
        {mark.place.on === "text" ? null : <span className="label">{sayPlace(mark.place)}</span>}
        {mark.points ? <span className="label text-ink">{mark.points} pt</span> : null}
        {mark.gone ? (
          <span className="label">
            {mark.place.on === "text" ? "its words are gone" : "you have taken this file out"}
          </span>
        ) : null}
      </p>
      {mark.gone ? null : <PrintedQuote mark={mark} />}
      {mark.gone && mark.quote ? (
        <p className="font-serif italic text-soft line-through">{mark.quote}</p>
      ) : null}
      {edit ? <p>{sayEdit(mark)}</p> : null}
      {mark.body && mark.kind !== "stamp" ? (
        <NoteText text={mark.body} sentence={mark.sentence} />
      ) : null}
      <VoiceNote clipId={mark.clipId} />
      <Hear text={edit ? sayEdit(mark) : sayNote(mark.body)} />
      {active ? <Tick mark={mark} onTick={onTick} /> : null}
      {active && edit ? <Decision mark={mark} onDecide={onDecide} whyNot={whyNot} /> : null}
      <Replies mark={mark} pieceId={pieceId} active={active} onReply={onReply} />
    </article>
  );
}

/** On a note: d is done, a accepts, x declines; null: the key is not of this note. */
function keyOf(
  key: string,
  mark: AnsweredMark,
  { onTick, onDecide }: Pick<Acts, "onTick" | "onDecide">,
): (() => void) | null {
  const asks = mark.request === "open" || mark.request === "done";
  if (key === "d" && asks) return () => onTick(mark, mark.request === "open");
  if (!isEdit(mark)) return null;
  if (key === "a") return () => onDecide(mark, "accepted");
  if (key === "x") return () => onDecide(mark, "declined");
  return null;
}

/** A request is ticked when it is done; one that was ruled on is over. */
function Tick({ mark, onTick }: { mark: AnsweredMark } & Pick<Acts, "onTick">) {
  if (mark.request !== "open" && mark.request !== "done") return null;
  return (
    <label className="mt-1 flex min-h-9 items-center gap-2 max-sm:min-h-11">
      <input
        type="checkbox"
        className="size-5 accent-moss"
        checked={mark.request === "done"}
        onChange={(event) => onTick(mark, event.target.checked)}
      />
      I have done this
    </label>
  );
}

const WHY_NOT = {
  there: "You have put this in already.",
  changed: "You have changed these words since, so the page leaves them to you.",
  gone: "These words are gone.",
};

type DecisionProps = { mark: AnsweredMark } & Pick<Acts, "onDecide" | "whyNot">;

function Decision({ mark, onDecide, whyNot }: DecisionProps) {
  if (mark.decision !== null) return <p className="mt-1 text-moss">✓ {mark.decision}</p>;
  const onText = mark.place.on === "text";
  const why = onText ? (whyNot?.(mark) ?? null) : null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5">
      {why ? <p className="w-full text-sm text-soft">{WHY_NOT[why]}</p> : null}
      <Button small className="max-sm:min-h-11" onClick={() => onDecide(mark, "accepted")}>
        {onText && why === null ? "Accept" : "I have changed this"}
      </Button>
      <Button small className="max-sm:min-h-11" onClick={() => onDecide(mark, "declined")}>
        Decline
      </Button>
    </div>
  );
}

type RepliesProps = { mark: AnsweredMark; pieceId: string; active: boolean };

function Replies({ mark, pieceId, active, onReply }: RepliesProps & Pick<Acts, "onReply">) {
  const [replying, setReplying] = useState(false);
  if (mark.messages.length > 0 || replying)
    return (
      <div className="mt-1">
        <Thread
          pieceId={pieceId}
          markId={mark.id}
          messages={mark.messages}
          placeholder="Say something about this"
          onSent={(message) => onReply(mark, message)}
        />
      </div>
    );
  // What a classmate said is no thread with the teacher.
  if (!active || mark.from) return null;
  return (
    <Button small ink="quiet" className="-ml-2" onClick={() => setReplying(true)}>
      Reply
    </Button>
  );
}

const NATURES_SAID: Readonly<Record<Nature, string>> = {
  request: "please do this",
  praise: "★ praise",
  remark: "note",
};

function edgeOf(mark: AnsweredMark): string {
  if (mark.request === "open") return "border-ember";
  if (mark.request || mark.decision) return "border-moss";
  if (isEdit(mark)) return "border-plum";
  return mark.nature === "praise" ? "border-moss" : "border-tide";
}

function sayKind(mark: AnsweredMark): string {
  if (isStamp(mark))
    return mark.kind === "stamp"
      ? mark.body
      : `${STAMP_SIGNS[mark.kind]!.sign} ${STAMP_SIGNS[mark.kind]!.words}`;
  if (mark.kind === "ink") return "drawn on it";
  if (isEdit(mark)) return "edit";
  if (mark.request === "done") return "✓ you say: done";
  if (mark.request === "settled") return "✓ settled";
  if (mark.request === "asked again") return "asked again";
  return NATURES_SAID[mark.nature];
}
