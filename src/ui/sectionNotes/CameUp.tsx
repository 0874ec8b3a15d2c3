"use client";

import { shorten } from "@/core/text/shorten";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { proposeNote, sayCameUp, type CameUp as Came } from "@/core/sectionNotes/cameUp";
import type { SectionNotes } from "@/core/views/sectionNoteViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";

type Props = {
  handOutId: string;
  cameUp: readonly Came[];
  /** The class was told: what is said to it now. */ onSaid: (notes: SectionNotes) => void;
};

/** Comments that came up on many pieces, each to be said to all at once: made of its words and of examples without names. */
export function CameUp({ handOutId, cameUp, onSaid }: Props) {
  const [saying, setSaying] = useState<Came | null>(null);
  if (cameUp.length === 0) return null;
  return (
    <section aria-label="Came up often" className="my-3">
      <ul>
        {cameUp.map((came) => (
          <li
            key={came.text}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-line py-1.5"
          >
            <span className="min-w-52 flex-1">
              <span className="font-semibold">{sayCameUp(came)}</span>: {shorten(came.text, 110)}
            </span>
            <Button small onClick={() => setSaying(came)}>
              Say it to the class …
            </Button>
          </li>
        ))}
      </ul>
      {saying ? (
        <SayIt
          handOutId={handOutId}
          came={saying}
          onClose={() => setSaying(null)}
          onSaid={(notes) => {
            setSaying(null);
            onSaid(notes);
          }}
        />
      ) : null}
    </section>
  );
}

type SayProps = Pick<Props, "handOutId" | "onSaid"> & { came: Came; onClose: () => void };

function SayIt({ handOutId, came, onSaid, onClose }: SayProps) {
  const [body, setBody] = useState(() => proposeNote(came));
  const [key] = useState(() => crypto.randomUUID());
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function say() {
    setBusy(true);
    const sent = { params: { handOutId }, body: { body, clipId: null }, key };
    await call(contract.sayToClass, sent).then(onSaid, (error: unknown) => {
      setProblem(sayProblem(error));
      setBusy(false);
    });
  }
  return (
    <Dialog open onClose={onClose} title="Say it to the class">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void say();
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <TextArea
          label="All its students see this on their piece"
          hint="The examples are their words, without names. Take out what should not stand here."
          rows={8}
          maxLength={4000}
          value={body}
          autoFocus
          onChange={(event) => setBody(event.target.value)}
        />
        <span>
          <Button type="submit" ink="tide" disabled={busy || body.trim() === ""}>
            Say it to all
          </Button>
        </span>
      </form>
    </Dialog>
  );
}
