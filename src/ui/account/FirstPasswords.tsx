"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { ClassToSignIn, FirstPassword } from "@/core/views/accountViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** Gives students of a class the passwords with which they first sign in: chosen, then shown once as a sheet. */
export function FirstPasswords({ of, onClose }: { of: ClassToSignIn; onClose: () => void }) {
  const { act, busy, problem } = useAct();
  const without = of.students.filter((s) => !s.hasPassword).map((s) => s.id);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(without));
  const [given, setGiven] = useState<FirstPassword[] | null>(null);
  if (given) return <PasswordSheet title={of.name} passwords={given} onClose={onClose} />;
  const resets = of.students.filter((s) => s.hasPassword && chosen.has(s.id)).length;
  const toggle = (id: string, on: boolean) =>
    setChosen((all) => new Set(on ? [...all, id] : [...all].filter((one) => one !== id)));
  return (
    <Dialog open wide onClose={onClose} title={`First passwords, ${of.name}`}>
      <div className="grid gap-3">
        <p className="text-sm text-soft">
          Each gets a password to sign in with once; then they choose their own. The sheet is shown
          one time: print it and cut it apart, or copy it.
        </p>
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <div className="flex flex-wrap gap-2">
          <Button small onClick={() => setChosen(new Set(without))}>
            Those without one ({without.length})
          </Button>
          <Button small onClick={() => setChosen(new Set(of.students.map((s) => s.id)))}>
            All ({of.students.length})
          </Button>
          <Button small onClick={() => setChosen(new Set())}>
            Nobody
          </Button>
        </div>
        <div className="grid max-h-72 gap-1 overflow-y-auto border-y border-line py-2 sm:grid-cols-2">
          {of.students.map((student) => (
            <CheckField
              key={student.id}
              label={student.name}
              hint={student.hasPassword ? "has one" : undefined}
              checked={chosen.has(student.id)}
              onChange={(event) => toggle(student.id, event.target.checked)}
            />
          ))}
        </div>
        {resets > 0 ? (
          <Notice ink="ember">
            {resets === 1
              ? "One of them has a password, which then no longer works; where they are signed in, they no longer are."
              : `${resets} of them have passwords, which then no longer work; where they are signed in, they no longer are.`}
          </Notice>
        ) : null}
        <div className="flex justify-end">
          <Button
            ink="tide"
            disabled={busy || chosen.size === 0}
            onClick={() =>
              void act(() =>
                call(contract.giveFirstPasswords, {
                  params: { sectionId: of.id },
                  body: { studentIds: [...chosen] },
                }),
              ).then((done) => done && setGiven(done.passwords))
            }
          >
            Make {chosen.size} {chosen.size === 1 ? "password" : "passwords"}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

const asText = (passwords: readonly FirstPassword[]) =>
  passwords.map((p) => [p.name, p.signsInAs, p.password].join("\t")).join("\n");

/** The sheet, shown once. Closing it asks nothing: it says before that it does not come back. */
function PasswordSheet({
  title,
  passwords,
  onClose,
}: {
  title: string;
  passwords: readonly FirstPassword[];
  onClose: () => void;
}) {
  const [copied, setCopied] = useState<"no" | "yes" | "refused">("no");
  const copy = () =>
    void Promise.resolve(navigator.clipboard?.writeText(asText(passwords)))
      .then(() => setCopied(navigator.clipboard ? "yes" : "refused"))
      .catch(() => setCopied("refused"));
  return (
    <Dialog open wide onClose={onClose} title={`First passwords, ${title}`}>
      <p className="mb-3 text-sm text-soft print:hidden">
        This sheet does not come back once it is closed.
      </p>
      <table className="sheet-table print-this">
        <thead>
          <tr className="label">
            <th scope="col">student</th>
            <th scope="col">signs in as</th>
            <th scope="col">first password</th>
          </tr>
        </thead>
        <tbody>
          {passwords.map((p) => (
            <tr key={p.signsInAs} className="border-b border-dashed border-line">
              <th scope="row" className="border-line! font-normal">
                {p.name}
              </th>
              <td className="text-sm">{p.signsInAs}</td>
              <td className="font-mono whitespace-nowrap">{p.password}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 flex flex-wrap items-center justify-end gap-2 print:hidden">
        <span role="status" className="text-sm text-soft">
          {copied === "yes" ? "Copied." : null}
          {copied === "refused" ? "This browser does not let it be copied: print it." : null}
        </span>
        <Button onClick={copy}>Copy</Button>
        <Button ink="tide" onClick={() => window.print()}>
          Print
        </Button>
      </div>
    </Dialog>
  );
}
