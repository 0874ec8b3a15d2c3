"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { isEdit, sayEdit } from "@/core/marks/mark";
import type { ShownMark } from "@/core/views/lookViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { sayPlace } from "../marks/drawn";
import { NoteText } from "../marks/NoteText";
import { ReportForm } from "./ReportForm";
import { VoiceNote } from "../voice/VoiceNote";

type Props = {
  mark: ShownMark;
  number?: number;
  chosen: boolean;
  onChoose: () => void;
  reload: () => Promise<void>;
};

/** Something that was said of shown work: its words, and what can be done about it. */
export function ShownMarkNote({ mark, number, chosen, onChoose, reload }: Props) {
  return (
    <article
      className={classes(
        "border-l-2 bg-paper pl-2.5 text-sm",
        mark.state === "waits" ? "border-dashed border-ember" : "border-tide",
        chosen && "bg-tide-wash",
      )}
      onClick={onChoose}
    >
      <Head mark={mark} number={number} />
      {mark.gone && mark.quote ? (
        <p className="font-serif italic text-soft line-through">{mark.quote}</p>
      ) : null}
      {isEdit(mark) && mark.state !== "taken away" ? <p>{sayEdit(mark)}</p> : null}
      {mark.body ? <NoteText text={mark.body} sentence="" /> : null}
      <VoiceNote clipId={mark.clipId} />
      <Acts mark={mark} reload={reload} />
    </article>
  );
}

/** Who said it, when, and where it stands. */
function Head({ mark, number }: Pick<Props, "mark" | "number">) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-2">
      {number ? <span className="font-semibold">{number}</span> : null}
      <span className="font-semibold">{mark.mine ? "I" : mark.author}</span>
      <span className="text-soft">{mark.when}</span>
      {mark.place.on === "text" ? null : (
        <span className="label">{sayPlace(mark.place) || sayWhere(mark)}</span>
      )}
      {mark.gone ? <span className="label">its words are gone</span> : null}
      {mark.decision ? <span className="label text-moss">✓ {mark.decision}</span> : null}
    </p>
  );
}

const sayWhere = ({ place }: ShownMark): string => (place.on === "whole" ? "on the whole" : "here");

function Acts({ mark, reload }: { mark: ShownMark; reload: () => Promise<void> }) {
  const [problem, setProblem] = useState<string | null>(null);
  const [reporting, setReporting] = useState(false);
  const params = { lookMarkId: mark.id };
  const act = (work: () => Promise<unknown>) =>
    void work()
      .then(reload)
      .catch((error: unknown) => setProblem(sayProblem(error)));
  const waits = mark.state === "waits";
  return (
    <>
      {waits ? (
        <p className="label text-ember">
          {mark.mayShow
            ? "waits for you: nobody else sees it"
            : "waits until a teacher has read it"}
        </p>
      ) : null}
      {mark.reported !== null ? (
        <p className="font-semibold text-ember">
          ▲ reported{mark.reported ? `: “${mark.reported}”` : ""}
        </p>
      ) : null}
      {problem ? (
        <p role="alert" className="text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <p className="-ml-2 flex flex-wrap">
        {mark.mayShow ? (
          <Button
            small
            ink="quiet"
            onClick={() =>
              act(() =>
                call(contract.showShownMark, {
                  params,
                  body: { shown: waits || mark.reported !== null },
                }),
              )
            }
          >
            {sayShow(mark)}
          </Button>
        ) : null}
        {mark.mayTakeAway ? (
          <Button
            small
            ink="quiet"
            onClick={() => act(() => call(contract.takeAwayShownMark, { params }))}
          >
            Take away
          </Button>
        ) : null}
        {mark.mayReport && !reporting ? (
          <Button small ink="quiet" onClick={() => setReporting(true)}>
            Report
          </Button>
        ) : null}
      </p>
      {reporting ? (
        <ReportForm
          onSend={(why) => {
            setReporting(false);
            act(() => call(contract.reportShownMark, { params, body: { why } }));
          }}
          onLeave={() => setReporting(false)}
        />
      ) : null}
    </>
  );
}

function sayShow(mark: ShownMark): string {
  if (mark.state === "waits") return "Let it be seen";
  return mark.reported === null ? "Hide it" : "Let it stand";
}
