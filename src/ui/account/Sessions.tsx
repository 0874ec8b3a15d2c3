"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { SessionView } from "@/core/views/accountViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** Where one is signed in, each to be ended from here. */
export function Sessions({ first }: { first: readonly SessionView[] }) {
  const { act, busy, problem } = useAct();
  const [sessions, setSessions] = useState(first);
  const end = (session: SessionView) =>
    void act(() => call(contract.endSession, { params: { sessionId: session.id } })).then(
      (done) => done && setSessions((all) => all.filter((s) => s.id !== session.id)),
    );
  return (
    <section aria-labelledby="sessions">
      <h2 id="sessions">Where you are signed in</h2>
      <p className="text-sm text-soft">
        One you do not know: sign it out, and change your password.
      </p>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <ul className="mt-3 border-t border-line">
        {sessions.map((session) => (
          <li
            key={session.id}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-2"
          >
            <span>
              {session.about}
              {session.here ? <strong> · this one</strong> : null}
              <span className="block text-sm text-soft">
                since {session.since}, last seen {session.seen}
              </span>
            </span>
            {session.here ? null : (
              <Button
                small
                ink="quiet"
                className="ml-auto"
                disabled={busy}
                aria-label={`Sign out ${session.about}, signed in since ${session.since}`}
                onClick={() => end(session)}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
