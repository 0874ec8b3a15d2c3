"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { CheckField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { FirstPasswords } from "../account/FirstPasswords";
import { RosterImport } from "../roster/RosterImport";
import { sayDate } from "../time";
import { useAct } from "../useAct";
import { WhenField } from "../kit/WhenField";
import { FindPerson } from "./FindPerson";

type Student = SectionSetUp["students"][number];

/** Who is in the section, since when and until when. */
export function Roster({ view }: { view: SectionSetUp }) {
  const { act, busy, problem } = useAct();
  const [passwords, setPasswords] = useState(false);
  const [setting, setSetting] = useState<Student | null>(null);
  const put = (
    studentId: string,
    joinedOn: string | null,
    leftOn: string | null,
    readAloud?: boolean,
  ) =>
    act(() =>
      call(contract.setMember, {
        params: { sectionId: view.id, studentId },
        body: { joinedOn, leftOn, readAloud },
      }),
    );
  const here = view.students.filter((s) => s.leftOn === null || s.leftOn > view.today);
  const gone = view.students.filter((s) => !here.includes(s));
  const groups = new Map(view.groups.map((g) => [g.id, g.name]));
  return (
    <section aria-labelledby="roster" className="min-w-0">
      <h2 id="roster">
        Roster <span className="text-soft">{here.length}</span>
      </h2>
      {problem ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      {view.toSignIn ? (
        <p className="my-2">
          <Button small onClick={() => setPasswords(true)}>
            First passwords…
          </Button>
        </p>
      ) : null}
      {passwords && view.toSignIn ? (
        <FirstPasswords of={view.toSignIn} onClose={() => setPasswords(false)} />
      ) : null}
      {view.mayChange ? (
        <div className="my-3 grid gap-4 border-y border-line py-3">
          <FindPerson
            kind="student"
            label="Add a student of the school"
            without={here.map((s) => s.id)}
            onFound={(person) => void put(person.id, null, null)}
          />
          <details>
            <summary className="label cursor-pointer">Paste a table (name, e-mail)</summary>
            <RosterImport sectionId={view.id} />
          </details>
        </div>
      ) : null}
      <table className="sheet-table">
        <thead>
          <tr className="label">
            <th scope="col">student</th>
            <th scope="col">here since</th>
            <th scope="col">groups</th>
            <th scope="col">
              <span className="sr-only">change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {[...here, ...gone].map((student) => (
            <tr key={student.id} className={here.includes(student) ? undefined : "text-soft"}>
              <th scope="row" className="border-b border-line! font-normal">
                {student.name}
                {student.readAloud ? <span className="label ml-2">is read to</span> : null}
              </th>
              <td className="text-sm">
                {sayDate(student.joinedOn)}
                {student.leftOn ? ` to ${sayDate(student.leftOn)}` : ""}
              </td>
              <td className="text-sm">{student.groups.map((id) => groups.get(id)).join(", ")}</td>
              <td className="text-right">
                {view.mayChange ? (
                  <Button
                    small
                    ink="quiet"
                    aria-label={`When ${student.name} is here`}
                    onClick={() => setSetting(student)}
                  >
                    …
                  </Button>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {setting ? (
        <MemberDialog
          student={setting}
          today={view.today}
          busy={busy}
          onClose={() => setSetting(null)}
          onPut={(joinedOn, leftOn, readAloud) =>
            void put(setting.id, joinedOn, leftOn, readAloud).then(
              (done) => done && setSetting(null),
            )
          }
          problem={problem}
        />
      ) : null}
    </section>
  );
}

function MemberDialog({
  student,
  today,
  busy,
  problem,
  onClose,
  onPut,
}: {
  student: Student;
  today: string;
  busy: boolean;
  problem: string | null;
  onClose: () => void;
  onPut: (joinedOn: string, leftOn: string | null, readAloud: boolean) => void;
}) {
  const [joined, setJoined] = useState(student.joinedOn);
  const [left, setLeft] = useState(student.leftOn ?? "");
  const [aloud, setAloud] = useState(student.readAloud);
  return (
    <Dialog open onClose={onClose} title={student.name}>
      <div className="grid gap-4">
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <WhenField
          label="Here from"
          kind="date"
          value={joined}
          onChange={(typed) => setJoined(typed)}
          hint="What is due from that day on is theirs too."
        />
        <WhenField
          label="First day no longer here"
          kind="date"
          value={left}
          onChange={(typed) => setLeft(typed)}
          hint="Empty: stays. What is due from that day on is no longer owed; what was done stays."
        />
        <CheckField
          label="Read texts aloud"
          hint="Tasks, comments and questions can be heard. The student can switch it off."
          checked={aloud}
          onChange={(event) => setAloud(event.target.checked)}
        />
        <div className="flex justify-between gap-2">
          <Button
            disabled={busy}
            onClick={() => onPut(joined, student.leftOn === null ? today : null, aloud)}
          >
            {student.leftOn === null ? "Leaves today" : "Comes back"}
          </Button>
          <Button
            ink="tide"
            disabled={busy || !joined}
            onClick={() => onPut(joined, left || null, aloud)}
          >
            Set
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
