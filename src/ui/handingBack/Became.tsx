"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { BatchView, TakenBack } from "@/core/views/handBackViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { RunsOut } from "./RunsOut";
import { useBatch } from "./useBatch";

/** What became of an act of handing back: how it goes on, what stayed and why, and taking it back. */
export function Became({ first, handOutId }: { first: BatchView; handOutId: string | null }) {
  const { batch, problem, left, callBack, goOn } = useBatch(first);
  const whole = Math.ceil(first.goesIn / 1000);
  return (
    <section aria-label="Handing back">
      <h1>{batch.title}</h1>
      <div className="mt-4" aria-live="polite">
        <Stand batch={batch} left={left} />
      </div>
      {batch.state === "waiting" && left !== null ? (
        <div className="my-3">
          <RunsOut left={left} of={Math.max(whole, left)} />
        </div>
      ) : null}
      {batch.state === "going" ? (
        <progress
          className="my-3 h-2 w-full accent-tide"
          max={batch.total}
          value={batch.gone + batch.left.length}
          aria-label="Handed back so far"
        />
      ) : null}
      {problem ? (
        <Notice ink="ember" className="my-4">
          {problem} What is handed back already is; the rest goes by itself.
        </Notice>
      ) : null}
      <div className="mt-4 flex flex-wrap gap-2">
        {batch.state === "waiting" || batch.state === "going" ? (
          <Button ink="tide" onClick={() => void callBack()}>
            {batch.state === "waiting" ? "Call it back" : "Stop here"}
          </Button>
        ) : null}
        {batch.state === "going" ? <Button onClick={() => void goOn()}>Go on</Button> : null}
        <TakeBack batch={batch} />
        {handOutId ? (
          <Link href={`/hand-outs/${handOutId}`} prefetch={false} className="px-2 py-2">
            To the hand-out’s sheet
          </Link>
        ) : null}
        <Link href="/today" className="px-2 py-2">
          To Today
        </Link>
      </div>
      <Stayed batch={batch} />
    </section>
  );
}

function Stand({ batch, left }: { batch: BatchView; left: number | null }) {
  const { state, total, gone, student } = batch;
  const what = student ?? sayCount(total, "piece");
  switch (state) {
    case "waiting":
      return (
        <Notice ink="tide">
          {left === null
            ? `${what}: goes back ${batch.goesWords}. Until then only teachers see it, and what the drafts say then is what goes.`
            : `${what}: goes back in ${left} s. Nobody has been told yet.`}
        </Notice>
      );
    case "going":
      return (
        <Notice ink="tide">
          {gone} of {total} handed back …
        </Notice>
      );
    case "done":
      return (
        <Notice ink="moss">
          {student && gone === 1
            ? `Handed back to ${student}.`
            : `${sayCount(gone, "piece")} handed back.`}
          {batch.left.length > 0 ? ` ${sayCount(batch.left.length, "piece")} stayed.` : ""}
        </Notice>
      );
    case "called back":
      return (
        <Notice ink="plum">
          Called back. {gone === 0 ? "Nothing was handed back" : `${gone} had gone by then`}; the
          rest are drafts as before.
        </Notice>
      );
  }
}

function Stayed({ batch }: { batch: BatchView }) {
  if (batch.left.length === 0 || batch.state === "called back") return null;
  return (
    <div className="mt-6">
      <h2>Stayed as drafts</h2>
      <ul className="mt-2">
        {batch.left.map((line) => (
          <li key={line.pieceId} className="border-t border-line py-1.5">
            <Link href={`/desk?pile=all&piece=${line.pieceId}`} prefetch={false}>
              {line.student}
            </Link>{" "}
            <span className="text-soft">{line.why}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Takes it all back again, and says who had read it. */
function TakeBack({ batch }: { batch: BatchView }) {
  const { act, busy, problem } = useAct();
  const [taken, setTaken] = useState<TakenBack | null>(null);
  if (batch.gone === 0 || (batch.state !== "done" && batch.state !== "called back")) return null;
  if (taken) return <TakenWords taken={taken} />;
  return (
    <>
      <Button
        disabled={busy}
        onClick={() =>
          void act(() => call(contract.takeHandBack, { params: { batchId: batch.id } })).then(
            (answer) => answer && setTaken(answer),
          )
        }
      >
        Take {batch.gone === 1 ? "it" : `all ${batch.gone}`} back
      </Button>
      {problem ? (
        <Notice ink="ember" className="w-full">
          {problem}
        </Notice>
      ) : null}
    </>
  );
}

function TakenWords({ taken }: { taken: TakenBack }) {
  return (
    <Notice ink="plum" className="w-full">
      <p>
        {sayCount(taken.taken, "piece")} taken back: drafts again, and hidden from their students.
      </p>
      <p>
        {taken.readBy.length === 0
          ? "Nobody had read it."
          : `Read before it was taken back by ${taken.readBy.join(", ")}.`}
      </p>
      {taken.left.map((line) => (
        <p key={line.student}>
          {line.student} keeps it: {line.why}
        </p>
      ))}
    </Notice>
  );
}
