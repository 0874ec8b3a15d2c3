"use client";

import { memo, useState } from "react";
import { isEdit, isStamp, nameOfMark, sayEdit } from "@/core/marks/mark";
import type { DraftMark } from "@/core/views/deskViews";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/Field";
import { classes } from "../../kit/classes";
import { sayPlace, signOf } from "../../marks/drawn";
import { noteInk } from "../../marks/noteInk";
import { NoteText } from "../../marks/NoteText";
import { PrintedQuote } from "../../marks/PrintedQuote";
import { Speak } from "../../voice/Speak";
import { VoiceNote } from "../../voice/VoiceNote";
import type { MarkChange, MarkKind } from "@/core/marks/schema";
import { useDesk } from "../model";
import type { DeskSession } from "../store/DeskSession";
import { NoteFields, NATURE_WORDS, type NoteDraft, type NoteHelp } from "./NoteFields";

type Props = {
  mark: DraftMark;
  /** What stands on its pin. */ number?: number;
  chosen: boolean;
  editing: boolean;
  folded: boolean;
  help: NoteHelp;
  sentence: string;
  session: DeskSession;
};

function border(mark: DraftMark): string {
  if (mark.nature === "request") return "border-ember";
  if (mark.nature === "praise") return "border-moss";
  return isEdit(mark) ? "border-plum" : "border-tide";
}

/** The ground of a note is by what it is; the word on it says the same. */
function ground(mark: DraftMark): string {
  if (mark.nature === "request") return "bg-ember-wash/60";
  if (mark.nature === "praise") return "bg-moss-wash/60";
  return isEdit(mark) ? "bg-plum-wash/50" : "bg-tide-wash/45";
}

/** What the card calls the mark. */
function labelOf(mark: DraftMark): string {
  if (isEdit(mark)) return sayEdit(mark);
  return isStamp(mark) ? signOf(mark) : nameOfMark(mark);
}

const CAN_CHANGE: readonly MarkKind[] = ["note", "insert", "replace", "stamp"];

/** A mark of the draft, beside its words. */
export const NoteCard = memo(function NoteCard(props: Props) {
  const { mark, chosen, editing, folded, help, sentence, session } = props;
  if (editing)
    return (
      <EditNote
        mark={mark}
        help={help}
        sentence={sentence}
        onChange={(given) => session.store.change(mark, given)}
        onDone={() => session.marking.edit(null)}
      />
    );
  const criterion = help.rubric?.criteria.find((c) => c.id === mark.criterionId)?.name;
  return (
    <article
      className={classes(
        "group relative border-l-4 pl-2.5 pr-1 text-sm",
        border(mark),
        ground(mark),
        noteInk(mark.ink),
        chosen && "ring-1 ring-tide",
      )}
      onClick={() => session.marking.choose(mark.id)}
    >
      <CardHead mark={mark} number={props.number} chosen={chosen} session={session} />
      {criterion ? <p className="label">{criterion}</p> : null}
      <PrintedQuote mark={mark} />
      {folded && !chosen ? <OneLine mark={mark} /> : <WholeNote mark={mark} />}
    </article>
  );
});

function OneLine({ mark }: { mark: DraftMark }) {
  const words = `${mark.clipId ? "● " : ""}${mark.body || labelOf(mark)}`;
  return <p className="truncate print:whitespace-normal">{isEdit(mark) ? labelOf(mark) : words}</p>;
}

function WholeNote({ mark }: { mark: DraftMark }) {
  return (
    <>
      {isEdit(mark) || isStamp(mark) ? <p>{labelOf(mark)}</p> : null}
      {mark.body && mark.kind !== "stamp" ? (
        <NoteText text={mark.body} sentence={mark.sentence} />
      ) : null}
      <VoiceNote clipId={mark.clipId} />
    </>
  );
}

function CardHead({
  mark,
  number,
  chosen,
  session,
}: Pick<Props, "mark" | "number" | "chosen" | "session">) {
  const { about } = useDesk();
  return (
    <p className="flex flex-wrap items-baseline gap-x-2">
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
      {mark.by && mark.by !== about.me ? (
        <span className="label whitespace-nowrap">by {mark.by}</span>
      ) : null}
      {mark.againOf ? <span className="label">asked again</span> : null}
      {mark.points ? (
        <span className="label whitespace-nowrap text-ink">{mark.points} pt</span>
      ) : null}
      <span
        className={classes(
          "flex flex-wrap bg-raised opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 max-md:ml-auto md:absolute md:top-0 md:right-0 md:z-10",
          chosen && "opacity-100",
        )}
      >
        <CardActs mark={mark} session={session} />
      </span>
    </p>
  );
}

function CardActs({ mark, session }: Pick<Props, "mark" | "session">) {
  const { bank } = useDesk();
  const label = labelOf(mark);
  const own = mark.kind === "note" && mark.commentId === null;
  const canKeep = own && (mark.body.length > 12 || mark.clipId !== null);
  const button = { small: true, ink: "quiet", className: "min-h-6! py-0" } as const;
  return (
    <>
      {canKeep ? (
        <Button
          {...button}
          onClick={() => void bank.keepNote(mark)}
          aria-label={`Keep in the bank: ${label}`}
          title="Keep in the bank (k)"
        >
          Keep
        </Button>
      ) : null}
      {CAN_CHANGE.includes(mark.kind) ? (
        <Button
          {...button}
          onClick={() => session.marking.edit(mark.id)}
          aria-label={`Change: ${label}`}
        >
          Change
        </Button>
      ) : null}
      {mark.kind === "note" ? (
        <Button
          {...button}
          onClick={() => {
            session.marking.choose(mark.id);
            session.show("move");
          }}
          aria-label={`Move to another piece: ${label}`}
          title="It was meant for another piece (Shift O)"
        >
          Move
        </Button>
      ) : null}
      <Button
        {...button}
        onClick={() => session.store.removeMark(mark)}
        aria-label={`Delete: ${label}`}
      >
        Delete
      </Button>
    </>
  );
}

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
  onChange: (given: MarkChange) => void;
  onDone: () => void;
}) {
  const [draft, setDraft] = useState<NoteDraft>({
    body: mark.body,
    nature: mark.nature,
    sentence: mark.sentence,
    criterionId: mark.criterionId,
    points: mark.points ?? "",
    ink: mark.ink,
    commentId: mark.commentId,
    clipId: mark.clipId,
  });
  const [words, setWords] = useState(mark.kind === "stamp" ? mark.body : mark.replacement);
  const save = () => {
    if (mark.kind === "note")
      onChange({
        body: draft.body.trim(),
        nature: draft.nature,
        sentence: draft.sentence,
        criterionId: draft.criterionId,
        points: draft.points || null,
        ink: draft.ink,
        clipId: draft.clipId,
      });
    else onChange(mark.kind === "stamp" ? { body: words } : { replacement: words });
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
