"use client";

import { useState } from "react";
import type { AskedOfRound } from "@/core/rounds/asked";
import { sayCount } from "@/core/text/sayCount";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { CheckField } from "../../kit/Field";
import { AskedFields } from "../../handingBack/AskedFields";
import { askedBefore, handBack } from "../commands/handBack";
import { WhenField } from "../../kit/WhenField";
import { usePieceOnDesk } from "../model";

/** When the revision is due, and what goes back with it. */
export function ReviseDialog() {
  const desk = usePieceOnDesk();
  const { session, view, piece } = desk;
  const [due, setDue] = useState(piece.suggestedDue);
  const [tellScore, setTellScore] = useState(false);
  const [asked, setAsked] = useState<AskedOfRound>({ more: null, parts: [] });
  const [busy, setBusy] = useState(false);
  const close = () => session.setRevising(false);
  async function send() {
    setBusy(true);
    const done = await handBack(desk, "revise", due, { tellScore, ...asked });
    setBusy(false);
    if (done) close();
  }
  const requests = piece.marks.filter((m) => m.nature === "request").length;
  return (
    <Dialog open={view.revising} onClose={close} title={`Hand back to revise: ${piece.student}`}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <p className="mb-3 text-soft">
          {sayCount(requests, "request")} and {sayCount(piece.marks.length, "mark")} go back. Round{" "}
          {piece.round + 1} opens when the student begins.
        </p>
        {askedBefore(desk).map((reason) => (
          <p key={reason} className="mb-3 border-l-2 border-ember pl-2">
            {reason}
          </p>
        ))}
        <WhenField
          label={`Round ${piece.round + 1} is due`}
          kind="both"
          autoFocus
          value={due}
          onChange={(typed) => setDue(typed)}
          required
        />
        <AskedFields parts={piece.parts} asked={asked} onChange={setAsked} />
        {piece.scoreWords ? (
          <div className="mt-3">
            <CheckField
              label={`Tell the score (${piece.scoreWords})`}
              hint="Else only teachers know it until the work is handed back for good; it counts all the same."
              checked={tellScore}
              onChange={(event) => setTellScore(event.target.checked)}
            />
          </div>
        ) : null}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={close}>Not yet</Button>
          <Button ink="plum" type="submit" disabled={busy}>
            Hand back to revise
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
