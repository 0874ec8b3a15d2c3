"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { CATEGORY_SHOWS, SHOWS_WORDS, type CategoryShows } from "@/core/ledger/shows";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { WhenField } from "../kit/WhenField";
import { ChooseOrMake } from "../kit/ChooseOrMake";
import { useAct } from "../useAct";

/** A column for work off the screen, in one line: what it was, of how many points, on which day, in which category. */
export function NewColumn({
  view,
  onMade,
}: {
  view: LedgerWithGrades;
  onMade: (handOutId: string) => void;
}) {
  const { act, busy, problem, fields } = useAct();
  const [column, setColumn] = useState({
    title: "",
    points: "10",
    on: view.today,
    category: "",
    shows: "",
  });
  const set = (part: Partial<typeof column>) => setColumn({ ...column, ...part });
  async function make(): Promise<void> {
    const made = await act(() =>
      call(contract.addColumn, {
        params: { sectionId: view.section.id },
        body: { ...column, shows: (column.shows || null) as CategoryShows | null },
      }),
    );
    if (made) onMade(made.handOutId);
  }
  return (
    <form
      aria-label="New column"
      className="mb-3 grid grid-cols-[minmax(10rem,2fr)_6rem_10rem_minmax(8rem,1fr)_minmax(8rem,1fr)_auto] items-start gap-x-3 gap-y-2 border-y border-line py-2 max-md:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <TextField
        label="Work off the screen"
        value={column.title}
        maxLength={200}
        autoFocus
        error={fields.title}
        onChange={(event) => set({ title: event.target.value })}
      />
      <TextField
        label="Points"
        value={column.points}
        inputMode="decimal"
        maxLength={10}
        error={fields.points}
        onChange={(event) => set({ points: event.target.value })}
      />
      <WhenField
        label="On"
        kind="date"
        value={column.on}
        error={fields.on}
        onChange={(typed) => set({ on: typed })}
      />
      <ChooseOrMake
        label="Category"
        none="none"
        make="a new one …"
        value={column.category}
        choices={view.categories}
        maxLength={60}
        error={fields.category}
        onChange={(category) => set({ category })}
      />
      <SelectField
        label="Students see it"
        value={column.shows}
        onChange={(event) => set({ shows: event.target.value })}
      >
        <option value="">as its category says</option>
        {CATEGORY_SHOWS.map((when) => (
          <option key={when} value={when}>
            {SHOWS_WORDS[when]}
          </option>
        ))}
      </SelectField>
      <Button type="submit" ink="tide" disabled={busy} className="mt-6">
        Add the column
      </Button>
      {problem && Object.keys(fields).length === 0 ? (
        <p role="alert" className="col-span-full text-ember">
          {problem}
        </p>
      ) : null}
    </form>
  );
}
