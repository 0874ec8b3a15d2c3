"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { GradeRules } from "@/core/grades/rules";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Rounding } from "../grades/Rounding";
import { sayRules } from "../grades/sayRules";
import { ScaleSteps } from "../grades/ScaleSteps";
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
        {view.gradeScales.length > 0 ? (
          <SelectField
            label="a scale of the school"
            hint="Its steps and its rounding are taken over here, to be changed as you like."
            value=""
            onChange={(event) => {
              const taken = view.gradeScales.find(({ name }) => name === event.target.value);
              if (taken) set({ decimals: taken.decimals, round: taken.round, scale: taken.scale });
            }}
          >
            <option value="">take one over …</option>
            {view.gradeScales.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </SelectField>
        ) : null}
        <Rounding rules={rules} onChange={set} />
        <ScaleSteps
          scale={rules.scale}
          onChange={(scale) => set({ scale })}
          wrong={(n) => fields[`scale[${n}]`]}
        />
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
