"use client";

import { shorten } from "@/core/text/shorten";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { Place } from "@/core/marks/place";
import type { Range } from "@/core/text/selectors";
import type { ShownView } from "@/core/views/lookViews";
import { call, sayProblem } from "../client";
import { SayForm } from "../comments/SayForm";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { sayPlace } from "../marks/drawn";

/** What one is about to say something of: words, a place, or (null) the whole. */
export type About = { range: Range; words: string } | { place: Place } | null;

type Props = {
  view: ShownView;
  about: About;
  onClear: () => void;
  onView: (view: ShownView) => void;
};

function sayAbout(about: About): string {
  if (about === null) return "the whole of it";
  if ("words" in about) return `“${shorten(about.words, 80)}”`;
  return sayPlace(about.place) || "this place";
}

const WHOLE: Place = { on: "whole", itemId: null };

/** On a narrow screen it comes to the thumb as soon as something is chosen. */
const AT_HAND = "max-lg:fixed max-lg:inset-x-0 max-lg:bottom-0 max-lg:z-30 max-lg:mb-0 max-lg:max-h-[60dvh] max-lg:overflow-y-auto max-lg:shadow-lifted"; // prettier-ignore

/** The range and the place that a mark about it has. */
function standing(about: About): { range: Range; place: Place | null } {
  if (about && "range" in about) return { range: about.range, place: null };
  return { range: { start: 0, end: 0 }, place: about === null ? WHOLE : about.place };
}

/** Where something is said of work that is shown, of words that are selected, a place that was pressed, or the whole. */
export function SayOfShown({ view, about, onClear, onView }: Props) {
  const { range, place } = standing(about);
  const send = async (given: Parameters<typeof sendMark>[1]) => {
    onView(await sendMark(view, given));
    onClear();
    window.getSelection()?.removeAllRanges();
  };
  const said = { ...range, place, kind: "note" as const, replacement: "" };
  return (
    <section
      aria-label="Say something of it"
      className={classes("mb-4 border border-line-strong bg-raised p-3", about && AT_HAND)}
      id="say"
    >
      <p className="mb-1 flex flex-wrap items-baseline gap-x-2">
        <span className="label">about</span>
        <span className="min-w-0 break-words font-serif">{sayAbout(about)}</span>
        {about ? (
          <Button small ink="quiet" onClick={onClear}>
            the whole instead
          </Button>
        ) : null}
      </p>
      <SayForm
        label="What you say of it"
        placeholder={about ? "What do you see here?" : "Select words to speak of them alone"}
        button="Say it"
        pieceId={view.voiceOf}
        place={`shown ${view.lookId ?? view.pieceId}`}
        rows={2}
        onSend={({ body, clipId }, id) => send({ ...said, id, body, clipId })}
      />
      {view.mayOffer && about && "words" in about ? (
        <OfferedEdit
          key={`${about.range.start} ${about.range.end}`}
          words={about.words}
          onOffer={(replacement) =>
            send({
              ...{ ...said, id: crypto.randomUUID(), body: "", clipId: null, replacement },
              kind: replacement === "" ? "delete" : "replace",
            })
          }
        />
      ) : null}
      {view.readFirst && view.voiceOf ? (
        <p className="mt-2 text-sm text-soft">A teacher reads it before others see it.</p>
      ) : null}
    </section>
  );
}

type GivenMark = {
  id: string;
  kind: "note" | "delete" | "replace";
  start: number;
  end: number;
  body: string;
  replacement: string;
  place: Place | null;
  clipId: string | null;
};

function sendMark(view: ShownView, body: GivenMark): Promise<ShownView> {
  return view.lookId
    ? call(contract.sayInLook, { params: { lookId: view.lookId }, body })
    : call(contract.sayOnDisplay, { params: { pieceId: view.pieceId }, body });
}

/** Other words for those that are selected; none at all takes them out. The writer accepts or declines it. */
function OfferedEdit({
  words,
  onOffer,
}: {
  words: string;
  onOffer: (replacement: string) => Promise<void>;
}) {
  const [instead, setInstead] = useState(words);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  if (words.length > 400) return null;
  return (
    <form
      className="mt-3 border-t border-line pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        onOffer(instead)
          .catch((error: unknown) => setProblem(sayProblem(error)))
          .finally(() => setBusy(false));
      }}
    >
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextField
        label="or offer other words (empty: take them out)"
        value={instead}
        maxLength={2000}
        onChange={(event) => setInstead(event.target.value)}
      />
      <Button small type="submit" className="mt-2" disabled={busy || instead === words}>
        {instead === "" ? "Offer to take them out" : "Offer this edit"}
      </Button>
    </form>
  );
}
