"use client";

import { memo, useState } from "react";
import { isEdit, isStamp, nameOfMark, sayEdit } from "@/core/marks/mark";
import type { DraftMark, EarlierMark } from "@/core/views/views";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/Field";
import { classes } from "../../kit/classes";
import { sayPlace, signOf } from "../../marks/drawn";
import { NoteText } from "../../marks/NoteText";
import { Speak } from "../../voice/Speak";
import { VoiceNote } from "../../voice/VoiceNote";
import type { MarkChange } from "@/core/marks/schema";
import { NoteFields, NATURE_WORDS, type NoteDraft, type NoteHelp } from "./NoteFields";

type Acts = {
  onChange: (mark: DraftMark, given: MarkChange) => void;
  onDelete: (mark: DraftMark) => void;
  onKeep: (mark: DraftMark) => void;
};
type Props = {
  mark: DraftMark;
  /** What stands on its pin. */ number?: number;
  chosen: boolean;
  editing: boolean;
  onEdit: (id: string | null) => void;
  help: NoteHelp;
  sentence: string;
  onChoose: (id: string) => void;
  folded: boolean;
} & Acts;

const border = (mark: DraftMark) =>
  mark.nature === "request"
    ? "border-ember"
    : mark.nature === "praise"
      ? "border-moss"
      : isEdit(mark)
        ? "border-plum"
        : "border-tide";

/** A mark of the draft, beside its words. */
export const NoteCard = memo(function NoteCard({
  mark,
  number,
  chosen,
  editing,
  onEdit,
  help,
  sentence,
  onChange,
  onDelete,
  onKeep,
  onChoose,
  folded,
}: Props) {
  const label = isEdit(mark) ? sayEdit(mark) : isStamp(mark) ? `${signOf(mark)}` : nameOfMark(mark);
  if (editing)
    return (
      <EditNote
        mark={mark}
        help={help}
        sentence={sentence}
        onChange={onChange}
        onDone={() => onEdit(null)}
      />
    );
  const criterion = mark.criterionId
    ? help.rubric?.criteria.find((c) => c.id === mark.criterionId)?.name
    : null;
  return (
    <article
      className={classes(
        "group border-l-2 bg-paper pl-2.5 pr-1 text-sm",
        border(mark),
        chosen && "bg-tide-wash",
      )}
      onClick={() => onChoose(mark.id)}
    >
      <p className="flex items-baseline gap-2">
        {number ? <span className="font-semibold">{number}</span> : null}
        <span
          className={classes(
            "label whitespace-nowrap",
            mark.nature === "request" && "text-ember",
            mark.nature === "praise" && "text-moss",
            isEdit(mark) && "text-plum",
          )}
        >
          {mark.nature === "remark" ? nameOfMark(mark) : NATURE_WORDS[mark.nature]}
        </span>
        {mark.place.on === "text" ? null : (
          <span className="label whitespace-nowrap">{sayPlace(mark.place)}</span>
        )}
        {mark.againOf ? <span className="label">asked again</span> : null}
        {mark.points ? (
          <span className="label whitespace-nowrap text-ink">{mark.points} pt</span>
        ) : null}
        <span
          className={classes(
            "ml-auto flex opacity-0 group-focus-within:opacity-100 group-hover:opacity-100",
            chosen && "opacity-100",
          )}
        >
          {mark.kind === "note" &&
          mark.commentId === null &&
          (mark.body.length > 12 || mark.clipId) ? (
            <Button
              small
              ink="quiet"
              className="min-h-6! py-0"
              onClick={() => onKeep(mark)}
              aria-label={`Keep in the bank: ${label}`}
              title="Keep in the bank (k)"
            >
              Keep
            </Button>
          ) : null}
          {mark.kind === "note" ||
          mark.kind === "insert" ||
          mark.kind === "replace" ||
          mark.kind === "stamp" ? (
            <Button
              small
              ink="quiet"
              className="min-h-6! py-0"
              onClick={() => onEdit(mark.id)}
              aria-label={`Change: ${label}`}
            >
              Change
            </Button>
          ) : null}
          <Button
            small
            ink="quiet"
            className="min-h-6! py-0"
            onClick={() => onDelete(mark)}
            aria-label={`Delete: ${label}`}
          >
            Delete
          </Button>
        </span>
      </p>
      {criterion ? <p className="label">{criterion}</p> : null}
      {folded && !chosen ? (
        <p className="truncate">
          {isEdit(mark) ? label : `${mark.clipId ? "● " : ""}${mark.body || label}`}
        </p>
      ) : (
        <>
          {isEdit(mark) || isStamp(mark) ? <p>{label}</p> : null}
          {mark.body && mark.kind !== "stamp" ? (
            <NoteText text={mark.body} sentence={mark.sentence} />
          ) : null}
          <VoiceNote clipId={mark.clipId} />
        </>
      )}
    </article>
  );
});

