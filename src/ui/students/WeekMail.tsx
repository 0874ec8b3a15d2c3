"use client";

import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** Whether the sheet is said by mail at the end of the week. */
export function WeekMail({ on, words }: { on: boolean; words: string }) {
  const { act, busy, problem } = useAct();
  return (
    <div className="no-print mt-8 border-t border-line pt-3">
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5 shrink-0 accent-tide"
          checked={on}
          disabled={busy}
          onChange={(event) =>
            void act(() => call(contract.setWeekMail, { body: { on: event.target.checked } }))
          }
        />
        {words}
      </label>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
    </div>
  );
}
