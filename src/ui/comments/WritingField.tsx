"use client";

import type { Ref } from "react";
import { useBankHere } from "./BankContext";
import { BankField } from "./BankField";

/** A field to write in: with the comment bank behind `;` for teachers, and emoji behind `:` on both sides. */
export function WritingField(props: {
  label: string;
  hideLabel?: boolean;
  rows: number;
  value: string;
  onChange: (value: string) => void;
  placeholder?: string;
  error?: string;
  maxLength?: number;
  fieldRef?: Ref<HTMLTextAreaElement>;
}) {
  const here = useBankHere();
  return (
    <BankField
      {...props}
      bank={here?.bank ?? []}
      values={here?.values ?? {}}
      plain={!here}
      onFocus={here?.want}
    />
  );
}