function EditNote({
  mark,
  help,
  sentence,
  onChange,
  onDone,
}: {
  mark: DraftMark;
  help: NoteHelp;
  sentence: string;
  onChange: Acts["onChange"];
  onDone: () => void;
}) {
  const [draft, setDraft] = useState<NoteDraft>({
    body: mark.body,
    nature: mark.nature,
    sentence: mark.sentence,
    criterionId: mark.criterionId,
    points: mark.points ?? "",
    commentId: mark.commentId,
    clipId: mark.clipId,
  });
  const [words, setWords] = useState(mark.kind === "stamp" ? mark.body : mark.replacement);
  const save = () => {
    if (mark.kind === "note")
      onChange(mark, {
        body: draft.body.trim(),
        nature: draft.nature,
        sentence: draft.sentence,
        criterionId: draft.criterionId,
        points: draft.points || null,
        clipId: draft.clipId,
      });
    else onChange(mark, mark.kind === "stamp" ? { body: words } : { replacement: words });
    onDone();
  };
  return (
    <div className="border border-tide bg-raised p-2 text-sm">
      {mark.kind === "note" ? (
        <NoteFields
          draft={draft}
          onChange={setDraft}
          help={help}
          sentence={sentence}
          words={sentence || mark.quote}
          onKeep={save}
          onDrop={onDone}
          begin={mark.body.length}
        />
      ) : (
        <TextField
          label={mark.kind === "stamp" ? "The stamp says" : "New words"}
          autoFocus
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Escape") onDone();
            else if (event.key === "Enter") save();
            else return;
            event.preventDefault();
          }}
        />
      )}
      {mark.kind === "note" ? (
        <div className="mt-2">
          <Speak
            pieceId={help.pieceId}
            place={`note ${help.pieceId}`}
            clipId={draft.clipId}
            onClip={(clip) => setDraft((old) => ({ ...old, clipId: clip?.id ?? null }))}
          />
        </div>
      ) : null}
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

const BECAME = {
  open: "not done yet",
  done: "the student says: done",
  settled: "settled",
  "asked again": "asked again",
} as const;

/** A mark of an earlier round with what became of it, and the teacher's word on it. */
export function EarlierCard({
  mark,
  number,
  chosen,
  onRule,
  onChoose,
}: {
  mark: EarlierMark;
  number?: number;
  chosen: boolean;
  onRule: (ruling: "settled" | "again" | null) => void;
  onChoose: () => void;
}) {
  const became = mark.request
    ? BECAME[mark.request]
    : mark.decision
      ? mark.decision === "accepted"
        ? "accepted"
        : "declined"
      : null;
  return (
    <article
      className={classes(
        "border-l-2 border-dashed bg-paper pl-2.5 pr-1 text-sm",
        mark.request === "done" || mark.ruling === "settled" ? "border-moss" : "border-line-strong",
        chosen && "bg-tide-wash",
      )}
      onClick={onChoose}
    >
      <p className="flex flex-wrap items-baseline gap-x-2">
        {number ? <span className="font-semibold">{number}</span> : null}
        <span className="label">
          round {mark.round} ·{" "}
          {mark.kind === "note" && mark.nature === "request" ? "asked" : nameOfMark(mark)}{" "}
          {sayPlace(mark.place)}
        </span>
        {became ? (
          <span className={classes("label", mark.request === "open" ? "text-ember" : "text-moss")}>
            {became}
          </span>
        ) : null}
        {mark.gone ? (
          <span className="label text-ember">
            {mark.place.on === "text" ? "its words are gone" : "its file is not in this version"}
          </span>
        ) : null}
      </p>
      {mark.gone && mark.quote ? (
        <p className="font-serif italic text-soft line-through">{mark.quote}</p>
      ) : null}
      {isEdit(mark) ? <p>{sayEdit(mark)}</p> : null}
      {mark.body && mark.kind !== "stamp" ? (
        <div className="text-soft">
          <NoteText text={mark.body} sentence={mark.sentence} />
        </div>
      ) : null}
      <VoiceNote clipId={mark.clipId} />
      {mark.messages.map((message) => (
        <p key={message.id} className="mt-1 border-l border-line-strong pl-2">
          <span className="text-soft">{message.author}:</span> {message.body}
          <VoiceNote clipId={message.clipId} />
        </p>
      ))}
      {mark.nature === "request" ? (
        <div className="mt-1 flex gap-1" role="group" aria-label="What about this request">
          <Button
            small
            ink={mark.ruling === "settled" ? "tide" : "plain"}
            aria-pressed={mark.ruling === "settled"}
            onClick={() => onRule(mark.ruling === "settled" ? null : "settled")}
          >
            Settled
          </Button>
          <Button
            small
            ink={mark.ruling === "again" ? "tide" : "plain"}
            aria-pressed={mark.ruling === "again"}
            onClick={() => onRule(mark.ruling === "again" ? null : "again")}
          >
            Ask again
          </Button>
        </div>
      ) : null}
    </article>
  );
}
