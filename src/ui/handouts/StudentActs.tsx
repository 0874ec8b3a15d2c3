"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

/** What is other for one student: a due time, excused, a version; or the work taken from them. */
export function StudentDialog({
  line,
  sheet,
  onClose,
}: {
  line: SheetLine;
  sheet: HandOutSheet;
  onClose: () => void;
}) {
  const { act, busy, problem, fields } = useAct();
  const own = line.ownDue?.from === "teacher" ? line.ownDue.wall : null;
  const [due, setDue] = useState(own ?? "");
  const [excused, setExcused] = useState(line.excused);
  const [versionId, setVersion] = useState(line.versionId);
  const [tell, setTell] = useState(true);
  return (
    <Dialog open onClose={onClose} title={line.student}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void act(() =>
            call(contract.setException, {
              params: { pieceId: line.pieceId },
              body: { due: due || null, excused, versionId, tell },
            }),
          ).then((done) => done && onClose());
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <WhenField
          label="Due for this student"
          kind="both"
          value={due}
          onChange={(typed) => setDue(typed)}
          error={fields.due}
          hint={
            line.ownDue?.from === "group"
              ? `Empty: ${line.ownDue.words}, through the extra time of a group`
              : `Empty: as for everyone, ${sheet.due}`
          }
          autoFocus
        />
        <CheckField
          label="Excused"
          hint="Nothing is owed, and nothing is missing."
          checked={excused}
          onChange={(event) => setExcused(event.target.checked)}
        />
        {sheet.versions.length > 0 ? (
          <SelectField
            label="Version"
            value={versionId ?? ""}
            onChange={(event) => setVersion(event.target.value || null)}
          >
            <option value="">the task as it stands</option>
            {sheet.versions.map((version) => (
              <option key={version.id} value={version.id}>
                {version.name}
              </option>
            ))}
          </SelectField>
        ) : null}
        <CheckField
          label="Tell the student"
          checked={tell}
          onChange={(event) => setTell(event.target.checked)}
        />
        <div className="flex flex-wrap justify-between gap-2">
          <Button
            disabled={busy}
            onClick={() =>
              void act(() =>
                call(contract.giveTo, {
                  params: { handOutId: sheet.id, studentId: line.studentId },
                  body: { given: false },
                }),
              ).then((done) => done && onClose())
            }
          >
            Take it from this student
          </Button>
          <Button ink="tide" type="submit" disabled={busy}>
            Set
          </Button>
        </div>
        <p className="text-sm text-soft">
          Taken away, their work is kept and hidden; giving it again brings it back.
        </p>
      </form>
    </Dialog>
  );
}

/** Students of the section who do not have it. */
export function Others({ sheet }: { sheet: HandOutSheet }) {
  const { act, busy, problem } = useAct();
  if (sheet.others.length === 0 || !sheet.mayChange) return null;
  return (
    <details className="mt-6 max-w-2xl">
      <summary className="label cursor-pointer">
        {sheet.others.length} {sheet.others.length === 1 ? "student" : "students"} of{" "}
        {sheet.section} {sheet.others.length === 1 ? "does" : "do"} not have this
      </summary>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <ul className="mt-2">
        {sheet.others.map((other) => (
          <li key={other.studentId} className="flex items-center gap-3 border-t border-line py-1.5">
            <span className="flex-1">
              {other.student}{" "}
              {other.taken ? (
                <span className="text-sm text-soft">taken away; what was done is kept</span>
              ) : null}
            </span>
            <Button
              small
              disabled={busy}
              onClick={() =>
                void act(() =>
                  call(contract.giveTo, {
                    params: { handOutId: sheet.id, studentId: other.studentId },
                    body: { given: true },
                  }),
                )
              }
            >
              {other.taken ? "Give it back" : "Give it"}
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
