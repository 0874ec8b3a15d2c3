"use client";

import type { Misfit, Planned } from "@/core/ledger/changes";
import { sayCount } from "@/core/text/sayCount";
import type { LedgerRow, LedgerWithGrades } from "@/core/views/ledgerViews";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";

/** So many of what does not fit are listed; the rest are counted. */
const MOST_LISTED = 50;

export type Pasted = Planned & { tooMany: boolean };

/** Before what was pasted goes anywhere: how much of it fits, and what does not, by student and column. */
export function PasteDialog({
  pasted,
  view,
  rows,
  onClose,
  onPaste,
}: {
  pasted: Pasted | null;
  view: LedgerWithGrades;
  rows: readonly LedgerRow[];
  onClose: () => void;
  onPaste: () => void;
}) {
  const { changes = [], misfits = [], tooMany = false } = pasted ?? {};
  return (
    <Dialog open={pasted !== null} onClose={onClose} title="Paste into the Ledger" wide>
      <p>
        {changes.length === 0
          ? "Nothing of it would change a cell."
          : `${sayCount(changes.length, "cell")} will change.`}{" "}
        {misfits.length > 0
          ? `${sayCount(misfits.length, "cell does", "cells do")} not fit and will stay as they are:`
          : ""}
      </p>
      {tooMany ? (
        <p className="mt-2 text-ember">
          It is more than the Ledger takes at once (300 rows of 200 columns): the rest is left out.
        </p>
      ) : null}
      {misfits.length > 0 ? (
        <table className="sheet-table mt-3">
          <thead>
            <tr>
              <th scope="col">student</th>
              <th scope="col">work</th>
              <th scope="col">pasted</th>
              <th scope="col">why not</th>
            </tr>
          </thead>
          <tbody>
            {misfits.slice(0, MOST_LISTED).map((misfit) => (
              <tr key={`${misfit.row} ${misfit.column}`}>
                <td>{rows[misfit.row]?.student ?? "below the last row"}</td>
                <td>{sayWork(misfit, view)}</td>
                <td>{misfit.typed.slice(0, 40)}</td>
                <td>{misfit.why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {misfits.length > MOST_LISTED ? (
        <p className="mt-2 text-soft">and {misfits.length - MOST_LISTED} more.</p>
      ) : null}
      <div className="mt-5 flex gap-3">
        <Button ink="tide" disabled={changes.length === 0} onClick={onPaste}>
          {misfits.length > 0 ? "Paste what fits" : "Paste"}
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Dialog>
  );
}

function sayWork({ column }: Misfit, view: LedgerWithGrades): string {
  if (column === 0) return "the grade";
  return view.columns[column - 1]?.title ?? "beyond the last column";
}
