"use client";

import type { AskedOfRound } from "@/core/rounds/asked";
import { SelectField } from "../kit/Choices";
import { CheckField } from "../kit/Field";

type Props = {
  /** Of the work; with one alone there is nothing to choose. */
  parts: readonly { id: string; label: string }[];
  asked: AskedOfRound;
  onChange: (asked: AskedOfRound) => void;
};

/** What is said of the round that a revision opens: how many more there will be, and which parts are meant. */
export function AskedFields({ parts, asked, onChange }: Props) {
  const toggle = (id: string, on: boolean) =>
    onChange({ ...asked, parts: asked.parts.filter((p) => p !== id).concat(on ? [id] : []) });
  return (
    <div className="mt-3 grid gap-3">
      <SelectField
        label="rounds from then on"
        value={asked.more ?? ""}
        onChange={(event) => onChange({ ...asked, more: Number(event.target.value) || null })}
      >
        <option value="">as many as it needs</option>
        <option value="1">this one is the last</option>
        <option value="2">two at most</option>
        <option value="3">three at most</option>
      </SelectField>
      {parts.length > 1 ? (
        <fieldset>
          <legend className="label">what is to be revised (none: all of it)</legend>
          {parts.map((part) => (
            <CheckField
              key={part.id}
              label={part.label}
              checked={asked.parts.includes(part.id)}
              onChange={(event) => toggle(part.id, event.target.checked)}
            />
          ))}
        </fieldset>
      ) : null}
    </div>
  );
}
