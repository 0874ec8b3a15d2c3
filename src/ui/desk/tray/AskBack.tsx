"use client";

import { useState } from "react";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { handBack } from "../commands/handBack";
import { usePieceOnDesk } from "../model";

/** Asked before a piece goes back by one key with nothing said on it, or with requests nobody ruled on. */
export function AskBack() {
  const desk = usePieceOnDesk();
  const { session, view, piece } = desk;
  const [busy, setBusy] = useState(false);
  const close = () => session.askBack(null);
  async function send() {
    setBusy(true);
    await handBack(desk, "final", null);
    setBusy(false);
    close();
  }
  return (
    <Dialog
      open={view.asking !== null}
      onClose={close}
      title={`Hand back to ${piece.student} like this?`}
    >
      <ul className="mb-4 list-disc pl-5">
        {view.asking?.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Not yet</Button>
        <Button ink="tide" disabled={busy} onClick={() => void send()}>
          Hand back all the same
        </Button>
      </div>
    </Dialog>
  );
}
