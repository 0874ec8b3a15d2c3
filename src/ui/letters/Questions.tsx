"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { OpenQuestion } from "@/core/views/letterViews";
import type { ClipView } from "@/core/views/voiceViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Empty, Notice } from "../kit/Notice";
import { ReplyForm } from "../piece/Thread";
import { ClipsProvider } from "../voice/clips";
import { AloudProvider } from "../voice/Hear";
import { SentFiles } from "../comments/SentFiles";
import { SaidWords } from "../voice/SaidWords";

type Props = { questions: readonly OpenQuestion[]; clips: ClipView[] };

/** Every question that waits, with what it is about, answered one after the other without leaving the page. */
export function Questions({ questions, clips }: Props) {
  if (questions.length === 0)
    return <Empty title="No question waits">When a student asks something, it stands here.</Empty>;
  return (
    <ClipsProvider clips={clips} mostSeconds={60}>
      <AloudProvider first={false}>
        <ol>
          {questions.map((question) => (
            <li key={question.pieceId} className="border-t border-line py-4">
              <Question question={question} />
            </li>
          ))}
        </ol>
      </AloudProvider>
    </ClipsProvider>
  );
}

function Question({ question }: { question: OpenQuestion }) {
  const [done, setDone] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { pieceId, answers } = question;
  const close = () =>
    void call(contract.closeThread, { params: { pieceId }, body: { closed: true } }).then(
      () => setDone("closed: nothing waits in it"),
      (error: unknown) => setProblem(sayProblem(error)),
    );
  return (
    <article>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <strong>{question.student}</strong>
        <span className="text-sm text-soft">
          {question.title} · {question.section}
        </span>
        <Link href={question.href} prefetch={false} className="ml-auto text-sm">
          the piece at the Desk
        </Link>
        {question.lookId ? (
          <Link href={`/looks/${question.lookId}`} prefetch={false} className="text-sm">
            answer at the words
          </Link>
        ) : null}
      </p>
      <ul className="my-2 space-y-2">
        {question.words.map((word) => (
          <li key={word.id} className="border-l-2 border-plum pl-3">
            <span className="text-sm text-soft">
              {word.when}
              {word.about ? `, about ${word.about}` : ""}
            </span>
            <SaidWords body={word.body} clipId={word.clipId} />
            <SentFiles files={word.files} />
          </li>
        ))}
      </ul>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {done ? (
        <p className="text-moss" role="status">
          ✓ {done}
        </p>
      ) : (
        <div className="max-w-[42rem]">
          <ReplyForm
            pieceId={pieceId}
            markId={answers.markId}
            checkpoint={answers.checkpoint}
            label={`Answer ${question.student}`}
            placeholder="Answer here"
            rows={2}
            onSent={() => setDone("answered")}
          />
          <Button small ink="quiet" className="mt-1 -ml-2" onClick={close}>
            Close it without an answer
          </Button>
        </div>
      )}
    </article>
  );
}
