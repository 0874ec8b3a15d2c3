"use client";

import { shorten } from "@/core/text/shorten";
import { useState } from "react";
import type { OwnLooks } from "@/core/views/lookViews";
import type { Range } from "@/core/text/selectors";
import { sayProblem } from "../client";
import { Button } from "../kit/Button";
import { RadioLine, SelectField } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";

export type AskedLook = {
  of: "teacher" | "classmate";
  readerId: string | null;
  question: string;
  start: number | null;
  end: number | null;
};

/** The words of the writing that a question is about; null: the whole. */
export type AboutWords = { range: Range; text: string } | null;

type Props = {
  teacher: string;
  classmates: OwnLooks["classmates"];
  /** The words that are selected in the writing; null: none. */
  words: AboutWords;
  onAsk: (asked: AskedLook) => Promise<void>;
  onClose: () => void;
};

/** A student asks for a look before handing in: what they would like to know, about which words, and of whom. */
export function AskLook({ teacher, classmates, words, onAsk, onClose }: Props) {
  const [question, setQuestion] = useState("");
  const [of, setOf] = useState<"teacher" | "classmate">("teacher");
  const [readerId, setReaderId] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function ask() {
    setBusy(true);
    setProblem(null);
    const { start, end } = words?.range ?? { start: null, end: null };
    await onAsk({ of, readerId: readerId || null, question, start, end }).catch((error: unknown) =>
      setProblem(sayProblem(error)),
    );
    setBusy(false);
  }
  return (
    <Dialog open onClose={onClose} title="Ask for a look">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void ask();
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <p className="text-soft">
          They read your work as it is now. This is no hand-in: you go on with it.
        </p>
        {words ? (
          <p>
            <span className="label">about</span>{" "}
            <span className="font-serif">“{shorten(words.text, 120)}”</span>
          </p>
        ) : (
          <p className="text-sm text-soft">
            About the whole. To ask about some words, close this, select them, and ask again.
          </p>
        )}
        <TextArea
          label="What would you like to know?"
          rows={3}
          value={question}
          maxLength={2000}
          autoFocus
          onChange={(event) => setQuestion(event.target.value)}
        />
        {classmates ? (
          <RadioLine
            label="of whom"
            value={of}
            onChange={setOf}
            choices={[
              { value: "teacher", words: teacher },
              { value: "classmate", words: sayClassmate(classmates) },
            ]}
          />
        ) : null}
        {classmates && of === "classmate" && classmates.people.length > 0 ? (
          <SelectField
            label="Classmate"
            value={readerId}
            onChange={(event) => setReaderId(event.target.value)}
          >
            <option value="">choose</option>
            {classmates.people.map((person) => (
              <option key={person.id} value={person.id}>
                {person.name}
              </option>
            ))}
          </SelectField>
        ) : null}
        {classmates && of === "classmate" ? (
          <p className="text-sm text-soft">
            They see this work only, until {classmates.until}
            {classmates.named ? "" : ", without your name"}; your teachers see what is said.
          </p>
        ) : null}
        <span>
          <Button type="submit" ink="tide" disabled={busy || question.trim() === ""}>
            Ask
          </Button>
        </span>
      </form>
    </Dialog>
  );
}

function sayClassmate({ drawn, named, people }: NonNullable<OwnLooks["classmates"]>): string {
  if (people.length > 0) return "a classmate";
  return named && drawn ? `${drawn}, drawn for you` : "a classmate, drawn for you";
}
