"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call, sayProblem } from "../client";
import { Notice } from "../kit/Notice";

type DemoPerson = { id: string; name: string; kind: string; about: string };
const GROUPS = [
  { kind: "teacher", name: "Teachers" },
  { kind: "office", name: "Office" },
  { kind: "guardian", name: "Guardians" },
  { kind: "student", name: "Students" },
];

/** In the demo only: everyone in it, to enter as with one press. */
export function DemoPeople({ people }: { people: DemoPerson[] }) {
  const [problem, setProblem] = useState<string | null>(null);
  async function enter(personId: string) {
    try {
      const { to } = await call(contract.enterDemo, { body: { personId } });
      window.location.assign(to);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <section aria-label="People of the demo">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {GROUPS.map((group) => (
        <div key={group.kind} className="mt-4">
          <h3 className="label font-sans! border-b border-line">{group.name}</h3>
          <ul
            className={
              group.kind === "student" || group.kind === "guardian"
                ? "columns-2 gap-6 sm:columns-3"
                : ""
            }
          >
            {people
              .filter((person) => person.kind === group.kind)
              .map((person) => (
                <li key={person.id} className="break-inside-avoid">
                  <button
                    type="button"
                    onClick={() => void enter(person.id)}
                    className="min-h-8 cursor-pointer text-left text-tide hover:underline max-sm:min-h-11"
                  >
                    {person.name} <span className="text-xs text-soft">{person.about}</span>
                  </button>
                </li>
              ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
