"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

/** One due time of their own for all who are chosen. */
export function ExtendChosen({
  sheet,
  chosen,
  onClose,
}: {
  sheet: HandOutSheet;
  chosen: readonly SheetLine[];
  onClose: () => void;
}) {
  const { act, busy, problem, fields } = useAct();
  const [due, setDue] = useState("");
  const [tell, setTell] = useState(true);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${sayCount(chosen.length, "student")}: a due time of their own`}
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void act(() =>
            call(contract.extendMany, {
              params: { handOutId: sheet.id },
              body: { pieceIds: chosen.map((line) => line.pieceId), due: due || null, tell },
            }),
          ).then((done) => done && onClose());
        }}
      >
        {problem && !fields.due ? <Notice ink="ember">{problem}</Notice> : null}
        <WhenField
          label="Due for these students"
          kind="both"
          value={due}
          onChange={(typed) => setDue(typed)}
          error={fields.due}
          hint={`Empty: as for everyone, ${sheet.due}`}
          autoFocus
        />
        <CheckField
          label="Tell them"
          hint="A line on the work, and on My work."
          checked={tell}
          onChange={(event) => setTell(event.target.checked)}
        />
        <div className="flex gap-2">
          <Button type="submit" ink="tide" disabled={busy}>
            Keep it so
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Dialog>
  );
}
