"use client";

import { useRouter } from "next/navigation";
import { useState, type FormEvent } from "react";
import { SHORTEST_PASSWORD } from "@/core/access/guessing";
import { contract, ownPasswordBody } from "@/core/api/contract";
import { faultsOfBody } from "@/core/api/faults";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";

/** One's own password. `owed`: the present one was given by someone else, and nothing else opens until it is changed. */
export function OwnPassword({ owed, name }: { owed: boolean; name: string }) {
  const router = useRouter();
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [state, setState] = useState<"ready" | "sending" | "done">("ready");
  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = event.currentTarget;
    const given = new FormData(form);
    const body = { current: String(given.get("current")), password: String(given.get("password")) };
    const found = faultsOfBody(ownPasswordBody, body);
    if (!found.password && body.password !== String(given.get("again")))
      found.again = "This is not the same as above.";
    setFaults(found);
    setProblem(null);
    const [first] = Object.keys(found);
    if (first) return (form.elements.namedItem(first) as HTMLElement | null)?.focus();
    setState("sending");
    try {
      await call(contract.changePassword, { body });
      // All that was held back opens: the page is asked for anew, with its head.
      if (owed) return (router.replace("/"), router.refresh());
      form.reset();
      setState("done");
    } catch (error) {
      setState("ready");
      if (error instanceof Problem && Object.keys(error.fields).length > 0) {
        setFaults(error.fields);
        const [field] = Object.keys(error.fields);
        (form.elements.namedItem(field!) as HTMLElement | null)?.focus();
      } else setProblem(sayProblem(error));
    }
  }
  return (
    <section aria-labelledby="own-password">
      <h2 id="own-password">Password</h2>
      {owed ? (
        <Notice ink="tide">
          The password you signed in with was given to you, so someone else has seen it. Choose one
          of your own; then everything else opens.
        </Notice>
      ) : null}
      {state === "done" ? (
        <Notice ink="moss">
          It is changed. Wherever else you were signed in, you no longer are.
        </Notice>
      ) : null}
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <form onSubmit={(event) => void send(event)} noValidate className="mt-3 grid gap-4">
        <input type="text" name="username" autoComplete="username" hidden readOnly value={name} />
        <TextField
          label={owed ? "The password you were given" : "Present password"}
          name="current"
          type="password"
          autoComplete="current-password"
          error={faults.current}
        />
        <TextField
          label="New password"
          name="password"
          type="password"
          autoComplete="new-password"
          hint={`${SHORTEST_PASSWORD} characters at least; some words in a row are easy to remember.`}
          error={faults.password}
        />
        <TextField
          label="The new one again"
          name="again"
          type="password"
          autoComplete="new-password"
          error={faults.again}
        />
        <div>
          <Button ink="tide" type="submit" disabled={state === "sending"}>
            Change it
          </Button>
        </div>
      </form>
    </section>
  );
}
