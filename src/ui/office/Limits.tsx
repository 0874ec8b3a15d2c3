"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { LimitsView } from "@/core/views/reminderViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const FIELDS: { name: keyof LimitsView; label: string; hint: string }[] = [
  { name: "fileMegabytes", label: "One file (MB)", hint: "A phone films about 60 MB a minute." },
  { name: "pieceMegabytes", label: "One piece of work (MB)", hint: "All its files together." },
  { name: "studentMegabytes", label: "One student (MB)", hint: "All their work together." },
  {
    name: "recordingMinutes",
    label: "One recording (minutes)",
    hint: "Where a task does not say less.",
  },
];

/** How much students can hand in. What is there already stays, whatever is set here. */
export function Limits({ first }: { first: LimitsView }) {
  const { act, busy, problem, fields } = useAct();
  const [values, setValues] = useState<Record<string, string>>(
    Object.fromEntries(FIELDS.map((f) => [f.name, String(first[f.name])])),
  );
  const [kept, setKept] = useState(false);
  async function keep() {
    setKept(false);
    const body = Object.fromEntries(
      FIELDS.map((f) => [f.name, Number(values[f.name])]),
    ) as LimitsView;
    if (await act(() => call(contract.setLimits, { body }))) setKept(true);
  }
  return (
    <form
      className="grid max-w-xl gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <p className="text-soft">Students see these before they send anything.</p>
      {problem ? <Notice ink="ember">{problem} Nothing was changed.</Notice> : null}
      {kept ? <Notice ink="moss">Kept. It holds from now on.</Notice> : null}
      <div className="grid gap-4 sm:grid-cols-2">
        {FIELDS.map((f) => (
          <TextField
            key={f.name}
            label={f.label}
            hint={f.hint}
            inputMode="numeric"
            value={values[f.name]}
            error={fields[f.name]}
            onChange={(event) =>
              setValues((old) => ({
                ...old,
                [f.name]: event.target.value.replace(/\D/g, "").slice(0, 6),
              }))
            }
          />
        ))}
      </div>
      <div>
        <Button ink="tide" type="submit" disabled={busy}>
          Keep these limits
        </Button>
      </div>
    </form>
  );
}
