"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { EXTRA_UNITS, sayExtraTime, type ExtraTime } from "@/core/handouts/extraTime";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { CheckField, TextField } from "../kit/Field";
import { SelectField } from "../kit/Choices";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

type Group = SectionSetUp["groups"][number];
const NEW: Group = { id: "", name: "", extra: null, members: [], revision: 0 };

/** Named sets of students: to hand out to, and to give extra time. A student can be in several. */
export function Groups({ view }: { view: SectionSetUp }) {
  const [editing, setEditing] = useState<Group | null>(null);
  const names = new Map(view.students.map((s) => [s.id, s.name]));
  return (
    <section aria-labelledby="groups">
      <h2 id="groups">Groups</h2>
      <ul className="mt-1">
        {view.groups.map((group) => (
          <li key={group.id} className="flex items-baseline gap-3 border-t border-line py-2">
            <div className="flex-1">
              <span className="font-serif text-lg">{group.name}</span>{" "}
              {group.extra ? <span className="text-tide">{sayExtraTime(group.extra)}</span> : null}
              <p className="text-sm text-soft">
                {group.members.length === 0
                  ? "nobody yet"
                  : group.members.map((id) => names.get(id)).join(", ")}
              </p>
            </div>
            <Button small onClick={() => setEditing(group)}>
              Change
            </Button>
          </li>
        ))}
      </ul>
      {view.groups.length === 0 ? (
        <p className="text-soft">None yet: a reading group, those with extra time …</p>
      ) : null}
      <Button small className="mt-2" onClick={() => setEditing(NEW)}>
        New group
      </Button>
      {editing ? (
        <GroupDialog
          key={editing.id}
          group={editing}
          view={view}
          onClose={() => setEditing(null)}
        />
      ) : null}
    </section>
  );
}

function GroupDialog({
  group,
  view,
  onClose,
}: {
  group: Group;
  view: SectionSetUp;
  onClose: () => void;
}) {
  const { act, busy, problem, fields } = useAct();
  const [name, setName] = useState(group.name);
  const [extra, setExtra] = useState<ExtraTime | null>(group.extra);
  const [students, setStudents] = useState<string[]>(group.members);
  const here = view.students.filter((s) => s.leftOn === null || s.leftOn > view.today);
  const body = { name, extra, students };
  const keep = () =>
    group.id
      ? call(contract.changeGroup, {
          params: { groupId: group.id },
          body,
          revision: group.revision,
        })
      : call(contract.makeGroup, { params: { sectionId: view.id }, body });
  return (
    <Dialog open onClose={onClose} title={group.id ? group.name : "New group"}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void act<unknown>(keep).then((done) => done && onClose());
        }}
      >
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <TextField
          label="Name"
          value={name}
          onChange={(event) => setName(event.target.value)}
          error={fields.name}
          autoFocus
        />
        <CheckField
          label="Its students have extra time on everything"
          hint="It is worked out by itself, also when a due time moves."
          checked={extra !== null}
          onChange={(event) =>
            setExtra(event.target.checked ? { amount: 2, unit: "school days" } : null)
          }
        />
        {extra ? (
          <div className="grid grid-cols-2 gap-3">
            <TextField
              label="How much"
              type="number"
              min={1}
              max={400}
              value={extra.amount}
              onChange={(event) => setExtra({ ...extra, amount: Number(event.target.value) })}
              error={fields["extra.amount"]}
            />
            <SelectField
              label="of"
              value={extra.unit}
              onChange={(event) =>
                setExtra({ ...extra, unit: event.target.value as ExtraTime["unit"] })
              }
            >
              {EXTRA_UNITS.map((unit) => (
                <option key={unit} value={unit}>
                  {unit}
                </option>
              ))}
            </SelectField>
          </div>
        ) : null}
        <fieldset>
          <legend className="label">Students</legend>
          <div className="grid max-h-64 overflow-y-auto border border-line p-2 sm:grid-cols-2">
            {here.map((student) => (
              <label key={student.id} className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4 accent-tide"
                  checked={students.includes(student.id)}
                  onChange={() =>
                    setStudents((old) =>
                      old.includes(student.id)
                        ? old.filter((id) => id !== student.id)
                        : [...old, student.id],
                    )
                  }
                />
                {student.name}
              </label>
            ))}
          </div>
        </fieldset>
        <div className="flex justify-between gap-2">
          {group.id ? (
            <Button
              disabled={busy}
              onClick={() =>
                void act(() => call(contract.deleteGroup, { params: { groupId: group.id } })).then(
                  (done) => done && onClose(),
                )
              }
            >
              Delete this group
            </Button>
          ) : (
            <span />
          )}
          <Button ink="tide" type="submit" disabled={busy}>
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
