"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { LettersView, LetterWord, ReceivedLetter, SentLetter } from "@/core/views/letterViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { TextArea } from "../kit/Field";
import { Empty, Notice } from "../kit/Notice";

type OnView = (view: LettersView) => void;

/** Letters: those one got, and those that one's sections sent, each with what came back. */
export function Letters({ first }: { first: LettersView }) {
  const [view, setView] = useState(first);
  if (view.received.length + view.sent.length === 0)
    return (
      <Empty title="No letters yet">
        Teachers write from a hand-out’s sheet or a student’s page; what comes back stands here.
      </Empty>
    );
  return (
    <div className="grid gap-8">
      {view.received.length > 0 ? (
        <ul>
          {view.received.map((letter) => (
            <li key={letter.id} className="border-t border-line">
              <Received letter={letter} onView={setView} />
            </li>
          ))}
        </ul>
      ) : null}
      {view.sent.length > 0 ? (
        <ul>
          {view.sent.map((letter) => (
            <li key={letter.letterId} className="border-t border-line">
              <Sent letter={letter} onView={setView} />
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

const SUMMARY = "flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-4 py-2";

/** Opened, it counts as read. */
const noteRead = (letterToId: string) =>
  void call(contract.noteLetterRead, { params: { letterToId } }).catch(() => {});

function Received({ letter, onView }: { letter: ReceivedLetter; onView: OnView }) {
  const [read, setRead] = useState(false);
  const unread = letter.unread && !read;
  return (
    <details
      onToggle={(event) => {
        if (!event.currentTarget.open || !unread) return;
        setRead(true);
        noteRead(letter.id);
      }}
    >
      <summary className={SUMMARY}>
        <span className={classes("min-w-52 flex-1 font-serif text-lg", unread && "font-semibold")}>
          {unread ? <span className="text-plum">★ </span> : null}
          {letter.subject}
        </span>
        <span className="text-sm text-soft">
          {letter.from}, {letter.section}
          {letter.about ? ` · about ${letter.about}` : ""} · {letter.when}
        </span>
      </summary>
      <div className="max-w-[42rem] pb-5">
        <p className="whitespace-pre-wrap">{letter.body}</p>
        <Words words={letter.words} />
        <Answer letterToId={letter.id} onView={onView} />
      </div>
    </details>
  );
}

function Sent({ letter, onView }: { letter: SentLetter; onView: OnView }) {
  const answered = letter.to.filter((copy) => copy.words.some((word) => !word.mine)).length;
  const read = letter.to.filter((copy) => copy.read !== null).length;
  return (
    <details open={letter.unread > 0}>
      <summary className={SUMMARY}>
        <span className="min-w-52 flex-1 font-serif text-lg">{letter.subject}</span>
        {letter.unread > 0 ? (
          <strong className="text-ember">▲ {sayCount(letter.unread, "answer")} to read</strong>
        ) : null}
        <span className="text-sm text-soft">
          {letter.mine ? "I" : letter.by} to {letter.to.length} · {letter.section} · {letter.when}
          {letter.held ? ` · goes ${letter.held}` : ` · read by ${read}, answered by ${answered}`}
        </span>
      </summary>
      <div className="max-w-[42rem] pb-5">
        {letter.title ? <p className="label">{letter.title}</p> : null}
        <p className="whitespace-pre-wrap">{letter.body}</p>
        <ul className="mt-3">
          {letter.to.map((copy) => (
            <li key={copy.id} className="border-t border-line py-1.5">
              <Copy copy={copy} onView={onView} />
            </li>
          ))}
        </ul>
      </div>
    </details>
  );
}

function Copy({ copy, onView }: { copy: SentLetter["to"][number]; onView: OnView }) {
  const [answering, setAnswering] = useState(false);
  const [seen, setSeen] = useState(false);
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">
          {copy.name}
          {copy.about ? ` (for ${copy.about})` : ""}
        </span>
        <span className="text-sm text-soft">
          {copy.read ? `read ${copy.read}` : "not read yet"}
          {copy.byMail ? "" : " · no address: in Almanac only"}
        </span>
        {copy.unread > 0 && !seen ? (
          <Button
            small
            onClick={() => {
              setSeen(true);
              noteRead(copy.id);
            }}
          >
            I have read it
          </Button>
        ) : null}
        <Button small ink="quiet" onClick={() => setAnswering(!answering)}>
          Write to them
        </Button>
      </p>
      <Words words={copy.words} />
      {answering ? <Answer letterToId={copy.id} onView={onView} /> : null}
    </>
  );
}

function Words({ words }: { words: readonly LetterWord[] }) {
  if (words.length === 0) return null;
  return (
    <ul className="my-2 space-y-2">
      {words.map((word) => (
        <li
          key={word.id}
          className={classes("border-l-2 pl-3", word.mine ? "border-tide" : "border-plum")}
        >
          <span className="text-sm text-soft">
            {word.mine ? "I" : word.author}, {word.when}
            {word.byMail ? ", by mail" : ""}
          </span>
          <p className="whitespace-pre-wrap">{word.body}</p>
        </li>
      ))}
    </ul>
  );
}

function Answer({ letterToId, onView }: { letterToId: string; onView: OnView }) {
  const [body, setBody] = useState("");
  const [key, setKey] = useState(() => crypto.randomUUID());
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function send() {
    setBusy(true);
    try {
      onView(await call(contract.answerLetter, { params: { letterToId }, body: { body }, key }));
      setBody("");
      setProblem(null);
      setKey(crypto.randomUUID());
    } catch (error) {
      setProblem(sayProblem(error));
    }
    setBusy(false);
  }
  return (
    <form
      className="mt-3 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextArea
        label="Answer"
        rows={3}
        value={body}
        maxLength={8000}
        onChange={(event) => setBody(event.target.value)}
      />
      <span>
        <Button type="submit" small disabled={busy || body.trim() === ""}>
          Send the answer
        </Button>
      </span>
    </form>
  );
}
