"use client";

import { contract } from "@/core/api/contract";
import { LANGUAGE_IDS, LANGUAGES, type Language } from "@/core/language/languages";
import { call } from "../client";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** The language of the sheet and of its mail; each is called by its own name. */
export function ChooseLanguage({ language, label }: { language: Language; label: string }) {
  const { act, busy, problem } = useAct();
  return (
    <div className="no-print mt-4">
      <label className="inline-flex min-h-11 items-center gap-2">
        {label}
        <select
          className="min-h-11 border border-line-strong bg-raised px-2"
          value={language}
          disabled={busy}
          onChange={(event) =>
            void act(() =>
              call(contract.setLanguage, { body: { language: event.target.value as Language } }),
            )
          }
        >
          {LANGUAGE_IDS.map((one) => (
            <option key={one} value={one} lang={one}>
              {LANGUAGES[one]}
            </option>
          ))}
        </select>
      </label>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
    </div>
  );
}
