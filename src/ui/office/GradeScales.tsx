"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { MOST_SCALES, type GradeScale } from "@/core/grades/rules";
import { call } from "../client";
import { Rounding } from "../grades/Rounding";
import { ScaleSteps } from "../grades/ScaleSteps";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const NEW: GradeScale = {
  name: "",
  decimals: 0,
  round: "half up",
  scale: [{ from: "", name: "" }],
};

/** The scales of the school: a section takes one over where it says how its grade comes about. */
export function GradeScales({ first }: { first: readonly GradeScale[] }) {
  const { act, busy, problem, fields } = useAct();
  const [scales, setScales] = useState<readonly GradeScale[]>(first);
  const [saved, setSaved] = useState(true);
  const set = (next: readonly GradeScale[]) => {
    setScales(next);
    setSaved(false);
  };
  const change = (n: number, part: Partial<GradeScale>) =>
    set(scales.map((one, k) => (k === n ? { ...one, ...part } : one)));
  const keep = () =>
    act(() => call(contract.setGradeScales, { body: { scales: [...scales] } })).then(
      (done) => done && setSaved(true),
    );
  return (
    <div className="mt-4 grid gap-6">
      <p className="text-soft">
        Sections that took a scale over before keep it as it was. Grades are rounded once, at the
        end.
      </p>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {scales.length === 0 ? <p>There is none yet.</p> : null}
      {scales.map((one, n) => (
        <fieldset key={n} className="grid gap-3 border-l-2 border-line-strong pl-4">
          <legend className="sr-only">{one.name || `Scale ${n + 1}`}</legend>
          <div className="max-w-80">
            <TextField
              label="Name"
              value={one.name}
              maxLength={40}
              error={fields[`scales[${n}].name`]}
              onChange={(event) => change(n, { name: event.target.value })}
            />
          </div>
          <Rounding rules={one} onChange={(part) => change(n, part)} />
          <ScaleSteps
            scale={one.scale}
            onChange={(scale) => change(n, { scale })}
            wrong={(step) => fields[`scales[${n}].scale[${step}]`]}
          />
          <span>
            <Button small ink="quiet" onClick={() => set(scales.filter((_, k) => k !== n))}>
              Take out {one.name || `scale ${n + 1}`}
            </Button>
          </span>
        </fieldset>
      ))}
      <div className="flex gap-2">
        {scales.length < MOST_SCALES ? (
          <Button onClick={() => set([...scales, NEW])}>Add a scale</Button>
        ) : null}
        <Button ink="tide" disabled={busy || saved} onClick={() => void keep()}>
          {saved ? "Kept" : "Keep"}
        </Button>
      </div>
    </div>
  );
}
