"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { ReasonDialog } from "./ReasonDialog";

/** What it asks of a Ledger. */
export type FrozenView = Pick<
  LedgerWithGrades,
  "section" | "grades" | "term" | "frozen" | "opened" | "may"
> & {
  /** Scores that were not handed back. */ drafts: number;
};

/** Freezing the grades of the Ledger's term at its end, and opening them again. */
export function FrozenOfTerm({ view }: { view: FrozenView }) {
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  const { term, frozen, may } = view;
  if (term === null || (!frozen && !may.setUp)) return null;
  if (!frozen)
    return (
      <>
        <button type="button" className={LINK} onClick={() => setOpen(true)}>
          freeze the grades
        </button>
        {open ? <FreezeDialog view={view} term={term} onClose={close} /> : null}
      </>
    );
  const moved = Object.values(view.grades).filter((grade) => grade.frozen?.now).length;
  return (
    <span className="flex flex-wrap items-baseline gap-x-3">
      <span>
        <span aria-hidden="true">■ </span>
        {term} grades stand since {frozen.on}
        {moved > 0 ? (
          <span className="text-ember">
            , {sayCount(moved, "differs", "differ")} from the scores
          </span>
        ) : null}
      </span>
      {may.setUp ? (
        <button type="button" className={LINK} onClick={() => setOpen(true)}>
          open them again
        </button>
      ) : null}
      {open ? (
        <ReasonDialog
          title={`Open the grades of the ${term} term again?`}
          press="Open them"
          onClose={close}
          work={(reason) =>
            call(contract.openTerm, {
              params: { sectionId: view.section.id },
              body: { term, reason },
            })
          }
        >
          <p>
            Every grade is made of its scores again, as they are now. Your reason is listed where
            they are frozen anew.
          </p>
        </ReasonDialog>
      ) : null}
    </span>
  );
}

const LINK = "min-h-6 cursor-pointer text-tide hover:underline max-sm:min-h-11";

function FreezeDialog({
  view,
  term,
  onClose,
}: {
  view: FrozenView;
  term: string;
  onClose: () => void;
}) {
  const { act, busy, problem } = useAct();
  const { drafts } = view;
  const freeze = () =>
    void act(() =>
      call(contract.freezeTerm, { params: { sectionId: view.section.id }, body: { term } }),
    ).then((done) => {
      if (done) onClose();
    });
  return (
    <Dialog open onClose={onClose} title={`Freeze the grades of the ${term} term?`}>
      <p>
        The grades stay as they are now, for you, students and guardians, with the sums that made
        them. Scores can still be changed; they move a frozen grade only when you take them into it,
        with a reason that stands in its list.
      </p>
      {drafts > 0 ? (
        <p className="mt-2 text-ember">
          <span aria-hidden="true">▲ </span>
          {sayCount(drafts, "score is a draft", "scores are drafts")} that was not handed back. A
          frozen grade is made of what students were told: hand them back first, or they do not
          count.
        </p>
      ) : null}
      {view.opened.length > 0 ? (
        <div className="mt-2 text-sm text-soft">
          Frozen before, and opened again:
          <ul className="list-disc pl-5">
            {view.opened.map(({ by, on, reason }) => (
              <li key={on + reason}>
                {on}, {by}: {reason}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button ink="tide" disabled={busy} onClick={freeze}>
          Freeze them
        </Button>
      </div>
    </Dialog>
  );
}
