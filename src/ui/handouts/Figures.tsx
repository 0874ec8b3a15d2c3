"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayItem } from "@/core/figures/items";
import { sayCount } from "@/core/text/sayCount";
import type { SheetFigures } from "@/core/views/figureViews";
import { call } from "../client";
import { Notice } from "../kit/Notice";
import { useFetched } from "../useFetched";

// Fetched with the figures: nobody waits for a library of charts who does not open them.
const Bars = dynamic(() => import("../kit/Bars").then((m) => m.Bars), { ssr: false });

/** The hand-out in figures, worked out when it is opened. */
export function Figures({ handOutId }: { handOutId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-10" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-serif text-xl">In figures</summary>
      {open ? <Found handOutId={handOutId} /> : null}
    </details>
  );
}

function Found({ handOutId }: { handOutId: string }) {
  const { found, problem } = useFetched(`figures ${handOutId}`, () =>
    call(contract.sheetFigures, { params: { handOutId } }),
  );
  if (problem) return <Notice ink="ember">{problem}</Notice>;
  if (!found) return <p className="text-soft">The figures are worked out …</p>;
  const { handIns, scores, items, turnaround, went } = found;
  if (handIns.length === 0 && !scores && items.length === 0)
    return <p className="mt-2 text-soft">Nothing is in yet.</p>;
  return (
    <div className="mt-3 grid gap-x-10 gap-y-8 lg:grid-cols-2">
      {handIns.length > 0 ? <HandIns days={handIns} /> : null}
      {scores ? <Scores scores={scores} /> : null}
      {turnaround ? <Turnaround turnaround={turnaround} /> : null}
      {went ? <Went went={went} /> : null}
      {items.length > 0 ? <Items items={items} /> : null}
    </div>
  );
}

function HandIns({ days }: { days: SheetFigures["handIns"] }) {
  return (
    <section aria-labelledby="hand-ins">
      <h3 id="hand-ins">When it came in</h3>
      <Bars
        labels={days.map(({ day }) => day)}
        values={days.map(({ together }) => together)}
        said={`In by the end of each day: ${days.map((d) => `${d.day} ${d.together}`).join(", ")}`}
      />
      <table className="sheet-table mt-2 w-auto! text-sm!">
        <thead>
          <tr>
            <th scope="col">day</th>
            <th scope="col" className="text-right!">
              came
            </th>
            <th scope="col" className="text-right!">
              in by then
            </th>
          </tr>
        </thead>
        <tbody>
          {days.map(({ day, came, together }) => (
            <tr key={day}>
              <td>{day}</td>
              <td className="text-right">{came}</td>
              <td className="text-right">{together}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const percent = (value: number): string => `${Math.round(value)} %`;

function Scores({ scores }: { scores: NonNullable<SheetFigures["scores"]> }) {
  const names = scores.tens.map((_, n) => (n === 9 ? "90 +" : `${n * 10}–${n * 10 + 9}`));
  return (
    <section aria-labelledby="score-spread">
      <h3 id="score-spread">How scores lie</h3>
      <Bars
        labels={names}
        values={scores.tens}
        said={`Pieces by percent: ${names.map((name, n) => `${name}: ${scores.tens[n]}`).join(", ")}`}
      />
      <p className="mt-2 text-sm">
        {sayCount(scores.count, "score")}: from {percent(scores.lowest)} to{" "}
        {percent(scores.highest)}, half of them between {percent(scores.lower)} and{" "}
        {percent(scores.upper)}, in the middle <strong>{percent(scores.median)}</strong>.
      </p>
      <p className="text-sm text-soft">
        {names
          .flatMap((name, n) => (scores.tens[n] ? `${name} %: ${scores.tens[n]}` : []))
          .join(" · ")}
      </p>
    </section>
  );
}

function Turnaround({ turnaround }: { turnaround: NonNullable<SheetFigures["turnaround"]> }) {
  const { backs, middle, longest } = turnaround;
  return (
    <section aria-labelledby="turnaround">
      <h3 id="turnaround">How soon it came back</h3>
      <p className="mt-2 text-sm">
        {sayCount(backs, "time")} work went back: in the middle after <strong>{middle}</strong>, at
        the longest after {longest}.
      </p>
    </section>
  );
}

function Went({ went }: { went: NonNullable<SheetFigures["went"]> }) {
  const { question, choices, words } = went;
  return (
    <section aria-labelledby="went">
      <h3 id="went">{question}</h3>
      <Bars
        labels={choices.map(({ choice }) => choice)}
        values={choices.map(({ count }) => count)}
        said={choices.map(({ choice, count }) => `${choice}: ${count}`).join(", ")}
      />
      <p className="text-sm text-soft">
        {choices.map(({ choice, count }) => `${choice}: ${count}`).join(" · ")}
        {words > 0 ? ` · ${sayCount(words, "sentence")} with it, at the Desk` : ""}
      </p>
    </section>
  );
}

/** Two places, and no minus before nothing. */
const sayCorrelation = (value: number | null): string =>
  value === null ? "–" : (Math.round(value * 100) / 100 + 0).toFixed(2).replace("-", "−");

function Items({ items }: { items: SheetFigures["items"] }) {
  return (
    <section aria-labelledby="items" className="lg:col-span-2">
      <h3 id="items">How the questions did</h3>
      <table className="sheet-table mt-2 text-sm!">
        <thead>
          <tr>
            <th scope="col">question</th>
            <th scope="col" className="text-right!">
              answers
            </th>
            <th scope="col" className="text-right!">
              share of its points
            </th>
            <th scope="col" className="text-right!">
              with the rest
            </th>
            <th scope="col">what it says</th>
          </tr>
        </thead>
        <tbody>
          {items.map((item) => (
            <tr key={item.questionId}>
              <td className="max-w-md truncate" title={item.text}>
                {item.text}
              </td>
              <td className="text-right">{item.answers}</td>
              <td className="text-right">
                {item.difficulty === null ? "–" : percent(100 * item.difficulty)}
              </td>
              <td className="text-right">{sayCorrelation(item.discrimination)}</td>
              <td>{sayItem(item)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">
        “With the rest” is how points for a question go with the points for all others, from −1 to 1
        (point-biserial). Below 0, who knows the rest gets it wrong.
      </p>
    </section>
  );
}
