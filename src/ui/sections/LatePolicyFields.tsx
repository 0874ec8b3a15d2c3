"use client";

import { LATE_UNITS, type LatePolicy, type LateUnit } from "@/core/scores/latePolicy";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";

type Props = {
  value: LatePolicy | null;
  /** What holds when nothing is chosen; null: something must be. */ inherited: LatePolicy | null;
  onChange: (policy: LatePolicy | null) => void;
  errors: Record<string, string>;
  at: string;
};

/** What being late does to a score: a choice, and its numbers where it has any. */
export function LatePolicyFields({ value, inherited, onChange, errors, at }: Props) {
  const kind = value?.kind ?? "section";
  return (
    <div className="grid gap-4 sm:grid-cols-[minmax(12rem,2fr)_1fr_1fr_1fr]">
      <SelectField
        label="Late work"
        value={kind}
        onChange={(event) => {
          const next = event.target.value;
          if (next === "section") onChange(null);
          else
            onChange(
              next === "deduct"
                ? { kind: "deduct", percent: "10", per: "school day", floorPercent: "0" }
                : { kind: next as "flag" | "closed" },
            );
        }}
      >
        {inherited ? (
          <option value="section">as the section has it ({sayKind(inherited)})</option>
        ) : null}
        <option value="flag">only marked as late</option>
        <option value="deduct">points are taken off</option>
        <option value="closed">nothing after it closes</option>
      </SelectField>
      {value?.kind === "deduct" ? (
        <>
          <TextField
            label="Taken off (% of possible)"
            inputMode="decimal"
            value={value.percent}
            onChange={(event) => onChange({ ...value, percent: event.target.value })}
            error={errors[`${at}.percent`]}
          />
          <SelectField
            label="for each started"
            value={value.per}
            onChange={(event) => onChange({ ...value, per: event.target.value as LateUnit })}
          >
            {LATE_UNITS.map((unit) => (
              <option key={unit} value={unit}>
                {unit}
              </option>
            ))}
          </SelectField>
          <TextField
            label="but not below (%)"
            inputMode="decimal"
            value={value.floorPercent}
            onChange={(event) => onChange({ ...value, floorPercent: event.target.value })}
            error={errors[`${at}.floorPercent`]}
            hint="of possible; 0: down to nothing"
          />
        </>
      ) : null}
    </div>
  );
}

function sayKind(policy: LatePolicy): string {
  if (policy.kind === "deduct") return `− ${policy.percent} % each ${policy.per}`;
  return policy.kind === "closed" ? "nothing after closing" : "only marked";
}
