"use client";

import { useState } from "react";
import type { CellWork } from "@/core/ledger/cell";
import { planFill, planFlag, type Planned } from "@/core/ledger/changes";
import { SIGNS, type Sign } from "@/core/pieces/flags";
import { sayCount } from "@/core/text/sayCount";
import { Button } from "../kit/Button";
import { FlagSign } from "../kit/FlagSign";
import type { LedgerStore } from "./LedgerStore";
import type { LedgerHands } from "./useLedger";

const isOn = (work: CellWork, sign: Sign): boolean =>
  sign === "excused" ? work.excused : work.flag === sign;

/** Flags and fills by pointer, for the cells that are chosen; undo and redo. */
export function Pad({
  store,
  hands,
  mayExcept,
  onNote,
}: {
  store: LedgerStore;
  hands: LedgerHands;
  mayExcept: boolean;
  onNote: () => void;
}) {
  const [onlyBlanks, setOnlyBlanks] = useState(false);
  const { rect, targetAt, state } = hands;
  const here = hands.hereAt(hands.at);
  const chosen = (rect.bottom - rect.top + 1) * (rect.right - rect.left + 1);
  const only = onlyBlanks ? "blanks" : "all";

  function apply({ changes, misfits }: Planned): void {
    store.apply(changes);
    const why = misfits[0]?.why;
    if (why) store.say(why);
    else if (changes.length === 0) store.say("Nothing was changed by that.");
  }
  return (
    <div
      className="no-print mb-2 flex flex-wrap items-center max-sm:order-last max-sm:mt-2 gap-x-1.5 gap-y-1"
      data-pad
    >
      <span className="mr-1 text-sm text-soft">
        {hands.isStretch ? sayCount(chosen, "cell") : "Flag"}
      </span>
      {SIGNS.map((sign) => {
        const on = here !== null && isOn(here.work, sign);
        return (
          <Button
            key={sign}
            small
            aria-label={sign}
            aria-pressed={on}
            disabled={sign === "excused" && !mayExcept}
            title={
              sign === "excused" && !mayExcept
                ? "For the section’s owner and co-teachers who may hand back"
                : undefined
            }
            onClick={() => apply(planFlag(on ? null : sign, rect, targetAt))}
          >
            <FlagSign flag={sign} /> {sign}
          </Button>
        );
      })}
      <span aria-hidden="true" className="mx-1 h-5 border-l border-line-strong max-sm:hidden" />
      <Button
        small
        disabled={!hands.isStretch}
        onClick={() => apply(planFill("down", rect, targetAt, only))}
      >
        Fill down
      </Button>
      <Button
        small
        disabled={!hands.isStretch}
        onClick={() => apply(planFill("across", rect, targetAt, only))}
      >
        Fill across
      </Button>
      <label className="flex min-h-7 items-center gap-1.5 text-sm max-sm:min-h-11">
        <input
          type="checkbox"
          className="size-5 accent-tide"
          checked={onlyBlanks}
          onChange={(event) => setOnlyBlanks(event.target.checked)}
        />
        only blanks
      </label>
      <span aria-hidden="true" className="mx-1 h-5 border-l border-line-strong max-sm:hidden" />
      <Button small disabled={!here?.cell.pieceId} onClick={onNote}>
        Note <kbd className="max-sm:hidden">Shift+F2</kbd>
      </Button>
      <Button small disabled={state.undo.length === 0} onClick={() => store.undo()}>
        Undo
      </Button>
      <Button small disabled={state.redo.length === 0} onClick={() => store.redo()}>
        Redo
      </Button>
    </div>
  );
}
