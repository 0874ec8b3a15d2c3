"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { GradeSource } from "@/core/views/gradeViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { ReasonDialog } from "./ReasonDialog";

/** Of a frozen grade: since when it stands, what was corrected and why; for teachers what the scores would make now. */
export function FrozenGrade({ source, correct }: { source: GradeSource; correct: boolean }) {
  const [open, setOpen] = useState(false);
  const { frozen, term } = source;
  if (!frozen || term === null) return null;
  return (
    <div className="mb-3">
      <p className="text-soft">
        <span aria-hidden="true">■ </span>
        Frozen {frozen.on} by {frozen.by}: it stands as it is, with the sum that made it.
      </p>
      {frozen.corrections.length > 0 ? (
        <ul aria-label="Corrections" className="mt-1 text-sm">
          {frozen.corrections.map(({ from, to, reason, by, on }) => (
            <li key={`${on} ${from} ${to}`} className="border-t border-line py-1">
              {on}, {by}: <del>{from}</del> → <strong>{to}</strong>. {reason}
            </li>
          ))}
        </ul>
      ) : null}
      {frozen.now ? (
        <Notice
          ink="ember"
          acts={
            correct ? (
              <Button small onClick={() => setOpen(true)}>
                Take it into the grade
              </Button>
            ) : undefined
          }
        >
          The scores would make {frozen.now} now.
        </Notice>
      ) : null}
      {open ? (
        <ReasonDialog
          title={`Correct the grade of ${source.student.name}?`}
          press="Correct it"
          onClose={() => setOpen(false)}
          work={(reason) =>
            call(contract.correctGrade, {
              params: { sectionId: source.sectionId, studentId: source.student.id },
              body: { term, reason },
            })
          }
        >
          <p>
            It becomes {frozen.now}. What it was stays in the list, with your reason; the student
            and their guardians see both where grades are shown.
          </p>
        </ReasonDialog>
      ) : null}
    </div>
  );
}
