"use client";

import Link from "next/link";
import { useState } from "react";
import { sayCount } from "@/core/text/sayCount";
import type { ClassToSignIn } from "@/core/views/accountViews";
import { FirstPasswords } from "../account/FirstPasswords";
import { Button } from "../kit/Button";

/** What comes next in a section that was just made: students, their first passwords, the first hand-out. */
export function FirstSteps({
  section,
  toSignIn,
}: {
  section: { id: string; roster: readonly unknown[] };
  toSignIn: ClassToSignIn | null;
}) {
  const [passwords, setPasswords] = useState(false);
  const without = toSignIn?.students.filter((student) => !student.hasPassword).length ?? 0;
  const steps = [
    section.roster.length === 0 ? (
      <Link key="roster" href={`/sections/${section.id}/set-up`}>
        Put students into it
      </Link>
    ) : null,
    without > 0 ? (
      <span key="passwords" className="flex flex-wrap items-baseline gap-2">
        <Button small onClick={() => setPasswords(true)}>
          First passwords…
        </Button>
        {sayCount(without, "student")} cannot sign in yet: print a sheet and cut it apart.
      </span>
    ) : null,
    <span key="hand-out">
      Press <Link href={`/hand-out?section=${section.id}`}>Hand out</Link> to give them their first
      work.
    </span>,
  ].filter((step) => step !== null);
  return (
    <>
      <ol className="inline-grid list-decimal gap-2 pl-6 text-left">
        {steps.map((step) => (
          <li key={step.key}>{step}</li>
        ))}
      </ol>
      {passwords && toSignIn ? (
        <FirstPasswords of={toSignIn} onClose={() => setPasswords(false)} />
      ) : null}
    </>
  );
}
