"use client";

import { useState } from "react";
import { PIECE_STATES } from "@/core/pieces/life";
import { Button } from "./Button";
import { Dialog } from "./Dialog";
import { CheckField, TextArea, TextField } from "./Field";
import { Moon } from "./Moon";
import { WhenField } from "./WhenField";
import { Empty, Notice } from "./Notice";

/** The tokens of globals.css by their own names. */
const INKS = [
  "paper",
  "paper-raised",
  "paper-sunk",
  "ink",
  "ink-soft",
  "line",
  "line-strong",
  "tide",
  "tide-wash",
  "ember",
  "ember-wash",
  "moss",
  "moss-wash",
  "plum",
  "plum-wash",
];

export function KitPage() {
  const [open, setOpen] = useState(false);
  return (
    <div className="mx-auto grid w-full max-w-5xl gap-10 px-6 py-8">
      <h1>Kit</h1>
      <section>
        <h2>Inks</h2>
        <ul className="mt-2 flex flex-wrap gap-3">
          {INKS.map((ink) => (
            <li key={ink} className="text-sm">
              <span
                className="block h-12 w-24 border border-line-strong"
                style={{ background: `var(--${ink})` }}
              />
              {ink}
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h2>Moons</h2>
        <table className="sheet-table mt-2 w-auto!">
          <tbody>
            {PIECE_STATES.map((state) => (
              <tr key={state}>
                <th scope="row">{state}</th>
                {[1, 2, 3].map((round) => (
                  <td key={round}>
                    <Moon
                      moon={{ state, round, late: false, missing: false, excused: false }}
                      size={30}
                    />{" "}
                    <Moon
                      moon={{ state, round, late: true, missing: false, excused: false }}
                      size={30}
                    />
                  </td>
                ))}
                <td>
                  <Moon
                    moon={{ state, round: 1, late: false, missing: false, excused: true }}
                    size={30}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="grid gap-3">
        <h2>Buttons, fields, dialogs</h2>
        <div className="flex flex-wrap gap-3">
          <Button ink="tide">Hand in</Button>
          <Button ink="plum">Hand back to revise</Button>
          <Button>Not yet</Button>
          <Button ink="quiet">Change</Button>
          <Button disabled>Cannot be pressed</Button>
          <Button small>Small</Button>
          <Button onClick={() => setOpen(true)}>Open a dialog</Button>
        </div>
        <div className="grid gap-4 sm:grid-cols-2">
          <TextField label="Title" defaultValue="Rainfall log" hint="A hint" />
          <WhenField
            label="Due"
            kind="both"
            value="2026-12-03T09:05"
            onChange={() => {}}
            error="It would be due before it opens."
          />
          <TextArea label="Overall note" rows={3} />
          <CheckField label="Students may take a hand-in back" hint="until it is due" />
        </div>
        <Dialog open={open} onClose={() => setOpen(false)} title="A dialog">
          Escape closes it.
        </Dialog>
      </section>
      <section className="grid gap-3">
        <h2>Notices and empty places</h2>
        <Notice ink="tide">Something that can be done now.</Notice>
        <Notice ink="moss">Handed in. Here is your receipt.</Notice>
        <Notice ink="plum">Handed back to revise.</Notice>
        <Notice ink="ember" acts={<Button small>Try again</Button>}>
          Not saved: no connection. Kept on this device.
        </Notice>
        <Empty title="Nothing lies on the Desk">Today shows where there is.</Empty>
      </section>
    </div>
  );
}
