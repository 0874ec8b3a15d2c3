"use client";

import { useState } from "react";
import type { Nature } from "@/core/marks/schema";
import type { Place } from "@/core/marks/place";
import { sayDuration } from "@/core/items/kinds";
import { sayPlace } from "../../marks/drawn";
import type { ClipView } from "@/core/views/voiceViews";
import { Button } from "../../kit/Button";
import { Speak } from "../../voice/Speak";
import { TextField } from "../../kit/Field";
import type { NewMark } from "../store/PieceStore";
import { NoteFields, type NoteDraft, type NoteHelp } from "./NoteFields";

export type Composing = {
  kind: "note" | "insert" | "replace";
  nature: Nature;
  place: Place;
  start: number;
  end: number;
  quote: string;
  /** The student's sentence around the words. */ sentence: string;
  begin: string;
  commentId: string | null;
  /** It is spoken: recording begins at once. */ speak?: boolean;
};

/** Where a new mark is written: beside its words, kept with Enter, dropped with Escape. */
export function Composer({
  composing,
  help,
  onKeep,
  onDrop,
  onTyped,
}: {
  composing: Composing;
  help: NoteHelp;
  onKeep: (mark: NewMark) => void;
  onDrop: () => void;
  /** What is written so far, for keeping it on the device. */ onTyped: (
    begin: string,
    nature: Nature,
  ) => void;
}) {
  const [draft, setDraftNow] = useState<NoteDraft>({
    body: composing.begin,
    nature: composing.nature,
    sentence: "",
    criterionId: null,
    points: "",
    ink: null,
    commentId: composing.commentId,
    clipId: null,
  });
  const setDraft = (next: NoteDraft) => {
    setDraftNow(next);
    onTyped(next.body, next.nature);
  };
  const [words, setWords] = useState(composing.begin);
  const [place, setPlace] = useState(composing.place);
  const edit = composing.kind !== "note";
  const { kind, start, end, quote } = composing;

  /** A note that was begun by speaking is kept with its voice: one press less. */
  function spoken(clip: ClipView | null) {
    setDraft({ ...draft, clipId: clip?.id ?? null });
    if (clip && composing.speak && draft.body.trim() === "") keepIt(clip.id);
  }
  function keepIt(clipId = draft.clipId) {
    if (edit)
      return onKeep({
        kind: words === "" ? "delete" : kind,
        start,
        end,
        quote,
        place,
        replacement: words,
      });
    if (draft.body.trim() === "" && !clipId) return;
    onKeep({
      kind: "note",
      start,
      end,
      quote,
      place,
      nature: draft.nature,
      body: draft.body.trim(),
      sentence: draft.body.includes("> ") ? draft.sentence : "",
      criterionId: draft.criterionId,
      points: draft.points || null,
      ink: draft.ink,
      commentId: draft.commentId,
      ...(clipId ? { clipId } : {}),
    });
  }

  return (
    <div className="border border-tide bg-raised p-2 text-sm shadow-lifted" data-composer>
      <p className="mb-1 truncate font-serif italic text-soft">
        {quote ? `“${quote}”` : sayWhere(place)}
      </p>
      {place.on === "time" ? <Stretch place={place} onChange={setPlace} /> : null}
      {edit ? (
        <TextField
          label={kind === "insert" ? "Words to put in" : "Words instead"}
          value={words}
          autoFocus
          onChange={(event) => {
            setWords(event.target.value);
            onTyped(event.target.value, composing.nature);
          }}
          onKeyDown={(event) => {
            if (event.key === "Escape") onDrop();
            else if (event.key === "Enter") keepIt();
            else return;
            event.preventDefault();
          }}
        />
      ) : (
        <NoteFields
          draft={draft}
          onChange={setDraft}
          help={help}
          sentence={composing.sentence}
          words={composing.sentence || quote}
          onKeep={() => keepIt()}
          onDrop={onDrop}
        />
      )}
      {edit ? null : (
        <div className="mt-2">
          <Speak
            pieceId={help.pieceId}
            place={`note ${help.pieceId}`}
            clipId={draft.clipId}
            auto={composing.speak}
            onClip={spoken}
          />
        </div>
      )}
      <div className="mt-2 flex justify-end gap-1">
        <Button small ink="quiet" onClick={onDrop}>
          Drop
        </Button>
        <Button
          small
          ink="tide"
          disabled={!edit && draft.body.trim() === "" && !draft.clipId}
          onClick={() => keepIt()}
        >
          Keep
        </Button>
      </div>
    </div>
  );
}

type Moment = Extract<Place, { on: "time" }>;

/** From when to when: minutes and seconds, as they are typed. */
function Stretch({ place, onChange }: { place: Moment; onChange: (place: Moment) => void }) {
  const [to, setTo] = useState(place.to === null ? "" : sayDuration(place.to));
  const [from, setFrom] = useState(sayDuration(place.from));
  const read = (text: string): number | null => {
    const found = /^(?:(\d{1,3}):)?(\d{1,3}(?:[.,]\d)?)$/.exec(text.trim());
    return found ? Number(found[1] ?? 0) * 60 + Number(found[2]!.replace(",", ".")) : null;
  };
  const box = "w-16 border border-line-strong bg-paper px-1 tabular-nums";
  return (
    <p className="mb-1.5 flex items-center gap-1.5">
      <label>
        from{" "}
        <input
          className={box}
          value={from}
          onChange={(event) => {
            setFrom(event.target.value);
            const at = read(event.target.value);
            if (at !== null) onChange({ ...place, from: at });
          }}
        />
      </label>
      <label>
        to{" "}
        <input
          className={box}
          value={to}
          placeholder="–"
          onChange={(event) => {
            setTo(event.target.value);
            const at = read(event.target.value);
            onChange({ ...place, to: at !== null && at > place.from ? at : null });
          }}
        />
      </label>
    </p>
  );
}

function sayWhere(place: Place): string {
  if (place.on !== "whole") return sayPlace(place) || "here";
  return place.itemId ? "on this file" : "on the whole";
}
