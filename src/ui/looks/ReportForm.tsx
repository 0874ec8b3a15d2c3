"use client";

import { useState } from "react";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";

/** What is wrong with it goes to the teachers alone. */
export function ReportForm({
  onSend,
  onLeave,
}: {
  onSend: (why: string) => void;
  onLeave: () => void;
}) {
  const [why, setWhy] = useState("");
  return (
    <form
      className="mt-1 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSend(why);
      }}
    >
      <TextField
        label="What is wrong with it? (your teachers alone read this)"
        value={why}
        maxLength={500}
        autoFocus
        onChange={(event) => setWhy(event.target.value)}
      />
      <span className="flex gap-2">
        <Button small type="submit">
          Tell the teachers
        </Button>
        <Button small ink="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </span>
    </form>
  );
}
