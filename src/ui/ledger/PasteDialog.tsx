"use client";

import { shorten } from "@/core/text/shorten";
import type { Misfit, Planned } from "@/core/ledger/changes";
import { sayCount } from "@/core/text/sayCount";
import type { LedgerRow, LedgerWithGrades } from "@/core/views/ledgerViews";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";

/** So many of what does not fit are listed; the rest are counted. */
const MOST_LISTED = 50;

/** What was pasted, or brought back as a file by student and column. */
export type Pasted = Planned & {
  tooMany: boolean;
  /** By student and column; null: it was pasted, and goes where one was. */ file: {
    name: string;
    strangers: readonly string[];
    unknownWork: readonly string[];
  } | null;
};

type Props = {
  view: LedgerWithGrades;
  /** The rows that misfits count in. */ rows: readonly LedgerRow[];
  onClose: () => void;
  onPaste: () => void;
};

/** Before what was pasted goes anywhere: how much of it fits, and what does not, by student and column. */
export function PasteDialog({ pasted, ...rest }: Props & { pasted: Pasted | null }) {
  if (!pasted) return null;
  const title = pasted.file ? `Bring ${pasted.file.name} into the Ledger` : "Paste into the Ledger";
  return (
    <Dialog open onClose={rest.onClose} title={title} wide>
      <Preview pasted={pasted} {...rest} />
    </Dialog>
  );
}

function Preview({ pasted, view, rows, onClose, onPaste }: Props & { pasted: Pasted }) {
  const { changes, misfits, tooMany, file } = pasted;
  const press = file ? "Bring in" : "Paste";
  return (
    <>
      <p>
        {changes.length === 0
          ? "Nothing of it would change a cell."
          : `${sayCount(changes.length, "cell")} will change.`}{" "}
        {misfits.length > 0
          ? `${sayCount(misfits.length, "cell does not fit and stays as it is", "cells do not fit and stay as they are")}:`
          : ""}
      </p>
      {tooMany ? (
        <p className="mt-2 text-ember">
          It is more than the Ledger takes at once (300 rows of 200 columns): the rest is left out.
        </p>
      ) : null}
      <Unknown words="No student here is called" names={file?.strangers ?? []} />
      <Unknown words="No work shown here is called" names={file?.unknownWork ?? []} />
      <Misfits {...{ misfits, view, rows }} typed={file ? "in the file" : "pasted"} />
      <div className="mt-5 flex gap-3">
        <Button ink="tide" disabled={changes.length === 0} onClick={onPaste}>
          {misfits.length > 0 ? `${press} what fits` : press}
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </>
  );
}

function Misfits({
  misfits,
  view,
  rows,
  typed,
}: Pick<Props, "view" | "rows"> & { misfits: readonly Misfit[]; typed: string }) {
  if (misfits.length === 0) return null;
  return (
    <>
      <table className="sheet-table mt-3">
        <thead>
          <tr>
            <th scope="col">student</th>
            <th scope="col">work</th>
            <th scope="col">{typed}</th>
            <th scope="col">why not</th>
          </tr>
        </thead>
        <tbody>
          {misfits.slice(0, MOST_LISTED).map((misfit) => (
            <tr key={`${misfit.row} ${misfit.column}`}>
              <td>{rows[misfit.row]?.student ?? "below the last row"}</td>
              <td>{sayWork(misfit, view)}</td>
              <td>{shorten(misfit.typed, 40)}</td>
              <td>{misfit.why}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {misfits.length > MOST_LISTED ? (
        <p className="mt-2 text-soft">and {misfits.length - MOST_LISTED} more.</p>
      ) : null}
    </>
  );
}

/** What belongs to nobody or nothing here, and is left out. */
function Unknown({ words, names }: { words: string; names: readonly string[] }) {
  if (names.length === 0) return null;
  const shown = names.slice(0, 12).map((name) => `“${shorten(name, 60)}”`);
  return (
    <p className="mt-2 text-ember">
      <span aria-hidden="true">▲ </span>
      {words} {shown.join(", ")}
      {names.length > shown.length ? ` and ${names.length - shown.length} more` : ""}: left out.
    </p>
  );
}

function sayWork({ column }: Misfit, view: LedgerWithGrades): string {
  if (column === 0) return "the grade";
  return view.columns[column - 1]?.title ?? "beyond the last column";
}
