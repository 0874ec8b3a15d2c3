"use client";

import { useState } from "react";
import { isEdit } from "@/core/marks/mark";
import type { CommentView, DraftMark, EarlierMark } from "@/core/views/views";
import { BankField } from "../comments/BankField";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { classes } from "../kit/classes";

/** What a mark is, in words: for cards, readers and the student alike. */
export function sayMark(mark: Pick<DraftMark, "kind" | "nature" | "quote" | "replacement">): string {
  switch (mark.kind) {
    case "insert": return `put in “${mark.replacement}”`;
    case "delete": return `take out “${mark.quote}”`;
    case "replace": return mark.replacement === "" ? `take out “${mark.quote}”` : `“${mark.quote}” → “${mark.replacement}”`;
    case "tick": return "tick";
    case "cross": return "cross";
    case "note": return mark.nature === "request" ? "asks" : "note";
  }
}

type Acts = { onChange: (mark: DraftMark, given: Pick<DraftMark, "nature" | "body" | "replacement">) => void; onDelete: (mark: DraftMark) => void };

/** A mark of the draft, beside its words. */
export function NoteCard({ mark, chosen, bank, called, title, onChange, onDelete, onChoose }: { mark: DraftMark; chosen: boolean; bank: readonly CommentView[]; called: string; title: string; onChoose: () => void } & Acts) {
  const [editing, setEditing] = useState(false);
  const label = sayMark(mark);
  if (editing) return <EditNote mark={mark} bank={bank} called={called} title={title} onChange={onChange} onDone={() => setEditing(false)} />;
  return (
    <article className={classes("group border-l-2 bg-paper pl-2.5 pr-1 text-sm", mark.nature === "request" ? "border-ember" : isEdit(mark) ? "border-plum" : "border-tide", chosen && "bg-tide-wash")} onClick={onChoose}>
      <p className="flex items-baseline gap-2">
        <span className={classes("label", mark.nature === "request" && "text-ember", isEdit(mark) && "text-plum")}>{isEdit(mark) ? "edit" : label}</span>
        {mark.againOf ? <span className="label">asked again</span> : null}
        <span className={classes("ml-auto flex opacity-0 group-focus-within:opacity-100 group-hover:opacity-100", chosen && "opacity-100")}>
          {mark.kind !== "tick" && mark.kind !== "cross" && mark.kind !== "delete" ? (
            <Button small ink="quiet" className="min-h-6! py-0" onClick={() => setEditing(true)} aria-label={`Change: ${label}`}>
              Change
            </Button>
          ) : null}
          <Button small ink="quiet" className="min-h-6! py-0" onClick={() => onDelete(mark)} aria-label={`Delete: ${label}`}>
            Delete
          </Button>
        </span>
      </p>
      {isEdit(mark) ? <p>{label}</p> : null}
      {mark.body ? <p className="whitespace-pre-wrap">{mark.body}</p> : null}
    </article>
  );
}

function EditNote({ mark, bank, called, title, onChange, onDone }: { mark: DraftMark; bank: readonly CommentView[]; called: string; title: string; onChange: Acts["onChange"]; onDone: () => void }) {
  const [body, setBody] = useState(mark.body);
  const [replacement, setReplacement] = useState(mark.replacement);
  const [nature, setNature] = useState(mark.nature);
  const save = () => {
    onChange(mark, { body, replacement, nature });
    onDone();
  };
  const keys = (event: React.KeyboardEvent) => {
    if (event.key === "Escape") onDone();
    else if (event.key === "Enter" && !event.shiftKey) {
      event.preventDefault();
      save();
    }
  };
  return (
    <div className="border border-tide bg-raised p-2 text-sm">
      {mark.kind === "note" ? (
        <>
          <BankField label="Note" hideLabel autoFocus value={body} onChange={setBody} bank={bank} values={{ name: called, title }} onKeyDown={keys} />
          <label className="mt-2 flex items-center gap-1.5">
            <input type="checkbox" className="size-4 accent-ember" checked={nature === "request"} onChange={(e) => setNature(e.target.checked ? "request" : "remark")} />
            asks for something
          </label>
        </>
      ) : (
        <TextField label="New words" autoFocus value={replacement} onChange={(e) => setReplacement(e.target.value)} onKeyDown={keys} />
      )}
      <div className="mt-2 flex justify-end gap-1">
        <Button small ink="quiet" onClick={onDone}>
          Leave it
        </Button>
        <Button small ink="tide" onClick={save}>
          Keep
        </Button>
      </div>
    </div>
  );
}

const BECAME = { open: "not done yet", done: "the student says: done", settled: "settled", "asked again": "asked again" } as const;

/** A mark of an earlier round with what became of it, and the teacher's word on it. */
export function EarlierCard({ mark, chosen, onRule, onChoose }: { mark: EarlierMark; chosen: boolean; onRule: (ruling: "settled" | "again" | null) => void; onChoose: () => void }) {
  const became = mark.request ? BECAME[mark.request] : mark.decision ? (mark.decision === "accepted" ? "accepted" : "declined") : null;
  return (
    <article className={classes("border-l-2 border-dashed bg-paper pl-2.5 pr-1 text-sm", mark.request === "done" || mark.ruling === "settled" ? "border-moss" : "border-line-strong", chosen && "bg-tide-wash")} onClick={onChoose}>
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className="label">
          round {mark.round} · {mark.kind === "note" ? (mark.nature === "request" ? "asked" : "note") : isEdit(mark) ? "edit" : mark.kind}
        </span>
        {became ? <span className={classes("label", mark.request === "open" ? "text-ember" : "text-moss")}>{became}</span> : null}
        {mark.at === null ? <span className="label text-ember">its words are gone</span> : null}
      </p>
      {mark.at === null && mark.quote ? <p className="font-serif italic text-soft line-through">{mark.quote}</p> : null}
      {isEdit(mark) ? <p>{sayMark(mark)}</p> : null}
      {mark.body ? <p className="text-soft">{mark.body}</p> : null}
      {mark.messages.map((message) => (
        <p key={message.id} className="mt-1 border-l border-line-strong pl-2">
          <span className="text-soft">{message.author}:</span> {message.body}
        </p>
      ))}
      {mark.nature === "request" ? (
        <div className="mt-1 flex gap-1" role="group" aria-label="What about this request">
          <Button small ink={mark.ruling === "settled" ? "tide" : "plain"} aria-pressed={mark.ruling === "settled"} onClick={() => onRule(mark.ruling === "settled" ? null : "settled")}>
            Settled
          </Button>
          <Button small ink={mark.ruling === "again" ? "tide" : "plain"} aria-pressed={mark.ruling === "again"} onClick={() => onRule(mark.ruling === "again" ? null : "again")}>
            Ask again
          </Button>
        </div>
      ) : null}
    </article>
  );
}
