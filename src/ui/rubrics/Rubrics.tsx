"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { rubricTable } from "@/core/rubrics/readRubric";
import { writeTable } from "@/core/formats/table";
import type { RubricView } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Empty, Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { EMPTY_RUBRIC, RubricEditor, type Editing } from "./RubricEditor";
import { RubricTable } from "./RubricTable";

/** A teacher's rubrics: make, paste, copy, change, take out as CSV. */
export function Rubrics({ rubrics }: { rubrics: readonly RubricView[] }) {
  const { act, busy, problem } = useAct();
  const [editing, setEditing] = useState<Editing | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  if (editing)
    return (
      <RubricEditor
        key={editing.id ?? "new"}
        first={editing}
        onDone={(words) => {
          setEditing(null);
          setSaid(words);
        }}
      />
    );
  return (
    <div className="grid gap-6">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {said ? <Notice ink="moss">{said}</Notice> : null}
      <div>
        <Button ink="tide" onClick={() => setEditing(EMPTY_RUBRIC)}>
          New rubric: write or paste it
        </Button>
      </div>
      {rubrics.length === 0 ? (
        <Empty title="No rubrics yet">
          Write one, or paste a table from a spreadsheet, a word processor or Markdown.
        </Empty>
      ) : null}
      {rubrics.map((rubric) => (
        <section
          key={rubric.id}
          aria-label={rubric.name}
          className="border-t border-line-strong pt-3"
        >
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h2>{rubric.name}</h2>
            <span className="text-sm text-soft">
              {rubric.possible} points{rubric.version > 1 ? ` · version ${rubric.version}` : ""} ·{" "}
              {rubric.usedIn === 0
                ? "not in use"
                : `in ${rubric.usedIn} ${rubric.usedIn === 1 ? "assignment" : "assignments"}`}
            </span>
            <span className="ml-auto flex flex-wrap gap-2">
              <Button
                small
                onClick={() =>
                  setEditing({
                    id: rubric.id,
                    name: rubric.name,
                    rubric: rubric.rubric,
                    revision: rubric.revision,
                    scoredWith: rubric.scoredWith,
                  })
                }
              >
                Change
              </Button>
              <Button
                small
                disabled={busy}
                onClick={() =>
                  void act(() =>
                    call(contract.addRubric, {
                      body: { name: `${rubric.name} (copy)`, rubric: rubric.rubric },
                    }),
                  )
                }
              >
                Copy
              </Button>
              <Button
                small
                onClick={() =>
                  download(`${rubric.name}.csv`, writeTable(rubricTable(rubric.rubric)))
                }
              >
                As CSV
              </Button>
              <Button
                small
                disabled={busy}
                onClick={() =>
                  void act(() => call(contract.deleteRubric, { params: { rubricId: rubric.id } }))
                }
              >
                Take off the Shelf
              </Button>
            </span>
          </div>
          <RubricTable rubric={rubric.rubric} />
        </section>
      ))}
    </div>
  );
}

function download(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob(["\uFEFF", text], { type: "text/csv" }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name.replace(/[/\\:*?"<>|]/g, "");
  link.click();
  URL.revokeObjectURL(address);
}
