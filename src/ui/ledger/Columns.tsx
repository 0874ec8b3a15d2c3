"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { GROUPINGS, type Grouping, type LedgerLayout } from "@/core/ledger/layout";
import type { LedgerPage } from "@/core/views/ledgerViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { RadioLine } from "../kit/Choices";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const GROUPED: Record<Grouping, string> = {
  none: "not at all",
  category: "by category",
  month: "by month",
  week: "by week",
};

/** Which columns are shown, in which order and groups: this teacher's own, for this section. */
export function Columns({ view }: { view: LedgerPage }) {
  const [open, setOpen] = useState(false);
  const hidden = view.layout.hidden.filter((id) => view.all.some((c) => c.handOutId === id)).length;
  return (
    <>
      <Button small aria-haspopup="dialog" onClick={() => setOpen(true)}>
        Columns{hidden > 0 ? `: ${hidden} hidden` : ""}
      </Button>
      {open ? <ColumnsDialog view={view} onClose={() => setOpen(false)} /> : null}
    </>
  );
}

function ColumnsDialog({ view, onClose }: { view: LedgerPage; onClose: () => void }) {
  const { act, busy, problem } = useAct();
  const [order, setOrder] = useState(() => view.all.map((column) => column.handOutId));
  const [hidden, setHidden] = useState(() => new Set(view.layout.hidden));
  const [group, setGroup] = useState(view.layout.group);
  const named = new Map(view.all.map((column) => [column.handOutId, column]));
  const move = (n: number, by: -1 | 1) =>
    setOrder((old) => {
      const next = [...old];
      [next[n], next[n + by]] = [next[n + by]!, next[n]!];
      return next;
    });
  const keep = () => {
    // What is hidden in another term's Ledger stays so.
    const layout: Partial<LedgerLayout> = { order: [...order], hidden: [...hidden], group };
    void act(() =>
      call(contract.setLayout, { params: { sectionId: view.section.id }, body: layout }),
    ).then((done) => {
      if (done) onClose();
    });
  };
  const everyShown = order.every((id) => !hidden.has(id));
  return (
    <Dialog open onClose={onClose} title="Columns of this Ledger">
      <p className="text-soft">For you alone. What is hidden still counts in the grade.</p>
      <div className="mt-3">
        <RadioLine
          label="Grouped"
          value={group}
          choices={GROUPINGS.map((value) => ({ value, words: GROUPED[value] }))}
          onChange={setGroup}
        />
      </div>
      <ol className="mt-3 max-h-[45dvh] overflow-auto border-y border-line">
        {order.map((id, n) => (
          <li
            key={id}
            className="flex items-center gap-2 border-b border-line py-0.5 last:border-0"
          >
            <label className="flex min-h-8 min-w-0 flex-1 items-center gap-2 max-sm:min-h-11">
              <input
                type="checkbox"
                checked={!hidden.has(id)}
                onChange={(event) =>
                  setHidden((old) => {
                    const next = new Set(old);
                    if (event.target.checked) next.delete(id);
                    else next.add(id);
                    return next;
                  })
                }
              />
              <span className="truncate">{named.get(id)?.title}</span>
              <span className="shrink-0 text-sm text-soft">{named.get(id)?.due}</span>
            </label>
            <Button
              small
              disabled={n === 0}
              aria-label={`${named.get(id)?.title} one place forward`}
              onClick={() => move(n, -1)}
            >
              ↑
            </Button>
            <Button
              small
              disabled={n === order.length - 1}
              aria-label={`${named.get(id)?.title} one place back`}
              onClick={() => move(n, 1)}
            >
              ↓
            </Button>
          </li>
        ))}
      </ol>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button ink="tide" disabled={busy} onClick={keep}>
          Keep it so
        </Button>
        <Button disabled={everyShown} onClick={() => setHidden(new Set())}>
          Show all
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Dialog>
  );
}
