"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const KINDS = ["teacher", "student", "office"] as const;
const EMPTY = { name: "", email: "", kind: "teacher" as (typeof KINDS)[number] };

/** One person at a time; many come in as a table on the page of the roster. */
export function AddPerson({ onAdded }: { onAdded: (name: string) => void }) {
  const { act, busy, problem, fields } = useAct();
  const [given, setGiven] = useState(EMPTY);
  const set = (part: Partial<typeof EMPTY>) => setGiven({ ...given, ...part });
  return (
    <form
      className="grid items-start gap-3 sm:grid-cols-[1fr_1fr_8rem_auto]"
      aria-label="Add a person"
      onSubmit={(event) => {
        event.preventDefault();
        void act(() => call(contract.addPerson, { body: given })).then((added) => {
          if (!added) return;
          setGiven({ ...EMPTY, kind: given.kind });
          onAdded(added.name);
        });
      }}
    >
      <TextField
        label="Name"
        value={given.name}
        onChange={(event) => set({ name: event.target.value })}
        error={fields.name}
      />
      <TextField
        label="E-mail"
        type="email"
        value={given.email}
        onChange={(event) => set({ email: event.target.value })}
        error={fields.email}
      />
      <SelectField
        label="Who"
        value={given.kind}
        onChange={(event) => set({ kind: event.target.value as typeof given.kind })}
      >
        {KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </SelectField>
      <Button type="submit" className="sm:mt-6" disabled={busy}>
        Add to the school
      </Button>
      {problem && Object.keys(fields).length === 0 ? (
        <Notice ink="ember" className="sm:col-span-4">
          {problem}
        </Notice>
      ) : null}
    </form>
  );
}
