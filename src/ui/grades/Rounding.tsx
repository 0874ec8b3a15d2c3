"use client";

import type { GradeRules } from "@/core/grades/rules";
import { SelectField } from "../kit/Choices";

type Rounded = Pick<GradeRules, "decimals" | "round">;

/** How a grade is rounded, once and at the end. */
export function Rounding({
  rules,
  onChange,
}: {
  rules: Rounded;
  onChange: (part: Partial<Rounded>) => void;
}) {
  return (
    <div className="flex flex-wrap gap-4">
      <SelectField
        label="places after the point"
        value={rules.decimals}
        onChange={(event) =>
          onChange({ decimals: Number(event.target.value) as GradeRules["decimals"] })
        }
      >
        <option value="0">none</option>
        <option value="1">one</option>
        <option value="2">two</option>
      </SelectField>
      <SelectField
        label="a half goes"
        value={rules.round}
        onChange={(event) => onChange({ round: event.target.value as GradeRules["round"] })}
      >
        <option value="half up">up</option>
        <option value="half even">to the even digit</option>
      </SelectField>
    </div>
  );
}
