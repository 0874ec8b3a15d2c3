"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { RosterRunView } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { ChooseOrMake } from "../kit/ChooseOrMake";
import { SelectField } from "../kit/Choices";
import { TextArea, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { RosterReport } from "../roster/RosterReport";
import { useAct } from "../useAct";

type Given = { course: string; name: string; termId: string; ownerId: string | null };

/**
 * A section of one's own, for a school whose office brings none in, with its students from a list; or as the office for
 * a teacher. What of the list cannot be taken as it is is shown first, and the section is there already.
 */
export function NewSection({
  terms,
  courses,
  teachers = null,
}: {
  terms: { id: string; name: string; now: boolean }[];
  courses: string[];
  /** Whose it may be; null: one's own. */
  teachers?: { id: string; name: string }[] | null;
}) {
  const router = useRouter();
  const { act, busy, problem, fields } = useAct();
  const [given, setGiven] = useState<Given>({
    course: "",
    name: "",
    termId: terms.find((t) => t.now)?.id ?? terms[0]?.id ?? "",
    ownerId: null,
  });
  const [list, setList] = useState("");
  const [made, setMade] = useState<string | null>(null);
  const [run, setRun] = useState<RosterRunView | null>(null);
  if (terms.length === 0)
    return <p className="text-soft">The school has no term yet; the office types it in.</p>;

  const leave = (sectionId: string) => router.push(teachers ? "/office" : `/sections/${sectionId}`);
  const make = () =>
    act(async () => {
      const sectionId = made ?? (await call(contract.makeSection, { body: given })).sectionId;
      setMade(sectionId);
      if (list.trim() === "") return leave(sectionId);
      const seen = await call(contract.checkSectionRoster, {
        params: { sectionId },
        query: {},
        file: new Blob([list]),
        fileName: "pasted list",
      });
      if (seen.report.problemCount > 0 || seen.report.notes.length > 0) return setRun(seen);
      await applyAndLeave(sectionId, seen.id);
    });
  const applyAndLeave = async (sectionId: string, runId: string) => {
    const end = await applied(runId);
    if (end.state === "applied") leave(sectionId);
    else setRun(end);
  };
  const set = (part: Partial<Given>) => setGiven({ ...given, ...part });
  return (
    <form
      className="mt-3 grid max-w-3xl gap-4 sm:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      {problem && Object.keys(fields).length === 0 ? (
        <Notice ink="ember" className="sm:col-span-3">
          {problem}
        </Notice>
      ) : null}
      <CourseField
        value={given.course}
        courses={courses}
        readOnly={made !== null}
        error={fields.course}
        onChange={(course) => set({ course })}
      />
      <TextField
        label="Section"
        value={given.name}
        readOnly={made !== null}
        onChange={(event) => set({ name: event.target.value })}
        error={fields.name}
      />
      <SelectField
        label="Term"
        value={given.termId}
        onChange={(event) => set({ termId: event.target.value })}
        error={fields.termId}
      >
        {terms.map((term) => (
          <option key={term.id} value={term.id}>
            {term.name}
          </option>
        ))}
      </SelectField>
      {teachers ? (
        <Owner
          teachers={teachers}
          value={given.ownerId}
          error={fields.ownerId}
          onChange={(ownerId) => set({ ownerId })}
        />
      ) : (
        <Students list={list} onList={setList} />
      )}
      {run && made ? (
        <div className="sm:col-span-3">
          <RosterReport
            run={run}
            busy={busy}
            onApply={() => void act(() => applyAndLeave(made, run.id))}
          />
        </div>
      ) : null}
      <div className="sm:col-span-3">
        <Button type="submit" ink="tide" disabled={busy}>
          {sayPress(made !== null, list)}
        </Button>
      </div>
    </form>
  );
}

/** One of the courses there are, so that nobody makes "Maths" beside "maths"; the first is named here. */
function CourseField({
  courses,
  readOnly,
  ...field
}: {
  value: string;
  courses: readonly string[];
  readOnly: boolean;
  error?: string;
  onChange: (course: string) => void;
}) {
  if (courses.length > 0 && !readOnly)
    return (
      <ChooseOrMake
        label="Course"
        none="choose one"
        make="a new one …"
        choices={courses}
        maxLength={120}
        {...field}
      />
    );
  const { onChange, ...rest } = field;
  return (
    <TextField
      label="Course"
      readOnly={readOnly}
      onChange={(event) => onChange(event.target.value)}
      {...rest}
    />
  );
}

function sayPress(made: boolean, list: string): string {
  if (made) return "Try the list again";
  return list.trim() ? "Make the class" : "Make the section";
}

function Owner({
  teachers,
  value,
  error,
  onChange,
}: {
  teachers: readonly { id: string; name: string }[];
  value: string | null;
  error: string | undefined;
  onChange: (id: string | null) => void;
}) {
  return (
    <SelectField
      label="Teacher"
      value={value ?? ""}
      onChange={(event) => onChange(event.target.value || null)}
      error={error}
    >
      <option value="">Choose the teacher…</option>
      {teachers.map((teacher) => (
        <option key={teacher.id} value={teacher.id}>
          {teacher.name}
        </option>
      ))}
    </SelectField>
  );
}

function Students({ list, onList }: { list: string; onList: (list: string) => void }) {
  return (
    <div className="sm:col-span-3">
      <TextArea
        label="Students, one a line (can be added later)"
        rows={6}
        value={list}
        onChange={(event) => onList(event.target.value)}
        placeholder={"Aino Kallas-Ferreira\nNoor Haddad"}
        hint="Names are enough. Copied from a table, an e-mail address beside each name is read too."
      />
    </div>
  );
}

const HALF_SECOND = 500;

/** Applies what was looked at, and waits until it is done. */
async function applied(runId: string): Promise<RosterRunView> {
  const params = { runId };
  let run = await call(contract.applyRoster, { params });
  while (run.state === "applying") {
    await new Promise((later) => setTimeout(later, HALF_SECOND));
    run = await call(contract.rosterRun, { params });
  }
  return run;
}
