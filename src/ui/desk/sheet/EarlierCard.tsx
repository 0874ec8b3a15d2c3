"use client";

import { shorten } from "@/core/text/shorten";
import { isEdit, nameOfMark, sayEdit } from "@/core/marks/mark";
import { plainText } from "@/core/text/plainText";
import type { EarlierMark } from "@/core/views/deskViews";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { sayPlace } from "../../marks/drawn";
import { ReplyForm } from "../../piece/Thread";
import { NoteText } from "../../marks/NoteText";
import { VoiceNote } from "../../voice/VoiceNote";
import type { DeskSession } from "../store/DeskSession";

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
  session,
}: {
  mark: EarlierMark;
  number?: number;
  chosen: boolean;
  session: DeskSession;
}) {
  return (
    <article
      className={classes(
        "border-l-2 border-dashed bg-paper pl-2.5 pr-1 text-sm",
        mark.request === "done" || mark.ruling === "settled" ? "border-moss" : "border-line-strong",
        chosen && "bg-tide-wash",
      )}
      onClick={() => session.marking.choose(mark.id)}
    >
      <Head mark={mark} number={number} />
      <Said mark={mark} />
      <Answer mark={mark} session={session} />
      {mark.nature === "request" ? <WhatAbout mark={mark} session={session} /> : null}
      <Likely mark={mark} session={session} />
    </article>
  );
}

function Head({ mark, number }: { mark: EarlierMark; number?: number }) {
  const became = mark.request ? BECAME[mark.request] : mark.decision;
  const called = mark.kind === "note" && mark.nature === "request" ? "asked" : nameOfMark(mark);
  const lost = mark.place.on === "text" ? "its words are gone" : "its file is not in this version";
  return (
    <p className="flex flex-wrap items-baseline gap-x-2">
      {number ? <span className="font-semibold">{number}</span> : null}
      <span className="label">
        round {mark.round} · {called} {sayPlace(mark.place)}
      </span>
      {became ? (
        <span className={classes("label", mark.request === "open" ? "text-ember" : "text-moss")}>
          {became}
        </span>
      ) : null}
      {mark.gone ? <span className="label text-ember">{lost}</span> : null}
    </p>
  );
}

/** What it said, and what was said to it. */
function Said({ mark }: { mark: EarlierMark }) {
  return (
    <>
      {mark.gone && mark.quote ? (
        <p className="font-serif text-soft">
          {mark.lost?.left}
          <span className="italic line-through">{mark.quote}</span>
          {mark.lost?.right}
        </p>
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
    </>
  );
}

/** A question that the student asked on a mark is answered where it stands. */
function Answer({ mark, session }: { mark: EarlierMark; session: DeskSession }) {
  const { piece } = session.store.getState();
  const last = mark.messages.at(-1);
  if (!piece || !last || last.mine) return null;
  return (
    <ReplyForm
      pieceId={piece.id}
      markId={mark.id}
      label="Answer this"
      placeholder="Answer this"
      rows={1}
      onSent={(message) =>
        session.store.patch((old) => ({
          ...old,
          earlier: old.earlier.map((one) =>
            one.id === mark.id ? { ...one, messages: [...one.messages, message] } : one,
          ),
        }))
      }
    />
  );
}

/** Words that stand where the mark's own were: a request can be asked again on them. */
function Likely({ mark, session }: { mark: EarlierMark; session: DeskSession }) {
  const likely = mark.lost?.likely;
  const { piece } = session.store.getState();
  if (!likely || !piece?.doc || mark.nature !== "request" || mark.ruling !== null) return null;
  const words = plainText(piece.doc).text.slice(likely.start, likely.end);
  return (
    <p className="mt-1">
      <span className="label">there now</span>{" "}
      <span className="font-serif">“{shorten(words, 90)}”</span>{" "}
      <Button small ink="quiet" onClick={() => session.store.rule(mark.id, "again", true)}>
        Ask again there
      </Button>
    </p>
  );
}

/** The teacher's word on a request. */
function WhatAbout({ mark, session }: { mark: EarlierMark; session: DeskSession }) {
  const onRule = (ruling: EarlierMark["ruling"]) => session.store.rule(mark.id, ruling);
  return (
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
  );
}
