"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Question } from "@/core/questions/question";
import type { QuestionSetView } from "@/core/views/workViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Empty, Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { SetEditor, type EditingSet } from "./SetEditor";

/** A teacher's sets of questions: written here, copied, changed, brought in and taken out as QTI 3.0. */
export function QuestionSets({ sets }: { sets: readonly QuestionSetView[] }) {
  const { act, busy, problem } = useAct();
  const [editing, setEditing] = useState<EditingSet | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [unread, setUnread] = useState<{ where: string; words: string }[]>([]);
  const picker = useRef<HTMLInputElement>(null);
  async function bringIn(file: File) {
    const read = await act(() => call(contract.readQti, { file, fileName: file.name }));
    if (!read) return;
    setUnread(read.problems);
    if (read.questions.length > 0)
      setEditing({
        id: null,
        name: file.name.replace(/\.\w+$/, ""),
        questions: read.questions as Question[],
        revision: 0,
        usedIn: 0,
      });
  }
  if (editing)
    return (
      <SetEditor
        key={editing.id ?? "new"}
        first={editing}
        unread={unread}
        onDone={(words) => {
          setEditing(null);
          setUnread([]);
          setSaid(words);
        }}
      />
    );
  return (
    <div className="grid gap-6">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {said ? <Notice ink="moss">{said}</Notice> : null}
      {unread.length > 0 ? (
        <Notice ink="ember">
          Nothing in this file could be read:{" "}
          {unread.map((u) => `${u.where}: ${u.words}`).join("; ")}.
        </Notice>
      ) : null}
      <div className="flex flex-wrap gap-3">
        <Button
          ink="tide"
          onClick={() => setEditing({ id: null, name: "", questions: [], revision: 0, usedIn: 0 })}
        >
          New set of questions
        </Button>
        <input
          ref={picker}
          type="file"
          accept=".zip,.xml"
          className="sr-only"
          tabIndex={-1}
          aria-label="QTI file"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void bringIn(file);
          }}
        />
        <Button disabled={busy} onClick={() => picker.current?.click()}>
          Bring in QTI
        </Button>
      </div>
      {sets.length === 0 ? (
        <Empty title="No sets yet">
          Write one here, or bring in a QTI 3.0 package. Then ask for it on the page Hand out.
        </Empty>
      ) : null}
      {sets.map((set) => (
        <section key={set.id} aria-label={set.name} className="border-t border-line-strong pt-3">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h2>{set.name}</h2>
            <span className="text-sm text-soft">
              {set.questions.length} {set.questions.length === 1 ? "question" : "questions"}
              {set.version > 1 ? ` · version ${set.version}` : ""} ·{" "}
              {set.usedIn === 0
                ? "not in use"
                : `in ${set.usedIn} ${set.usedIn === 1 ? "assignment" : "assignments"}`}
            </span>
            <span className="ml-auto flex flex-wrap gap-2">
              <Button
                small
                onClick={() =>
                  setEditing({
                    id: set.id,
                    name: set.name,
                    questions: set.questions,
                    revision: set.revision,
                    usedIn: set.usedIn,
                  })
                }
              >
                Change
              </Button>
              <Button
                small
                disabled={busy}
                onClick={() =>
                  void act(() =>
                    call(contract.addQuestionSet, {
                      body: { name: `${set.name} (copy)`, questions: set.questions },
                    }),
                  )
                }
              >
                Copy
              </Button>
              <a className="self-center text-sm" href={`/api/question-sets/${set.id}/qti`} download>
                As QTI
              </a>
              <Button
                small
                disabled={busy}
                onClick={() =>
                  void act(() => call(contract.deleteQuestionSet, { params: { setId: set.id } }))
                }
              >
                Take off the Shelf
              </Button>
            </span>
          </div>
          <ol className="mt-2 list-decimal pl-6">
            {set.questions.map((q) => (
              <li key={q.id} className="py-0.5">
                <span className="line-clamp-2">{q.text}</span>{" "}
                <span className="text-sm text-soft">
                  {q.kind}, {q.points}
                </span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
