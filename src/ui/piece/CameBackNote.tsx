"use client";

import { useState } from "react";
import { isEdit } from "@/core/marks/mark";
import type { AnsweredMark, MessageView } from "@/core/views/views";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { Thread } from "./Thread";

type Acts = { onTick: (mark: AnsweredMark, done: boolean) => void; onDecide: (mark: AnsweredMark, decision: "accepted" | "declined" | null) => void; onReply: (mark: AnsweredMark, message: MessageView) => void };

/** A mark that came back, in the student's margin: what it says, and what can be done about it. */
export function CameBackNote({ mark, pieceId, chosen, active, onChoose, onTick, onDecide, onReply }: { mark: AnsweredMark; pieceId: string; chosen: boolean; active: boolean; onChoose: () => void } & Acts) {
  const [replying, setReplying] = useState(false);
  const edit = isEdit(mark);
  return (
    <article
      className={classes("border-l-2 bg-paper pl-2.5 text-sm", mark.request === "open" ? "border-ember" : mark.request || mark.decision ? "border-moss" : edit ? "border-plum" : "border-tide", chosen && "bg-tide-wash")}
      onClick={onChoose}
    >
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className={classes("label", mark.request === "open" && "text-ember")}>{sayKind(mark)}</span>
        {mark.at === null ? <span className="label">its words are gone</span> : null}
      </p>
      {mark.at === null && mark.quote ? <p className="font-serif italic text-soft line-through">{mark.quote}</p> : null}
      {edit ? <p>{sayEdit(mark)}</p> : null}
      {mark.body ? <p className="whitespace-pre-wrap">{mark.body}</p> : null}
      {active && mark.request && mark.request !== "settled" && mark.request !== "asked again" ? (
        <label className="mt-1 flex min-h-9 items-center gap-2 max-sm:min-h-11">
          <input type="checkbox" className="size-5 accent-moss" checked={mark.request === "done"} onChange={(event) => onTick(mark, event.target.checked)} />
          I have done this
        </label>
      ) : null}
      {active && edit ? (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {mark.decision === null ? (
            <>
              <Button small className="max-sm:min-h-11" onClick={() => onDecide(mark, "accepted")} disabled={mark.at === null}>
                Accept
              </Button>
              <Button small className="max-sm:min-h-11" onClick={() => onDecide(mark, "declined")}>
                Decline
              </Button>
            </>
          ) : (
            <p className="text-moss">✓ {mark.decision}</p>
          )}
        </div>
      ) : null}
      {mark.messages.length > 0 || replying ? (
        <div className="mt-1">
          <Thread pieceId={pieceId} markId={mark.id} messages={mark.messages} placeholder="Say something about this" onSent={(message) => onReply(mark, message)} />
        </div>
      ) : active ? (
        <Button small ink="quiet" className="-ml-2" onClick={() => setReplying(true)}>
          Reply
        </Button>
      ) : null}
    </article>
  );
}

function sayKind(mark: AnsweredMark): string {
  if (mark.kind === "tick") return "✓ well seen";
  if (mark.kind === "cross") return "✗ look again";
  if (isEdit(mark)) return "edit";
  if (mark.request === "done") return "✓ you say: done";
  if (mark.request === "settled") return "✓ settled";
  if (mark.request === "asked again") return "asked again";
  return mark.nature === "request" ? "please do this" : "note";
}

/** Edits in words, for those who do not read the signs. */
export function sayEdit(mark: AnsweredMark): string {
  if (mark.kind === "insert") return `Put in “${mark.replacement}” here.`;
  if (mark.kind === "delete" || mark.replacement === "") return `Take out “${mark.quote}”.`;
  return `Instead of “${mark.quote}”: “${mark.replacement}”.`;
}
