"use client";

import { useState } from "react";
import type { Nature } from "@/core/marks/mark";
import type { CommentView } from "@/core/views/views";
import { BankField } from "../comments/BankField";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import type { NewMark } from "./useDeskPiece";

export type Composing = { kind: "note" | "insert" | "replace"; nature: Nature; start: number; end: number; quote: string; begin: string };

/** Where a new mark is written: beside its words, kept with Enter, dropped with Escape. */
export function Composer({ composing, bank, called, title, onKeep, onDrop }: { composing: Composing; bank: readonly CommentView[]; called: string; title: string; onKeep: (mark: NewMark) => void; onDrop: () => void }) {
  const [text, setText] = useState(composing.begin);
  const [nature, setNature] = useState<Nature>(composing.nature);
  const [commentId, setCommentId] = useState<string | null>(null);
  const edit = composing.kind !== "note";

  function keepIt() {
    if (text.trim() === "" && composing.kind !== "replace") return;
    onKeep({ kind: composing.kind, nature: edit ? "remark" : nature, start: composing.start, end: composing.end, body: edit ? "" : text.trim(), replacement: edit ? text : "", commentId: edit ? null : commentId });
  }
  function onKeyDown(event: React.KeyboardEvent) {
    if (event.key === "Escape") {
      event.preventDefault();
      onDrop();
    } else if (event.key === "Enter" && !event.shiftKey) {
      event.preventDefault();
      keepIt();
    } else if (event.key === "q" && event.altKey) {
      event.preventDefault();
      setNature((n) => (n === "request" ? "remark" : "request"));
    }
  }

  return (
    <div className="border border-tide bg-raised p-2 text-sm shadow-lifted" data-composer>
      <p className="mb-1 truncate font-serif italic text-soft">{composing.quote ? `“${composing.quote}”` : "here"}</p>
      {edit ? (
        <TextField label={composing.kind === "insert" ? "Words to put in" : "Words instead"} value={text} autoFocus onChange={(e) => setText(e.target.value)} onKeyDown={onKeyDown} />
      ) : (
        <BankField
          label="Note"
          hideLabel
          autoFocus
          value={text}
          onChange={setText}
          bank={bank}
          values={{ name: called, title }}
          onUse={(comment) => {
            setCommentId(comment.id);
            setNature(comment.nature);
          }}
          onKeyDown={onKeyDown}
          placeholder="Write, or ; and a shorthand"
          rows={3}
        />
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {edit ? null : (
          <label className="flex items-center gap-1.5">
            <input type="checkbox" className="size-4 accent-ember" checked={nature === "request"} onChange={(e) => setNature(e.target.checked ? "request" : "remark")} />
            asks for something <span className="text-soft">(Alt+Q)</span>
          </label>
        )}
        <span className="ml-auto flex gap-1">
          <Button small ink="quiet" onClick={onDrop}>
            Drop
          </Button>
          <Button small ink="tide" onClick={keepIt}>
            Keep
          </Button>
        </span>
      </div>
    </div>
  );
}
