"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayShows, SHOWS, SHOWS_WORDS } from "@/core/ledger/shows";
import type { LedgerColumn } from "@/core/views/ledgerViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

/** When students see the scores of the column one is at, where it is work off the screen. */
export function ColumnShows({ column, today }: { column: LedgerColumn; today: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button small ink="quiet" aria-haspopup="dialog" onClick={() => setOpen(true)}>
        {sayShows(column.shows)}
      </Button>
      {open ? <ShowsDialog {...{ column, today }} onClose={() => setOpen(false)} /> : null}
    </>
  );
}

function ShowsDialog({
  column,
  today,
  onClose,
}: {
  column: LedgerColumn;
  today: string;
  onClose: () => void;
}) {
  const { act, busy, problem, fields } = useAct();
  const [shows, setShows] = useState(column.shows.when);
  const [on, setOn] = useState(column.shows.on ?? today);
  const keep = () =>
    void act(() =>
      call(contract.setShows, {
        params: { handOutId: column.handOutId },
        body: { shows, on: shows === "date" ? on : null },
      }),
    ).then((done) => {
      if (done) onClose();
    });
  return (
    <Dialog open onClose={onClose} title={column.title}>
      <fieldset>
        <legend className="label">Students and guardians see the scores</legend>
        {SHOWS.map((when) => (
          <label key={when} className="flex min-h-8 items-center gap-2 max-sm:min-h-11">
            <input
              type="radio"
              name="shows"
              className="size-5 accent-tide"
              checked={shows === when}
              onChange={() => setShows(when)}
            />
            {SHOWS_WORDS[when]}
          </label>
        ))}
      </fieldset>
      {shows === "date" ? (
        <div className="mt-2 max-w-48">
          <WhenField
            label="From"
            kind="date"
            value={on}
            error={fields.on}
            onChange={(typed) => setOn(typed)}
          />
        </div>
      ) : null}
      <p className="mt-3 text-sm text-soft">
        Scores that go by themselves go with their note, once nothing was changed for ten minutes.
        What students have seen already stays seen.
      </p>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button ink="tide" disabled={busy} onClick={keep}>
          Keep it so
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Dialog>
  );
}
