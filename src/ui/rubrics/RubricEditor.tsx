"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { readRubric, type ReadRubric } from "@/core/rubrics/readRubric";
import {
  faultsOfRubric,
  possibleOf,
  type Criterion,
  type Level,
  type Rubric,
} from "@/core/rubrics/rubric";
import type { RubricView } from "@/core/views/handOutViews";
import { call } from "../client";
import { WritingField } from "../comments/WritingField";
import { Button } from "../kit/Button";
import { RadioLine } from "../kit/Choices";
import { TextArea, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

export type Editing = {
  id: string | null;
  name: string;
  rubric: Rubric;
  revision: number;
  scoredWith: number;
};

const newId = () => crypto.randomUUID();
const level = (name: string, points: string): Level => ({
  id: newId(),
  name,
  points,
  most: null,
  descriptor: "",
});
const criterion = (like?: Criterion): Criterion => ({
  id: newId(),
  name: "",
  note: "",
  weight: "1",
  levels: like
    ? like.levels.map((l) => ({ ...l, id: newId(), descriptor: "" }))
    : [level("fully", "3"), level("mostly", "2"), level("partly", "1"), level("not yet", "0")],
});
export const EMPTY_RUBRIC: Editing = {
  id: null,
  name: "",
  rubric: { criteria: [] },
  revision: 0,
  scoredWith: 0,
};

/** A rubric being written: typed criterion by criterion, or pasted as a table. */
export function RubricEditor({
  first,
  onDone,
}: {
  first: Editing;
  onDone: (words: string | null, made: RubricView | null) => void;
}) {
  const { act, busy, problem } = useAct();
  const [name, setName] = useState(first.name);
  const [rubric, setRubric] = useState<Rubric>(
    first.rubric.criteria.length > 0 ? first.rubric : { criteria: [criterion()] },
  );
  const [scores, setScores] = useState<"keep" | "carry">("keep");
  const [read, setRead] = useState<ReadRubric | null>(null);
  const faults = faultsOfRubric(rubric);
  const change = (id: string, part: Partial<Criterion>) =>
    setRubric((old) => ({
      ...old,
      criteria: old.criteria.map((c) => (c.id === id ? { ...c, ...part } : c)),
    }));
  const body = { name, rubric };

  function take(text: string) {
    const found = readRubric(text, newId);
    setRead(found);
    if (found.rubric.criteria.length > 0) setRubric(found.rubric);
  }
  /** Tables come as HTML from word processors, pages and spreadsheets alike: that has more in it than their plain text. */
  function paste(event: React.ClipboardEvent) {
    const html = event.clipboardData.getData("text/html");
    const text = /<table/i.test(html) ? html : event.clipboardData.getData("text/plain");
    if (!text.trim()) return;
    event.preventDefault();
    take(text);
  }
  async function keep() {
    if (!first.id)
      return void (await act(() => call(contract.addRubric, { body })).then(
        (done) => done && onDone(`“${done.name}” is on the Shelf.`, done),
      ));
    const done = await act(() =>
      call(contract.changeRubric, {
        params: { rubricId: first.id! },
        body: { ...body, scores: first.scoredWith > 0 ? scores : null },
        revision: first.revision,
      }),
    );
    if (!done) return;
    const words =
      done.version > 1 && first.scoredWith > 0
        ? `Version ${done.version} of “${done.name}” is made. ${done.carried} drafts were carried over${done.lost > 0 ? `; ${done.lost} choices no longer fit and wait to be made again` : ""}.`
        : `“${done.name}” is kept.`;
    onDone(words, done);
  }

  return (
    <form
      className="grid gap-5"
      onSubmit={(event) => {
        event.preventDefault();
        // On the page "Hand out" this form stands in a dialog of another form.
        event.stopPropagation();
        void keep();
      }}
    >
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <div className="grid gap-5 md:grid-cols-2">
        <TextField
          label="Name"
          value={name}
          onChange={(event) => setName(event.target.value)}
          autoFocus
        />
        <div>
          <label className="float-right cursor-pointer text-sm text-tide underline">
            or choose a file
            <input
              type="file"
              accept=".csv,.tsv,.txt,.md,.html"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                if (file) void file.text().then(take);
              }}
            />
          </label>
          <TextArea
            label="Paste a table here"
            rows={2}
            onPaste={paste}
            onChange={(event) => event.target.value.includes("\n") && take(event.target.value)}
            value=""
            placeholder="from a spreadsheet, a word processor, a page or Markdown, or a CSV"
            hint="First row: the levels, with points. First column: the criteria."
          />
        </div>
      </div>
      {read ? (
        <Notice
          ink={read.leftOver.length > 0 || read.rubric.criteria.length === 0 ? "ember" : "moss"}
        >
          {read.rubric.criteria.length === 0
            ? "No table was found in this. A rubric needs a first row of levels and a row for each criterion."
            : `Read from ${read.from}: ${read.rubric.criteria.length} criteria with up to ${Math.max(...read.rubric.criteria.map((c) => c.levels.length))} levels. Look it over below.`}
          {read.leftOver.length > 0 ? (
            <>
              <p className="mt-2">This was not understood, and is not in the rubric:</p>
              <ul className="max-h-40 list-disc overflow-y-auto pl-5 text-sm">
                {read.leftOver.map((text, n) => (
                  <li key={n}>{text}</li>
                ))}
              </ul>
            </>
          ) : null}
        </Notice>
      ) : null}
      <ol className="grid gap-4">
        {rubric.criteria.map((c, n) => (
          <CriterionFields
            key={c.id}
            criterion={c}
            n={n}
            onChange={(part) => change(c.id, part)}
            onDrop={() =>
              setRubric((old) => ({ ...old, criteria: old.criteria.filter((o) => o.id !== c.id) }))
            }
          />
        ))}
      </ol>
      <div className="flex flex-wrap items-center gap-4">
        <Button
          small
          onClick={() =>
            setRubric((old) => ({
              ...old,
              criteria: [...old.criteria, criterion(old.criteria.at(-1))],
            }))
          }
        >
          Another criterion
        </Button>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-tide"
            checked={rubric.halves ?? false}
            onChange={(event) => setRubric((old) => ({ ...old, halves: event.target.checked }))}
          />{" "}
          a choice may lie halfway between two levels
        </label>
        <span className="text-sm text-soft">
          {rubric.criteria.length === 1
            ? "One criterion: a holistic rubric."
            : `${rubric.criteria.length} criteria.`}{" "}
          {faults.length === 0 ? `${possibleOf(rubric)} points in all.` : ""}
        </span>
      </div>
      {first.scoredWith > 0 ? (
        <div className="border-l-4 border-ember pl-4">
          <p>
            {first.scoredWith === 1 ? "A piece was" : `${first.scoredWith} pieces were`} scored with
            this rubric. Changing its criteria or levels makes a new version. What becomes of those
            pieces?
          </p>
          <RadioLine
            label="The scores"
            hideLabel
            value={scores}
            choices={[
              {
                value: "keep",
                words: "Work that has it keeps the old version; the new one is for new work",
              },
              {
                value: "carry",
                words:
                  "They get the new version; choices in drafts are carried over where criterion and level are still there",
              },
            ]}
            onChange={setScores}
          />
          <p className="text-sm text-soft">
            Scores that were handed back stay as they are until you hand back again.
          </p>
        </div>
      ) : null}
      <div className="flex flex-wrap items-center gap-3 border-t border-line-strong pt-3">
        <Button ink="tide" type="submit" disabled={busy || faults.length > 0 || !name.trim()}>
          Keep the rubric
        </Button>
        <Button onClick={() => onDone(null, null)}>Not now</Button>
        {faults[0] ? <span className="text-sm text-ember">▲ {faults[0]}</span> : null}
        {!faults[0] && !name.trim() ? (
          <span className="text-sm text-soft">It needs a name.</span>
        ) : null}
      </div>
    </form>
  );
}

