"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { AnswerOf } from "@/core/api/endpoint";
import { call } from "../client";
import { Button } from "../kit/Button";
import type { ClassToSignIn } from "@/core/views/accountViews";
import { AddPerson } from "./AddPerson";
import { FirstPasswords } from "../account/FirstPasswords";
import { Dialog } from "../kit/Dialog";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

type People = AnswerOf<typeof contract.officePeople>;

/** Finds people and gives them passwords; those who have none yet stand first. */
export function People({
  asked: askedFor,
  first,
  classes,
}: {
  /** The name that is looked for to begin with. */ asked: string;
  first: People;
  classes: readonly ClassToSignIn[];
}) {
  const { act, busy, problem } = useAct();
  const [text, setText] = useState(askedFor);
  const [found, setFound] = useState(first);
  const [given, setGiven] = useState<AnswerOf<typeof contract.givePassword> | null>(null);
  /** Who has a password that a new one would end. */
  const [asked, setAsked] = useState<People[number] | null>(null);
  const [forClass, setForClass] = useState<ClassToSignIn | null>(null);
  useEffect(() => {
    const timer = setTimeout(
      () => void call(contract.officePeople, { query: { text } }).then(setFound, () => {}),
      200,
    );
    return () => clearTimeout(timer);
  }, [text, given]);
  const give = (personId: string) =>
    void act(() => call(contract.givePassword, { params: { personId } })).then((done) => {
      setAsked(null);
      if (done) setGiven(done);
    });
  return (
    <div className="grid gap-4">
      <Dialog
        open={asked !== null}
        onClose={() => setAsked(null)}
        title={`A new password for ${asked?.name ?? ""}?`}
      >
        <p>
          The one they have ends, and so does every session where they are signed in. Nothing they
          wrote is lost.
        </p>
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setAsked(null)}>Leave it</Button>
          <Button ink="tide" disabled={busy} onClick={() => asked && give(asked.id)}>
            Give a new one
          </Button>
        </div>
      </Dialog>
      <details open={askedFor === "" && first.length <= 1}>
        <summary className="label cursor-pointer">Add a person</summary>
        <div className="mt-2">
          <AddPerson onAdded={setText} />
        </div>
      </details>
      <div className="max-w-md">
        <TextField
          label="Find a person"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder="a part of the name or address"
        />
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="First passwords for a class"
          value=""
          onChange={(event) =>
            setForClass(classes.find((c) => c.id === event.target.value) ?? null)
          }
        >
          <option value="">Choose a class…</option>
          {classes.map((c) => {
            const without = c.students.filter((s) => !s.hasPassword).length;
            return (
              <option key={c.id} value={c.id}>
                {c.name}, {c.course}
                {without > 0 ? ` (${without} without)` : ""}
              </option>
            );
          })}
        </SelectField>
      </div>
      {forClass ? <FirstPasswords of={forClass} onClose={() => setForClass(null)} /> : null}
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {given ? (
        <Notice
          ink="moss"
          acts={
            <Button small onClick={() => setGiven(null)}>
              It is written down
            </Button>
          }
        >
          {given.name} signs in as <strong>{given.signsInAs}</strong> with{" "}
          <strong className="font-mono">{given.password}</strong> once, and then chooses their own.
          It is shown this once; where they were signed in, they no longer are.
        </Notice>
      ) : null}
      <table className="sheet-table">
        <thead>
          <tr className="label">
            <th scope="col">name</th>
            <th scope="col">who</th>
            <th scope="col">signs in as</th>
            <th scope="col">password</th>
          </tr>
        </thead>
        <tbody>
          {found.map((person) => (
            <tr key={person.id}>
              <th scope="row" className="border-b border-line! font-normal">
                {person.name}
              </th>
              <td>{person.kind}</td>
              <td className="text-sm">{person.signsInAs}</td>
              <td>
                <Button
                  small
                  disabled={busy}
                  onClick={() => (person.hasPassword ? setAsked(person) : give(person.id))}
                >
                  {person.hasPassword ? "Give a new one" : "None yet: give one"}
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.length === 0 ? <p className="text-soft">Nobody fits.</p> : null}
    </div>
  );
}
