"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { ReminderKind, RemindersView } from "@/core/views/reminderViews";
import { call } from "../client";
import { Empty, Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const WHEN: Record<ReminderKind, string> = {
  "handed out": "When work is handed out",
  "due soon": "A day before it is due",
  "handed back": "When it is handed back",
};

/** A student's reminders, and how each kind comes. */
export function Reminders({ first, postRoom }: { first: RemindersView; postRoom: boolean }) {
  const { act, busy, problem } = useAct();
  const [view, setView] = useState(first);
  async function set(kind: ReminderKind, part: { inApp?: boolean; byMail?: boolean }) {
    const old = view.choices.find((c) => c.kind === kind)!;
    const next = await act(() => call(contract.setReminders, { body: { ...old, ...part } }));
    if (next) setView(next);
  }
  return (
    <div className="grid gap-8">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <section aria-labelledby="how">
        <h2 id="how">How they come</h2>
        <table className="sheet-table mt-2">
          <thead>
            <tr>
              <th scope="col">reminder</th>
              <th scope="col">here</th>
              {view.mail ? <th scope="col">by mail</th> : null}
            </tr>
          </thead>
          <tbody>
            {view.choices.map((c) => (
              <tr key={c.kind}>
                <th scope="row">{WHEN[c.kind]}</th>
                <td>
                  <label className="flex min-h-11 items-center gap-2">
                    <input
                      type="checkbox"
                      className="size-5 accent-tide"
                      disabled={busy}
                      checked={c.inApp}
                      onChange={(event) => void set(c.kind, { inApp: event.target.checked })}
                      aria-label={`${WHEN[c.kind]}, here`}
                    />
                    {c.inApp ? "on" : "off"}
                  </label>
                </td>
                {view.mail ? (
                  <td>
                    <label className="flex min-h-11 items-center gap-2">
                      <input
                        type="checkbox"
                        className="size-5 accent-tide"
                        disabled={busy || !view.address}
                        checked={c.byMail && Boolean(view.address)}
                        onChange={(event) => void set(c.kind, { byMail: event.target.checked })}
                        aria-label={`${WHEN[c.kind]}, by mail`}
                      />
                      {c.byMail && view.address ? "on" : "off"}
                    </label>
                  </td>
                ) : null}
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-2 text-sm text-soft">
          {sayMail(view)}{" "}
          {postRoom ? <Link href="/post-room">See the messages in the post room</Link> : null}
        </p>
      </section>
      <section aria-labelledby="latest">
        <h2 id="latest">The latest</h2>
        {view.list.length === 0 ? (
          <Empty title="No reminders">
            When something is handed out, due or handed back, it stands here.
          </Empty>
        ) : null}
        <ul className="mt-2">
          {view.list.map((r) => (
            <li key={r.id} className="border-t border-line">
              <Link
                href={`/work/${r.pieceId}`}
                prefetch={false}
                className="flex min-h-11 flex-wrap items-center gap-x-3 py-2 text-ink no-underline hover:bg-sunk"
              >
                {r.fresh ? <strong className="text-plum">★ new</strong> : null}
                <span className="font-serif">{r.title}</span> <span>{r.words}</span>
                <span className="ml-auto text-sm text-soft">{r.when}</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function sayMail({ mail, address }: RemindersView): string {
  if (!mail) return "";
  return address
    ? `Mail goes to ${address}.`
    : "The school has no mail address for you, so nothing comes by mail.";
}
