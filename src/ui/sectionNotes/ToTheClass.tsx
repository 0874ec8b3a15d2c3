"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { SaidView, SectionNotes } from "@/core/views/sectionNoteViews";
import { call, sayProblem } from "../client";
import { SayForm } from "../comments/SayForm";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { ReportForm } from "../looks/ReportForm";
import { SaidWords } from "../voice/SaidWords";

/** What a teacher said to all the students of a hand-out, with what they answered to the class. Clips come from the page around it. */
export function ToTheClass({
  view,
  onView,
  heading,
}: {
  view: SectionNotes;
  onView: (view: SectionNotes) => void;
  heading: string | null;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [answering, setAnswering] = useState<string | null>(null);
  const take = (next: SectionNotes) => {
    onView(next);
    setProblem(null);
  };
  const act = (work: () => Promise<SectionNotes>) =>
    void work().then(take, (error: unknown) => setProblem(sayProblem(error)));
  const waiting = view.notes
    .flatMap((n) => n.answers)
    .filter((a) => a.mayShow && (a.state === "waits" || a.reported !== null)).length;
  const acts = {
    onShow: (said: SaidView) =>
      act(() =>
        call(contract.showAnswer, {
          params: { sectionNoteId: said.id },
          body: { shown: said.state === "waits" || said.reported !== null },
        }),
      ),
    onTake: (said: SaidView) =>
      act(() => call(contract.takeAwaySaid, { params: { sectionNoteId: said.id } })),
    onReport: (said: SaidView, why: string) =>
      act(() => call(contract.reportAnswer, { params: { sectionNoteId: said.id }, body: { why } })),
  };
  if (!view.maySay && view.notes.length === 0) return null;
  return (
    <section aria-label={heading ?? "To the class"}>
      {heading ? <h2 className="border-b border-line pb-1">{heading}</h2> : null}
      {waiting > 0 ? (
        <p className="mt-2 font-semibold text-ember">
          ▲ {waiting === 1 ? "One answer waits" : `${waiting} answers wait`} until you have read{" "}
          {waiting === 1 ? "it" : "them"}.
        </p>
      ) : null}
      {problem ? (
        <p role="alert" className="mt-2 text-ember">
          ▲ {problem}
        </p>
      ) : null}
      {view.notes.length === 0 ? (
        <p className="mt-2 text-soft">
          Nothing has been said to the class yet. What you say here is seen by all its students on
          their piece, and comes first in their work.
        </p>
      ) : null}
      <ul className="my-3 space-y-4">
        {view.notes.map((note) => (
          <li key={note.id}>
            <Said said={note} {...acts} />
            {note.answers.length > 0 ? (
              <ul className="mt-2 ml-4 space-y-2" aria-label="Answers">
                {note.answers.map((answer) => (
                  <li key={answer.id}>
                    <Said said={answer} {...acts} />
                  </li>
                ))}
              </ul>
            ) : null}
            {view.answers === "none" ? null : answering === note.id ? (
              <div className="mt-2 ml-4">
                <SayForm
                  label="Answer to the class"
                  placeholder={
                    view.answers === "read first"
                      ? "Your teacher reads it before the others see it"
                      : "Everyone in the class sees it"
                  }
                  button="Answer"
                  pieceId={view.pieceId}
                  place={`to the class ${note.id}`}
                  rows={1}
                  onSend={async ({ body, clipId }, key) => {
                    take(
                      await call(contract.answerToClass, {
                        params: { sectionNoteId: note.id },
                        body: { body, clipId },
                        key,
                      }),
                    );
                    setAnswering(null);
                  }}
                />
              </div>
            ) : (
              <Button small ink="quiet" className="mt-1 ml-2" onClick={() => setAnswering(note.id)}>
                Answer to the class
              </Button>
            )}
          </li>
        ))}
      </ul>
      {view.maySay ? (
        <SayForm
          label="Say something to the class"
          placeholder="A word to all the students of this hand-out"
          button="Say it to all"
          pieceId={null}
          place={`to the class ${view.handOutId}`}
          rows={2}
          onSend={async ({ body, clipId }, key) =>
            take(
              await call(contract.sayToClass, {
                params: { handOutId: view.handOutId },
                body: { body, clipId },
                key,
              }),
            )
          }
        />
      ) : null}
    </section>
  );
}

type SaidProps = {
  said: SaidView;
  onShow: (said: SaidView) => void;
  onTake: (said: SaidView) => void;
  onReport: (said: SaidView, why: string) => void;
};

function sayShow({ state, reported }: SaidView): string {
  if (state === "waits") return "Let the class see it";
  return reported === null ? "Hide it from the class" : "Let it stand";
}

function Waits({ said }: { said: SaidView }) {
  if (said.state !== "waits") return null;
  return (
    <span className="label text-ember">
      {said.mine && !said.mayShow
        ? "waits until your teacher has read it"
        : "seen by you alone until you let the class see it"}
    </span>
  );
}

/** That it was reported, to teachers; the way to report it, to who may. */
function Reported({ said, onReport }: Pick<SaidProps, "said" | "onReport">) {
  const [reporting, setReporting] = useState(false);
  if (said.reported !== null)
    return (
      <p className="font-semibold text-ember">
        ▲ reported{said.reported ? `: “${said.reported}”` : ""}
      </p>
    );
  if (!said.mayReport) return null;
  return reporting ? (
    <ReportForm
      onSend={(why) => {
        setReporting(false);
        onReport(said, why);
      }}
      onLeave={() => setReporting(false)}
    />
  ) : (
    <Button small ink="quiet" onClick={() => setReporting(true)}>
      Report
    </Button>
  );
}

function Said({ said, onShow, onTake, onReport }: SaidProps) {
  const waits = said.state === "waits";
  return (
    <div
      className={classes(
        "border-l-2 pl-2",
        said.mine ? "border-tide" : "border-line-strong",
        waits && "border-dashed border-ember",
      )}
    >
      <p className="flex flex-wrap items-baseline gap-x-3 text-sm text-soft">
        <span>
          {said.mine ? "I" : said.author}, {said.when}
        </span>
        <Waits said={said} />
        {said.mayShow ? (
          <Button small ink={waits ? "tide" : "quiet"} onClick={() => onShow(said)}>
            {sayShow(said)}
          </Button>
        ) : null}
        {said.mayTakeAway ? (
          <Button small ink="quiet" onClick={() => onTake(said)}>
            Take away
          </Button>
        ) : null}
      </p>
      <Reported said={said} onReport={onReport} />
      {said.state === "taken away" ? <p className="text-soft">This was taken away.</p> : null}
      <SaidWords body={said.body} clipId={said.clipId} />
    </div>
  );
}
