"use client";

import { HOLDS, type BatchOutcome, type ScoresGo } from "@/core/handingBack/outcome";
import type { AskedOfRound } from "@/core/rounds/asked";
import { sayCount } from "@/core/text/sayCount";
import type { BackPlan } from "@/core/views/handBackViews";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { RadioLine, SelectField } from "../kit/Choices";
import { CheckField, TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { AskedFields } from "./AskedFields";
import { WhenField } from "../kit/WhenField";
import { FileForAll } from "./FileForAll";

/** How an act of handing back goes; times are the school's, as they are typed. */
export type How = {
  outcome: BatchOutcome;
  due: string;
  when: "now" | "at";
  at: string;
  hold: number;
  message: string;
  scores: ScoresGo;
  scoresAt: string;
  /** A round that only asks for revision tells its score. */
  tellScore: boolean;
  /** What is said of the rounds it opens. */ asked: AskedOfRound;
};

type Props = {
  plan: BackPlan;
  how: How;
  /** Those chosen. */ pieceIds: readonly string[];
  going: number;
  unready: number;
  busy: boolean;
  problem: string | null;
  fields: Readonly<Record<string, string>>;
  onHow: (part: Partial<How>) => void;
  onLeaveOut: () => void;
  onSend: () => void;
};

/** For good or to revise, now or at a time, with or without a word to all, and when the scores go. */
export function HowItGoes(props: Props) {
  const { plan, how, going, unready, busy, problem, fields, onHow } = props;
  return (
    <form
      aria-label="How it goes back"
      className="grid content-start gap-4 self-start border-t border-line-strong pt-3 lg:sticky lg:top-4"
      onSubmit={(event) => {
        event.preventDefault();
        props.onSend();
      }}
    >
      {plan.mayRevise ? <Outcome {...props} /> : null}
      <When {...props} />
      {problem ? <Notice ink="ember">{problem} Nothing was handed back.</Notice> : null}
      {unready > 0 ? (
        <Notice
          ink="ember"
          acts={
            <Button small onClick={props.onLeaveOut}>
              Leave {unready === 1 ? "it" : "them"} out
            </Button>
          }
        >
          {unready} of those chosen {unready === 1 ? "is" : "are"} not ready.
        </Notice>
      ) : null}
      <Button
        type="submit"
        ink={how.outcome === "revise" ? "plum" : "tide"}
        disabled={busy || going === 0}
      >
        {sayAct(how, going)}
      </Button>
      <details className="border-t border-line pt-2">
        <summary className="label cursor-pointer max-sm:leading-[2.75rem]">
          also: scores, a word to all, a file
        </summary>
        <div className="mt-3 grid gap-4">
          {plan.scoring ? <Scores {...props} /> : null}
          <TextArea
            label="A word to all of them (optional)"
            hint="It stands in each one’s thread."
            rows={2}
            maxLength={4000}
            value={how.message}
            error={fields.message}
            onChange={(event) => onHow({ message: event.target.value })}
          />
          <FileForAll pieceIds={props.pieceIds} />
        </div>
      </details>
      {plan.unread > 0 ? (
        <p className="text-sm text-soft">
          {plan.unread === 1
            ? "One more piece came in, with nothing written on it yet. It stays."
            : `${plan.unread} more came in, with nothing written on them yet. They stay.`}
        </p>
      ) : null}
    </form>
  );
}

function sayAct({ when }: How, going: number): string {
  if (going === 0) return "Choose who gets it back";
  const pieces = sayCount(going, "piece");
  return when === "at" ? `Set ${pieces} to go back then` : `Hand back ${pieces}`;
}

const OUTCOME_WORDS: Readonly<Record<BatchOutcome, string>> = {
  final: "all for good",
  revise: "all to revise",
  draft: "each as its draft says",
};

function Outcome({ plan, how, fields, onHow }: Props) {
  return (
    <div className="grid gap-2">
      <RadioLine
        label="what happens"
        value={how.outcome}
        onChange={(outcome) => onHow({ outcome })}
        choices={(["final", "revise", "draft"] as const).map((value) => ({
          value,
          words: OUTCOME_WORDS[value],
        }))}
      />
      {how.outcome === "final" || !plan.scoring ? null : (
        <CheckField
          label="Tell the score of a round to revise"
          hint="Else it is known to teachers only, and counts all the same."
          checked={how.tellScore}
          onChange={(event) => onHow({ tellScore: event.target.checked })}
        />
      )}
      {how.outcome === "final" ? null : (
        <WhenField
          label="revisions are due"
          hint={
            how.outcome === "draft"
              ? "Where a draft names no time of its own."
              : "When the section meets a week from now, unless you say otherwise."
          }
          kind="both"
          required
          value={how.due}
          error={fields.due}
          onChange={(typed) => onHow({ due: typed })}
        />
      )}
      {how.outcome === "final" ? null : (
        <AskedFields parts={plan.parts} asked={how.asked} onChange={(asked) => onHow({ asked })} />
      )}
    </div>
  );
}

const sayHold = (seconds: number) =>
  seconds === 0
    ? "goes at once"
    : `${seconds < 60 ? sayCount(seconds, "second") : sayCount(seconds / 60, "minute")} to call it back`;

function When({ how, fields, onHow }: Props) {
  return (
    <div className="grid gap-2">
      <RadioLine
        label="when"
        value={how.when}
        onChange={(when) => onHow({ when })}
        choices={[
          { value: "now", words: "now" },
          { value: "at", words: "at a time" },
        ]}
      />
      {how.when === "at" ? (
        <WhenField
          label="goes back"
          kind="both"
          required
          value={how.at}
          error={fields.at}
          onChange={(typed) => onHow({ at: typed })}
        />
      ) : (
        <SelectField
          label="before anyone is told"
          value={how.hold}
          onChange={(event) => {
            const hold = Number(event.target.value);
            onHow({ hold });
            // A choice that cannot be kept holds for this once.
            void call(contract.setSetting, { body: { name: "desk.hold", value: hold } }).catch(
              () => undefined,
            );
          }}
        >
          {HOLDS.map((seconds) => (
            <option key={seconds} value={seconds}>
              {sayHold(seconds)}
            </option>
          ))}
        </SelectField>
      )}
    </div>
  );
}

function Scores({ how, fields, onHow }: Props) {
  return (
    <div className="grid gap-2">
      <SelectField
        label="scores and levels"
        value={how.scores}
        onChange={(event) => onHow({ scores: event.target.value as ScoresGo })}
      >
        <option value="now">go with the feedback</option>
        <option value="all">come when all that is in has gone back</option>
        <option value="date">come on a date</option>
      </SelectField>
      {how.scores === "date" ? (
        <WhenField
          label="scores come"
          kind="both"
          required
          value={how.scoresAt}
          error={fields.scoresAt}
          onChange={(typed) => onHow({ scoresAt: typed })}
        />
      ) : null}
    </div>
  );
}
