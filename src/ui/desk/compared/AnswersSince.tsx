import { answersSince, type AnswerSince } from "@/core/questions/since";
import type { AnswerLine, AnswerSheet } from "@/core/views/workViews";
import { sayCount } from "@/core/text/sayCount";
import { classes } from "../../kit/classes";

type Props = {
  before: readonly AnswerSheet[];
  after: readonly AnswerSheet[];
  earlier: string;
};

const BECAME: Readonly<Record<AnswerSince["became"], { words: string; ink: string }>> = {
  changed: { words: "▲ answered otherwise", ink: "text-plum font-semibold" },
  new: { words: "+ answered now", ink: "text-moss font-semibold" },
  "taken out": { words: "– no answer any more", ink: "text-ember font-semibold" },
  same: { words: "= as before", ink: "text-soft" },
};

/** The answers of an earlier hand-in beside those of now, question by question. */
export function AnswersSince({ before, after, earlier }: Props) {
  return answersSince(before, after).map((sheet) => {
    const other = sheet.lines.filter((line) => line.became !== "same").length;
    return (
      <section key={`${sheet.partId} ${sheet.name}`} className="mb-6">
        <h3 className="border-b border-line pb-1">
          {sheet.name}:{" "}
          {other === 0
            ? "all as before"
            : `${sayCount(other, "answer")} of ${sheet.lines.length} changed`}
        </h3>
        <ol>
          {sheet.lines.map((line, n) => (
            <li key={line.now.questionId} className="border-t border-line py-2 first:border-t-0">
              <p className="flex flex-wrap items-baseline gap-x-3">
                <span className="text-soft">{n + 1}.</span>
                <span className="min-w-0 flex-1 whitespace-pre-wrap">{line.now.text}</span>
                <span className={BECAME[line.became].ink}>{BECAME[line.became].words}</span>
              </p>
              {line.became === "same" ? null : (
                <dl className="mt-1 grid gap-x-4 sm:grid-cols-2">
                  <Given when={earlier} line={line.before} />
                  <Given when="now" line={line.now} />
                </dl>
              )}
            </li>
          ))}
        </ol>
      </section>
    );
  });
}

const SIGNS = { right: "✓", partly: "◐", wrong: "✗" } as const;
const WORDS = { right: "same as the key", partly: "partly", wrong: "other than the key" } as const;

function Given({ when, line }: { when: string; line: AnswerLine | null }) {
  const state = line?.state;
  const judged = state === "right" || state === "partly" || state === "wrong" ? state : null;
  return (
    <div className="min-w-0">
      <dt className="label">
        {when}
        {judged ? (
          <span className={classes("ml-2", judged === "right" ? "text-moss" : "text-ember")}>
            {SIGNS[judged]} {WORDS[judged]}
          </span>
        ) : null}
      </dt>
      {line === null || state === "nothing given" ? (
        <dd className="text-soft">no answer</dd>
      ) : (
        line.rows.map((row, n) => (
          <dd key={n} className="break-words whitespace-pre-wrap">
            {row.label ? <span className="text-soft">{row.label}: </span> : null}
            {row.given}
          </dd>
        ))
      )}
    </div>
  );
}
