"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

/** A section of one's own, for a school whose office brings none in. */
export function NewSection({
  terms,
  courses,
}: {
  terms: { id: string; name: string; now: boolean }[];
  courses: string[];
}) {
  const router = useRouter();
  const { act, busy, problem, fields } = useAct();
  const [given, setGiven] = useState({
    course: "",
    name: "",
    termId: terms.find((t) => t.now)?.id ?? terms[0]?.id ?? "",
  });
  if (terms.length === 0)
    return <p className="text-soft">The school has no term yet; the office types it in.</p>;
  return (
    <form
      className="mt-3 grid max-w-3xl gap-4 sm:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault();
        void act(() => call(contract.makeSection, { body: given })).then(
          (made) => made && router.push(`/sections/${made.sectionId}/set-up`),
        );
      }}
    >
      {problem && Object.keys(fields).length === 0 ? (
        <Notice ink="ember" className="sm:col-span-3">
          {problem}
        </Notice>
      ) : null}
      <TextField
        label="Course"
        list="courses"
        value={given.course}
        onChange={(event) => setGiven({ ...given, course: event.target.value })}
        error={fields.course}
      />
      <datalist id="courses">
        {courses.map((course) => (
          <option key={course} value={course} />
        ))}
      </datalist>
      <TextField
        label="Section"
        value={given.name}
        onChange={(event) => setGiven({ ...given, name: event.target.value })}
        error={fields.name}
      />
      <SelectField
        label="Term"
        value={given.termId}
        onChange={(event) => setGiven({ ...given, termId: event.target.value })}
        error={fields.termId}
      >
        {terms.map((term) => (
          <option key={term.id} value={term.id}>
            {term.name}
          </option>
        ))}
      </SelectField>
      <div>
        <Button type="submit" disabled={busy}>
          Make the section
        </Button>
      </div>
    </form>
  );
}
