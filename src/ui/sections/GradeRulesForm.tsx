"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { MOST_STEPS, type GradeRules } from "@/core/grades/rules";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { sayRules } from "../grades/sayRules";
import { Button } from "../kit/Button";
import { RadioLine, SelectField } from "../kit/Choices";
import { CheckField } from "../kit/Field";
import { useAct } from "../useAct";

/** How the section's grade comes about, with the rules said in sentences as they will be read. */
export function GradeRulesForm({ view }: { view: SectionSetUp }) {
  const { act, busy, problem, fields } = useAct();
  const [rules, setRules] = useState(view.gradeRules);
  const [saved, setSaved] = useState(true);
  const set = (part: Partial<GradeRules>) => {
    setRules((old) => ({ ...old, ...part }));
    setSaved(false);
  };
  const keep = () =>
    act(() => call(contract.setGradeRules, { params: { sectionId: view.id }, body: rules })).then(
      (done) => done && setSaved(true),
    );
  return (
    <section aria-labelledby="grade-rules">
      <h2 id="grade-rules">How the grade comes about</h2>
      <div className="mt-2 grid gap-3">
        <RadioLine
          label="made of"
          value={rules.way}
          onChange={(way) => set({ way })}
          choices={[
            { value: "weights", words: "categories by their weights" },
            { value: "points", words: "all points together" },
          ]}
        />
        <RadioLine
          label="what was due and did not come"
          value={rules.missing}
          onChange={(missing) => set({ missing })}
          choices={[
            { value: "zero", words: "counts as 0" },
            { value: "left out", words: "is left out" },
          ]}
        />
        {rules.way === "weights" ? (
          <RadioLine
            label="a category in which nothing counts yet"
            value={rules.emptyWeights}
            onChange={(emptyWeights) => set({ emptyWeights })}
            choices={[
              { value: "spread", words: "gives its weight to the others" },
              { value: "kept", words: "keeps it" },
            ]}
          />
        ) : null}
        <div className="flex flex-wrap gap-4">
          <SelectField
            label="places after the point"
            value={rules.decimals}
            onChange={(event) =>
              set({ decimals: Number(event.target.value) as GradeRules["decimals"] })
            }
          >
            <option value="0">none</option>
            <option value="1">one</option>
            <option value="2">two</option>
          </SelectField>
          <SelectField
            label="a half goes"
            value={rules.round}
            onChange={(event) => set({ round: event.target.value as GradeRules["round"] })}
          >
            <option value="half up">up</option>
            <option value="half even">to the even digit</option>
          </SelectField>
        </div>
        <Scale rules={rules} onChange={(scale) => set({ scale })} fields={fields} />
        <CheckField
          label="Students and their guardians see the grade and its sum"
          hint="Made of the scores they were told."
          checked={rules.shown}
          onChange={(event) => set({ shown: event.target.checked })}
        />
        <ul className="list-disc pl-5 text-sm text-soft" aria-label="The rules in words">
          {sayRules(rules).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <Button
        small
        ink="tide"
        className="mt-3"
        disabled={busy || saved}
        onClick={() => void keep()}
      >
        {saved ? "Kept" : "Keep"}
      </Button>
    </section>
  );
}

type ScaleProps = {
  rules: GradeRules;
  onChange: (scale: GradeRules["scale"]) => void;
  fields: Readonly<Record<string, string>>;
};

/** Names for percents, the highest first; without any the percent stands alone. */
function Scale({ rules: { scale }, onChange, fields }: ScaleProps) {
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
            {fields[`scale[${n}]`] ? (
              <span role="alert" className="text-ember">
                ▲ {fields[`scale[${n}]`]}
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
