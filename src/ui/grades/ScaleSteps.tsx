"use client";

import { MOST_STEPS, type GradeRules } from "@/core/grades/rules";
import { Button } from "../kit/Button";

type Props = {
  scale: GradeRules["scale"];
  onChange: (scale: GradeRules["scale"]) => void;
  /** What is wrong with a step, by its number. */ wrong: (n: number) => string | undefined;
};

/** Names for percents, the highest first; without any the percent stands alone. */
export function ScaleSteps({ scale, onChange, wrong }: Props) {
  const set = (n: number, part: Partial<GradeRules["scale"][number]>) =>
    onChange(scale.map((step, k) => (k === n ? { ...step, ...part } : step)));
  return (
    <fieldset>
      <legend className="label">scale: names for percents, the highest first</legend>
      <ul className="mt-1 grid gap-1.5">
        {scale.map((step, n) => (
          <li key={n} className="flex flex-wrap items-center gap-2 text-sm">
            from
            <input
              aria-label={`Step ${n + 1} begins at`}
              inputMode="decimal"
              value={step.from}
              onChange={(event) => set(n, { from: event.target.value })}
              className="min-h-9 w-16 border border-line-strong bg-raised px-2 text-right"
            />
            % on
            <input
              aria-label={`Name of step ${n + 1}`}
              value={step.name}
              onChange={(event) => set(n, { name: event.target.value })}
              className="min-h-9 w-40 border border-line-strong bg-raised px-2"
            />
            <Button
              small
              ink="quiet"
              aria-label={`Take out step ${n + 1}`}
              onClick={() => onChange(scale.filter((_, k) => k !== n))}
            >
              Take out
            </Button>
            {wrong(n) ? (
              <span role="alert" className="text-ember">
                ▲ {wrong(n)}
              </span>
            ) : null}
          </li>
        ))}
      </ul>
      {scale.length < MOST_STEPS ? (
        <Button small className="mt-2" onClick={() => onChange([...scale, { from: "", name: "" }])}>
          Add a step
        </Button>
      ) : null}
    </fieldset>
  );
}
