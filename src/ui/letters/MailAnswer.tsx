"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** In the demo's post room: a message answered as one would at home, by mail. */
export function MailAnswer({ mailId, text }: { mailId: string; text: string }) {
  const { act, busy, problem } = useAct();
  const [body, setBody] = useState<string | null>(null);
  const [key] = useState(() => crypto.randomUUID());
  const [done, setDone] = useState(false);
  const quoted = text
    .split("\n")
    .map((line) => `> ${line}`)
    .join("\n");
  if (done) return <Notice ink="moss">It is on its way back to the teacher.</Notice>;
  if (body === null)
    return (
      <Button small onClick={() => setBody(`\n\nAlmanac wrote:\n${quoted}`)}>
        Answer this mail
      </Button>
    );
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void act(() =>
          call(contract.answerMail, { params: { mailId }, body: { text: body }, key }),
        ).then((answered) => answered && setDone(true));
      }}
    >
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextArea
        label="Your answer, above what it quotes"
        rows={8}
        value={body}
        autoFocus
        onChange={(event) => setBody(event.target.value)}
      />
      <span>
        <Button type="submit" small ink="tide" disabled={busy}>
          Send it by mail
        </Button>
      </span>
    </form>
  );
}
