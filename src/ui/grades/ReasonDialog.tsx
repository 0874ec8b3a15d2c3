"use client";

import { useState, type ReactNode } from "react";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** An act on grades that need a reason; the reason stands in their list. It closes when it is done. */
export function ReasonDialog({
  title,
  press,
  children,
  onClose,
  work,
}: {
  title: string;
  press: string;
  children: ReactNode;
  onClose: () => void;
  work: (reason: string) => Promise<unknown>;
}) {
  const { act, busy, problem, fields } = useAct();
  const [reason, setReason] = useState("");
  return (
    <Dialog open onClose={onClose} title={title}>
      {children}
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void act(() => work(reason)).then((done) => {
            if (done !== undefined) onClose();
          });
        }}
      >
        <TextArea
          label="Why"
          value={reason}
          error={fields.reason}
          maxLength={1000}
          rows={2}
          required
          autoFocus
          onChange={(event) => setReason(event.target.value)}
        />
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <div className="flex justify-end gap-2">
          <Button type="button" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit" ink="tide" disabled={busy || reason.trim() === ""}>
            {press}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
