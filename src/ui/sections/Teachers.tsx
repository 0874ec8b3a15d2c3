"use client";

import { contract } from "@/core/api/contract";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { CheckField } from "../kit/Field";
import { useAct } from "../useAct";
import { FindPerson } from "./FindPerson";

/** Who teaches the section. Co-teachers draft feedback; whether they hand back is the owner's choice. */
export function Teachers({ view }: { view: SectionSetUp }) {
  const { act, busy, problem } = useAct();
  const set = (personId: string, mayHandBack: boolean) =>
    act(() =>
      call(contract.setCoTeacher, {
        params: { sectionId: view.id, personId },
        body: { mayHandBack },
      }),
    );
  return (
    <section aria-labelledby="teachers">
      <h2 id="teachers">Teachers</h2>
      {problem ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <ul className="mt-1">
        {view.teachers.map((teacher) => (
          <li
            key={teacher.id}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2"
          >
            <span className="min-w-40 flex-1">
              {teacher.name} <span className="text-sm text-soft">{teacher.role}</span>
            </span>
            {teacher.role === "co-teacher" ? (
              <>
                <CheckField
                  label="may hand out and hand back"
                  checked={teacher.mayHandBack}
                  disabled={busy}
                  onChange={(event) => void set(teacher.id, event.target.checked)}
                />
                <Button
                  small
                  ink="quiet"
                  disabled={busy}
                  aria-label={`Take ${teacher.name} off`}
                  onClick={() =>
                    void act(() =>
                      call(contract.removeCoTeacher, {
                        params: { sectionId: view.id, personId: teacher.id },
                      }),
                    )
                  }
                >
                  Take off
                </Button>
              </>
            ) : null}
          </li>
        ))}
      </ul>
      {view.mayChange ? (
        <FindPerson
          kind="teacher"
          label="Add a co-teacher"
          without={view.teachers.map((t) => t.id)}
          onFound={(person) => void set(person.id, false)}
        />
      ) : null}
    </section>
  );
}
