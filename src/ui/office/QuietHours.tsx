"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { QuietHours as Hours } from "@/core/time/quiet";
import { call } from "../client";
import { Button } from "../kit/Button";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

const USUAL: Hours = { from: "20:00", until: "07:00" };

/** The hours in which the school sends no mail: letters and reminders wait until they end. */
export function QuietHours({ first }: { first: Hours | null }) {
  const { act, busy, problem, fields } = useAct();
  const [on, setOn] = useState(first !== null);
  const [hours, setHours] = useState(first ?? USUAL);
  const [kept, setKept] = useState(false);
  const keep = () =>
    act(() =>
      call(contract.setQuietHours, { body: on ? hours : { from: null, until: null } }),
    ).then((done) => setKept(Boolean(done)));
  return (
    <section aria-labelledby="quiet" className="mt-10">
      <h2 id="quiet">Quiet hours</h2>
      <p className="mt-1 text-soft">
        Letters to students and guardians, and reminders by mail, wait until they end.
      </p>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <form
        className="mt-3 grid max-w-xl gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <CheckField
          label="Nothing is sent in the night"
          checked={on}
          onChange={(event) => {
            setOn(event.target.checked);
            setKept(false);
          }}
        />
        {on ? (
          <div className="flex gap-4">
            {(["from", "until"] as const).map((name) => (
              <WhenField
                key={name}
                kind="time"
                label={name}
                value={hours[name]}
                error={fields[name]}
                onChange={(typed) => {
                  setHours((old) => ({ ...old, [name]: typed }));
                  setKept(false);
                }}
              />
            ))}
          </div>
        ) : null}
        <span>
          <Button type="submit" small ink="tide" disabled={busy || kept}>
            {kept ? "Kept" : "Keep"}
          </Button>
        </span>
      </form>
    </section>
  );
}
