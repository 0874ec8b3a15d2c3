"use client";

import type { LetterKeys } from "@/core/desk/settings";
import { RadioLine } from "../kit/Choices";

const CHOICES: readonly { value: LetterKeys; words: string }[] = [
  { value: "on", words: "do what the card of keys says" },
  { value: "chord", words: "do it only after Ctrl+." },
  { value: "off", words: "do nothing" },
];

/** What letters, digits and signs do as keys while no field is written in. */
export function LetterKeysField({
  value,
  onChange,
}: {
  value: LetterKeys;
  onChange: (value: LetterKeys) => void;
}) {
  return <RadioLine label="single letters" value={value} choices={CHOICES} onChange={onChange} />;
}
