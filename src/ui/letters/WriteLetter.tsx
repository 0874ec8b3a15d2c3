"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { LetterTo } from "@/core/letters/letter";
import { sayCount } from "@/core/text/sayCount";
import { call, sayProblem, Problem } from "../client";
import { Button } from "../kit/Button";
import { RadioLine } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { TextArea, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";

type Props = {
  sectionId: string;
  handOutId: string | null;
  /** What it is about, as its subject begins. */ about: string;
  /** What it begins with. */ body?: string;
  students: readonly { studentId: string; student: string }[];
  onClose: () => void;
};

type Sent = { to: number; byMail: number; goes: string | null };

/** A letter to one student, to chosen ones, or to their guardians; an answer comes back under Letters. */
export function WriteLetter({
  sectionId,
  handOutId,
  about,
  students,
  onClose,
  body: first = "",
}: Props) {
  const [to, setTo] = useState<LetterTo>("students");
  const [subject, setSubject] = useState(about);
  const [body, setBody] = useState(first);
  const [key, setKey] = useState(() => crypto.randomUUID());
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<{ words: string; fields: Record<string, string> }>();
  const [sent, setSent] = useState<Sent | null>(null);
  async function send() {
    setBusy(true);
    const studentIds = students.map((s) => s.studentId);
    const letter = { handOutId, studentIds, to, subject, body };
    try {
      setSent(await call(contract.writeLetter, { params: { sectionId }, body: letter, key }));
    } catch (error) {
      const fields = error instanceof Problem ? { ...error.fields } : {};
      setProblem({ words: sayProblem(error), fields });
      // Another try is another letter, unless the answer to this one was lost.
      if (error instanceof Problem) setKey(crypto.randomUUID());
    }
    setBusy(false);
  }
  if (sent) return <Gone sent={sent} onClose={onClose} />;
  return (
    <Dialog open onClose={onClose} title="Write a letter">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        {problem ? <Notice ink="ember">{problem.words}</Notice> : null}
        <p className="text-soft">
          {students.length <= 4
            ? `About ${students.map((s) => s.student).join(", ")}.`
            : `About ${sayCount(students.length, "student")}.`}{" "}
          Each gets a letter of their own and sees no other name.
        </p>
        <RadioLine
          label="to"
          value={to}
          onChange={setTo}
          choices={[
            { value: "students", words: students.length === 1 ? "the student" : "the students" },
            { value: "guardians", words: "their guardians" },
            { value: "both", words: "both" },
          ]}
        />
        <TextField
          label="Subject"
          value={subject}
          maxLength={200}
          error={problem?.fields.subject ?? problem?.fields.to}
          onChange={(event) => setSubject(event.target.value)}
        />
        <TextArea
          label="Letter"
          hint="{name} becomes what the student is called. Private notes are never part of it."
          rows={7}
          value={body}
          maxLength={8000}
          error={problem?.fields.body}
          autoFocus
          onChange={(event) => setBody(event.target.value)}
        />
        <span>
          <Button
            type="submit"
            ink="tide"
            disabled={busy || body.trim() === "" || subject.trim() === ""}
          >
            Send
          </Button>
        </span>
      </form>
    </Dialog>
  );
}

function Gone({ sent, onClose }: { sent: Sent; onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} title={sent.goes ? "It goes later" : "Sent"}>
      <Notice ink="moss">
        {sent.goes ? `The school sends nothing just now: it goes ${sent.goes}. ` : ""}
        {sayCount(sent.to, "letter")}, {sent.byMail} of them also by mail. Answers come back under
        Letters.
      </Notice>
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  );
}
