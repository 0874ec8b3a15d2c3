"use client";

import { useState } from "react";
import { SelectField } from "./Choices";
import { TextField } from "./Field";

/** No name is this one: names have no control characters. */
const MAKE = "\u0001make";

/**
 * One of a list, or a new one that is named here. What is chosen is what the list says, to the letter: nobody makes
 * "Lab work" beside "lab work" by a slip.
 */
export function ChooseOrMake({
  label,
  value,
  choices,
  none,
  make,
  onChange,
  hint,
  error,
  maxLength,
}: {
  label: string;
  value: string;
  choices: readonly string[];
  /** What is said where none is chosen; left out: one must be. */ none?: string;
  /** The words of the choice that makes a new one. */ make: string;
  onChange: (value: string) => void;
  hint?: string;
  error?: string;
  maxLength?: number;
}) {
  const [making, setMaking] = useState(value !== "" && !choices.includes(value));
  function choose(chosen: string) {
    setMaking(chosen === MAKE);
    onChange(chosen === MAKE ? "" : chosen);
  }
  return (
    <div className="grid gap-1">
      <SelectField
        label={label}
        value={making ? MAKE : value}
        hint={making ? undefined : hint}
        error={making ? undefined : error}
        onChange={(event) => choose(event.target.value)}
      >
        {none === undefined ? null : <option value="">{none}</option>}
        {choices.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
        <option value={MAKE}>{make}</option>
      </SelectField>
      {making ? (
        <TextField
          label={`${label}: its name`}
          autoFocus
          value={value}
          hint={hint}
          error={error}
          maxLength={maxLength}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : null}
    </div>
  );
}
