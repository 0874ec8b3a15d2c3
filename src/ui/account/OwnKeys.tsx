"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { LetterKeys } from "@/core/desk/settings";
import { call, sayProblem } from "../client";
import { Notice } from "../kit/Notice";
import { setLettersHere } from "../kit/letterKeys";
import { LetterKeysField } from "./LetterKeysField";

/** Keys of one letter can be in the way of speech input and of readers: whoever they hinder switches them off. */
export function OwnKeys({ first }: { first: LetterKeys }) {
  const [letters, setLetters] = useState(first);
  const [said, setSaid] = useState<{ ink: "moss" | "ember"; words: string } | null>(null);
  async function set(next: LetterKeys) {
    setLetters(next);
    try {
      await call(contract.setSetting, { body: { name: "letters", value: next } });
      setLettersHere(next);
      setSaid({ ink: "moss", words: "Kept." });
    } catch (error) {
      setLetters(letters);
      setSaid({ ink: "ember", words: sayProblem(error) });
    }
  }
  return (
    <section aria-labelledby="own-keys" className="grid content-start gap-3">
      <h2 id="own-keys">Keys</h2>
      <p className="text-soft">
        At the Desk and on other pages, letters and signs do things while no field is written in: n
        is the next piece, / searches. They can wait for Ctrl+. or do nothing; everything has a
        button too.
      </p>
      <LetterKeysField value={letters} onChange={(next) => void set(next)} />
      {said ? <Notice ink={said.ink}>{said.words}</Notice> : null}
    </section>
  );
}
