"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { ClassAnswers } from "@/core/sectionNotes/sectionNote";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { RadioLine } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { useAct } from "../useAct";

/** How long one may speak in this section, and whether students answer to the class. */
export function Voice({ view }: { view: SectionSetUp }) {
  const { act, busy, problem, fields } = useAct();
  const [notes, setNotes] = useState(String(view.voiceSeconds));
  const [replies, setReplies] = useState(String(view.replySeconds));
  const [answers, setAnswers] = useState<ClassAnswers>(view.classAnswers);
  const digits = (text: string) => text.replace(/\D/g, "").slice(0, 3);
  const kept =
    notes === String(view.voiceSeconds) &&
    replies === String(view.replySeconds) &&
    answers === view.classAnswers;
  return (
    <section aria-labelledby="voice">
      <h2 id="voice">Voice, and answers to the class</h2>
      <div className="mt-2 flex flex-wrap items-end gap-4">
        <div className="w-44">
          <TextField
            label="Voice notes (seconds)"
            inputMode="numeric"
            value={notes}
            onChange={(event) => setNotes(digits(event.target.value))}
            error={fields.voiceSeconds}
          />
        </div>
        <div className="w-60">
          <TextField
            label="Students’ replies (seconds)"
            inputMode="numeric"
            value={replies}
            onChange={(event) => setReplies(digits(event.target.value))}
            error={fields.replySeconds}
          />
        </div>
      </div>
      <p className="mt-1 mb-3 text-sm text-soft">
        From 10 to 300. To whom texts are read aloud stands with each student in the roster.
      </p>
      <RadioLine
        label="when a student answers what was said to the class"
        value={answers}
        onChange={setAnswers}
        choices={[
          { value: "read first", words: "a teacher reads it before the others see it" },
          { value: "at once", words: "the others see it at once" },
          { value: "none", words: "students do not answer to the class" },
        ]}
      />
      <div className="mt-3">
        <Button
          small
          ink="tide"
          disabled={busy || kept}
          onClick={() =>
            void act(() =>
              call(contract.setVoice, {
                params: { sectionId: view.id },
                body: {
                  voiceSeconds: Number(notes),
                  replySeconds: Number(replies),
                  classAnswers: answers,
                },
              }),
            )
          }
        >
          {kept ? "Kept" : "Keep"}
        </Button>
      </div>
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
    </section>
  );
}
