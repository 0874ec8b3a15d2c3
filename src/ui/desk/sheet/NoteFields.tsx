"use client";

import { useRef, type KeyboardEvent } from "react";
import { INKS, type Ink } from "@/core/marks/place";
import type { Nature } from "@/core/marks/schema";
import type { PlaceholderValues } from "@/core/comments/placeholders";
import { formatNote, withSentence } from "@/core/text/noteText";
import { criterionNamed, type Rubric } from "@/core/rubrics/rubric";
import type { CommentView } from "@/core/views/views";
import { BankField } from "../../comments/BankField";

/** What a note says, what kind it is, and what it counts for. */
export type NoteDraft = {
  body: string;
  nature: Nature;
  sentence: string;
  criterionId: string | null;
  points: string;
  ink: Ink | null;
  commentId: string | null;
  clipId: string | null;
};

/** What the fields of a note are given by the Desk. */
export type NoteHelp = {
  bank: readonly CommentView[];
  suggested: (words: string, criterion?: string | null) => readonly CommentView[];
  values: PlaceholderValues;
  rubric: Rubric | null;
  /** The piece that voices are recorded for. */ pieceId: string;
};

export const NATURE_WORDS: Readonly<Record<Nature, string>> = {
  remark: "remark",
  request: "asks",
  praise: "praise",
};
const NEXT: Readonly<Record<Nature, Nature>> = {
  remark: "request",
  request: "praise",
  praise: "remark",
};

/** The fields of a note: its words with the bank behind `;`, its kind, and where there is a rubric its criterion and points. */
export function NoteFields({
  draft,
  onChange,
  help,
  sentence,
  words,
  onKeep,
  onDrop,
  label = "Note",
  begin,
}: {
  draft: NoteDraft;
  onChange: (draft: NoteDraft) => void;
  help: NoteHelp;
  /** The student's sentence, for bringing in. */ sentence: string;
  words: string;
  onKeep: () => void;
  onDrop: () => void;
  label?: string;
  begin?: number;
}) {
  const field = useRef<HTMLTextAreaElement>(null);
  const select = (start: number, end: number) =>
    requestAnimationFrame(() => field.current?.setSelectionRange(start, end));

  function bringSentence() {
    const next = withSentence(draft.body, sentence);
    onChange({ ...draft, body: next.text, sentence });
    select(next.caret, next.caret + sentence.length);
  }

  function keys(event: KeyboardEvent<HTMLTextAreaElement>) {
    const { value, selectionStart: start, selectionEnd: end } = event.currentTarget;
    const ctrl = event.ctrlKey || event.metaKey;
    const how = ctrl
      ? ({ b: "bold", i: "italic", l: "list" } as const)[event.key.toLowerCase() as "b" | "i" | "l"]
      : undefined;
    if (event.key === "Escape") onDrop();
    else if (event.key === "Enter" && !event.shiftKey) onKeep();
    else if (how) {
      const next = formatNote({ text: value, start, end }, how);
      onChange({ ...draft, body: next.text });
      select(next.start, next.end);
    } else if (event.altKey && event.key.toLowerCase() === "s" && sentence) {
      bringSentence();
    } else if (event.altKey && event.key.toLowerCase() === "q")
      onChange({ ...draft, nature: NEXT[draft.nature] });
    else return;
    event.preventDefault();
  }

  return (
    <>
      <BankField
        label={label}
        hideLabel
        autoFocus
        rows={3}
        value={draft.body}
        onChange={(body) => onChange({ ...draft, body })}
        bank={help.bank}
        suggested={help.suggested(
          words,
          help.rubric?.criteria.find((c) => c.id === draft.criterionId)?.name ?? null,
        )}
        values={help.values}
        fieldRef={field}
        begin={begin}
        onUsed={(body, comment) =>
          onChange({
            ...draft,
            body,
            commentId: comment.id,
            nature: comment.nature,
            points: comment.points ?? draft.points,
            criterionId: criterionNamed(help.rubric, comment.criterion) ?? draft.criterionId,
          })
        }
        onKeyDown={keys}
        placeholder="Write, or ; and a shorthand"
      />
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <fieldset className="flex flex-wrap gap-x-3">
          <legend className="sr-only">Kind of note (Alt+Q)</legend>
          {(["remark", "request", "praise"] as const).map((nature) => (
            <label key={nature} className="flex items-center gap-1">
              <input
                type="radio"
                className="size-4 accent-tide"
                checked={draft.nature === nature}
                onChange={() => onChange({ ...draft, nature })}
              />
              {nature === "request" ? "asks for something" : NATURE_WORDS[nature]}
            </label>
          ))}
        </fieldset>
        <InkOfNote ink={draft.ink} onInk={(ink) => onChange({ ...draft, ink })} />
        {sentence ? (
          <button
            type="button"
            className="cursor-pointer text-tide underline underline-offset-4"
            title="Alt+S"
            onClick={() => {
              field.current?.focus();
              bringSentence();
            }}
          >
            bring the sentence in
          </button>
        ) : null}
      </div>
      {help.rubric ? (
        <div className="mt-1.5 flex flex-wrap items-center gap-2">
          <label className="flex min-w-0 flex-1 items-center gap-1">
            <span className="label">criterion</span>
            <select
              className="min-h-7 min-w-0 flex-1 border border-line-strong bg-raised text-sm"
              value={draft.criterionId ?? ""}
              onChange={(event) => onChange({ ...draft, criterionId: event.target.value || null })}
            >
              <option value="">none</option>
              {help.rubric.criteria.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1">
            <span className="label">points</span>
            <input
              className="min-h-7 w-14 border border-line-strong bg-raised px-1 text-sm"
              inputMode="decimal"
              value={draft.points}
              placeholder="–"
              onChange={(event) =>
                onChange({
                  ...draft,
                  points: event.target.value
                    .replace("−", "-")
                    .replace(",", ".")
                    .replace(/[^-+\d.]/g, ""),
                })
              }
            />
          </label>
        </div>
      ) : null}
    </>
  );
}

/** The ink a note is in: that of its kind, unless another was chosen. */
function InkOfNote({ ink, onInk }: { ink: Ink | null; onInk: (ink: Ink | null) => void }) {
  return (
    <label className="flex items-center gap-1">
      <span className="label">ink</span>
      <select
        className="min-h-7 border border-line-strong bg-raised text-sm"
        value={ink ?? ""}
        onChange={(event) => onInk(INKS.find((one) => one === event.target.value) ?? null)}
      >
        <option value="">of its kind</option>
        {INKS.map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    </label>
  );
}