const SMALL = "w-full border border-line bg-raised px-1.5 py-1 text-sm";

function CriterionFields({
  criterion: c,
  n,
  onChange,
  onDrop,
}: {
  criterion: Criterion;
  n: number;
  onChange: (part: Partial<Criterion>) => void;
  onDrop: () => void;
}) {
  const set = (id: string, part: Partial<Level>) =>
    onChange({ levels: c.levels.map((l) => (l.id === id ? { ...l, ...part } : l)) });
  const decimal = (text: string) => text.replace(",", ".").replace(/[^\d.]/g, "");
  return (
    <li className="border border-line p-3">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-56 flex-1">
          <TextField
            label={`Criterion ${n + 1}`}
            value={c.name}
            onChange={(event) => onChange({ name: event.target.value })}
          />
        </div>
        <div className="w-24">
          <TextField
            label="Weight"
            inputMode="decimal"
            value={c.weight}
            onChange={(event) => onChange({ weight: decimal(event.target.value) })}
          />
        </div>
        <Button small onClick={() => onChange({ levels: [...c.levels, level("", "0")] })}>
          Another level
        </Button>
        <Button small onClick={onDrop}>
          Take out
        </Button>
      </div>
      <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(min(11rem,100%),1fr))] gap-2">
        {c.levels.map((l, k) => (
          <div key={l.id} className="grid gap-1 border-l-2 border-line pl-2">
            <input
              aria-label={`Criterion ${n + 1}, level ${k + 1}: name`}
              value={l.name}
              onChange={(event) => set(l.id, { name: event.target.value })}
              placeholder="level"
              className={SMALL}
            />
            <div className="flex items-center gap-1">
              <input
                aria-label={`Criterion ${n + 1}, level ${k + 1}: points`}
                inputMode="decimal"
                value={l.points}
                onChange={(event) => set(l.id, { points: decimal(event.target.value) })}
                className={SMALL}
              />
              <span className="text-soft">to</span>
              <input
                aria-label={`Criterion ${n + 1}, level ${k + 1}: up to`}
                inputMode="decimal"
                value={l.most ?? ""}
                onChange={(event) => set(l.id, { most: decimal(event.target.value) || null })}
                placeholder="–"
                className={SMALL}
              />
              <button
                type="button"
                aria-label={`Take out level ${k + 1} of criterion ${n + 1}`}
                onClick={() => onChange({ levels: c.levels.filter((o) => o.id !== l.id) })}
                className="size-7 shrink-0 cursor-pointer text-soft hover:text-ink"
              >
                ×
              </button>
            </div>
            <WritingField
              label={`Criterion ${n + 1}, level ${k + 1}: what it looks like`}
              hideLabel
              rows={2}
              value={l.descriptor}
              onChange={(descriptor) => set(l.id, { descriptor })}
            />
          </div>
        ))}
      </div>
    </li>
  );
}
