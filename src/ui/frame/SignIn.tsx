"use client";

import { useState, type FormEvent } from "react";
import { contract, signInBody } from "@/core/api/contract";
import { faultsOfBody } from "@/core/api/faults";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";

export function SignIn() {
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = event.currentTarget;
    const body = bodyOf(form);
    const found = faultsOfBody(signInBody, body);
    setFaults(found);
    const [first] = Object.keys(found);
    if (first) return (form.elements.namedItem(first) as HTMLElement | null)?.focus();
    setSending(true);
    try {
      const { to } = await call(contract.signIn, { body });
      window.location.assign(to);
    } catch (error) {
      setProblem(sayProblem(error));
      setSending(false);
    }
  }
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="grid gap-4">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextField
        label="E-mail address or school name"
        name="name"
        autoComplete="username"
        autoCapitalize="none"
        error={faults.name}
      />
      <TextField
        label="Password"
        name="password"
        type="password"
        autoComplete="current-password"
        error={faults.password}
      />
      <div>
        <Button ink="tide" type="submit" disabled={sending}>
          Sign in
        </Button>
      </div>
    </form>
  );
}

/** What stands in the fields, however it came there: browsers fill in passwords without a key being pressed. */
function bodyOf(form: HTMLFormElement): { name: string; password: string } {
  const given = new FormData(form);
  return { name: String(given.get("name")), password: String(given.get("password")) };
}
