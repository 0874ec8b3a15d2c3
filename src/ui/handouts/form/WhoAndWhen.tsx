"use client";

import { sayCount } from "@/core/text/sayCount";
import { dueChoices } from "@/core/handouts/dueChoices";
import { sayExtraTime } from "@/core/handouts/extraTime";
import type { RowCheck } from "@/core/handouts/checkRow";
import type { Exception, Plan, PlanRow } from "@/core/handouts/plan";
import type { FormSection, HandOutFormView } from "@/core/views/handOutViews";
import { Button } from "../../kit/Button";
import { Chip } from "../../kit/Choices";
import { WhenField } from "../../kit/WhenField";
import { classes } from "../../kit/classes";

type Dates = "opens" | "due" | "closes" | "promised";
/** One row for each section; on a phone one date below the other, for nothing is typed well in a field that is cut off. */
const ROWS =
  "w-full border-collapse text-[0.9375rem] sm:min-w-[46rem] sm:table-fixed max-sm:block max-sm:[&>*]:block max-sm:[&>*>tr]:block max-sm:[&>*>tr>*]:block";

const COLUMNS: { field: Dates; name: string; empty: string }[] = [
  { field: "opens", name: "opens", empty: "now" },
  { field: "due", name: "due", empty: "" },
  { field: "closes", name: "closes", empty: "never" },
  { field: "promised", name: "promised back", empty: "no date" },
];

type Props = {
  plan: Plan;
  form: HandOutFormView;
  setRows: (make: (rows: PlanRow[]) => PlanRow[]) => void;
  checks: readonly RowCheck[];
  errors: Record<string, string>;
  editing: boolean;
};

/** One table: a row per section with its dates, whom it is for, and what is other for single students. */
export function WhoAndWhen({ plan, form, setRows, checks, errors, editing }: Props) {
  const change = (sectionId: string, part: Partial<PlanRow>) =>
    setRows((rows) => rows.map((r) => (r.sectionId === sectionId ? { ...r, ...part } : r)));
  const fill = (field: Dates) =>
    setRows((rows) => rows.map((r) => ({ ...r, [field]: rows[0]![field] })));
  return (
    <section aria-labelledby="who-and-when" className="grid gap-3">
      <h2 id="who-and-when" className="border-b border-line pb-1">
        Who and when
      </h2>
      {plan.rows.length === 0 ? (
        <p className="text-soft">
          Choose a section under the title: its row stands here, with dates that fit its lessons.
        </p>
      ) : null}
      {plan.rows.length > 0 ? (
        <div className="overflow-x-auto">
          <table className={ROWS}>
            <thead className={plan.rows.length > 1 ? undefined : "max-sm:sr-only"}>
              <tr className="label text-left">
                <th scope="col" className="w-20 pr-3 pb-1 font-normal">
                  section
                </th>
                {COLUMNS.map((column) => (
                  <th
                    key={column.field}
                    scope="col"
                    className="pr-2 pb-1 font-normal whitespace-nowrap"
                  >
                    {column.name}
                    {plan.rows.length > 1 ? (
                      <button
                        type="button"
                        onClick={() => fill(column.field)}
                        title={`Takes ${column.name} of the first row into all rows`}
                        className="ml-1.5 min-h-6 cursor-pointer text-tide underline underline-offset-2"
                      >
                        same for all
                      </button>
                    ) : null}
                  </th>
                ))}
              </tr>
            </thead>
            {plan.rows.map((row, n) => (
              <Row
                key={row.sectionId}
                row={row}
                n={n}
                form={form}
                check={checks[n]!}
                errors={errors}
                versions={plan.work.versions}
                change={(part) => change(row.sectionId, part)}
                editing={editing}
              />
            ))}
          </table>
        </div>
      ) : null}
    </section>
  );
}

function Row({
  row,
  n,
  form,
  check,
  errors,
  versions,
  change,
  editing,
}: {
  row: PlanRow;
  n: number;
  form: HandOutFormView;
  check: RowCheck;
  errors: Record<string, string>;
  versions: Plan["work"]["versions"];
  change: (part: Partial<PlanRow>) => void;
  editing: boolean;
}) {
  const section = form.sections.find((s) => s.id === row.sectionId);
  if (!section) {
    return (
      <tbody>
        <tr>
          <td colSpan={5} className="border-t border-line py-2 text-ember">
            ▲ A section of this draft is no longer yours to hand out to.
          </td>
        </tr>
      </tbody>
    );
  }
  const choices = dueChoices(form.now, {
    meetings: section.meetings,
    calendar: form.calendar,
    dayEnds: form.dayEnds,
  });
  const faults = {
    ...check.faults,
    ...Object.fromEntries(
      COLUMNS.flatMap(({ field }) =>
        errors[`rows[${n}].${field}`] ? [[field, errors[`rows[${n}].${field}`]!]] : [],
      ),
    ),
  };
  const said = [
    ...Object.values(faults).map((words) => ({ ink: true, words })),
    ...check.notes.map((note) => ({ ink: false, words: note.words })),
    ...(check.load ? [{ ink: false, words: check.load }] : []),
  ];
  return (
    <tbody>
      <tr className="align-top">
        <th
          scope="row"
          className="border-t border-line py-2 pr-3 text-left font-serif text-lg font-normal"
        >
          {section.name}
        </th>
        {COLUMNS.map(({ field, name, empty }) => (
          <td key={field} className="py-2 pr-2 sm:border-t sm:border-line max-sm:py-1">
            <span className="label sm:hidden" aria-hidden="true">
              {name}
            </span>
            <WhenField
              small
              hideLabel
              kind="both"
              label={`${section.name} ${name}`}
              wrong={Boolean(faults[field])}
              title={empty ? `Empty: ${empty}` : undefined}
              value={row[field] ?? ""}
              onChange={(typed) => change({ [field]: typed || (field === "due" ? "" : null) })}
            />
            {row[field] ? null : <span className="text-xs text-soft">{empty}</span>}
          </td>
        ))}
      </tr>
      <tr>
        <td />
        <td colSpan={4} className="pb-3">
          <div
            className="flex flex-wrap gap-1.5"
            role="group"
            aria-label={`${section.name}: quick choices for due`}
          >
            {choices.map((choice) => (
              <button
                key={choice.name}
                type="button"
                onClick={() => change({ due: choice.wall })}
                aria-pressed={row.due === choice.wall}
                title={choice.wall.replace("T", " ")}
                className={classes(
                  "min-h-7 cursor-pointer border px-2 text-sm",
                  row.due === choice.wall
                    ? "border-tide bg-tide-wash"
                    : "border-line hover:bg-sunk",
                )}
              >
                {choice.name}
              </button>
            ))}
          </div>
          {said.length > 0 ? (
            <ul className="mt-1.5 text-sm" aria-live="polite">
              {said.map(({ ink, words }) => (
                <li key={words} className={ink ? "text-ember" : "text-soft"}>
                  <span aria-hidden="true">{ink ? "▲ " : "△ "}</span>
                  {words}
                </li>
              ))}
            </ul>
          ) : null}
          {editing ? (
            <p className="mt-2 text-sm text-soft">
              For whom it is, and what is other for single students, is changed on its sheet,
              student by student.
            </p>
          ) : (
            <Whom
              row={row}
              section={section}
              students={check.students}
              change={change}
              versions={versions}
              error={errors[`rows[${n}].audience`]}
            />
          )}
        </td>
      </tr>
    </tbody>
  );
}

function Whom({
  row,
  section,
  students,
  change,
  versions,
  error,
}: {
  row: PlanRow;
  section: FormSection;
  students: readonly string[];
  change: (part: Partial<PlanRow>) => void;
  versions: Plan["work"]["versions"];
  error: string | undefined;
}) {
  const { audience } = row;
  const chosen =
    audience.kind === "chosen" ? audience : { kind: "chosen" as const, groups: [], students: [] };
  const toggle = (list: readonly string[], id: string) =>
    list.includes(id) ? list.filter((other) => other !== id) : [...list, id];
  const extra = section.groups.filter((g) => g.extra);
  const summary =
    audience.kind === "section"
      ? "the whole section"
      : `${students.length} of ${sayCount(section.students.length, "student")}`;
  const others = row.exceptions.filter((e) => e.due || e.excused || e.versionId).length;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-sm">
        For {summary}
        {others > 0 ? `, ${others} with something of their own` : ""}
        {extra.length > 0 ? (
          <span className="text-soft">
            {" "}
            · {extra.map((g) => `${g.name} ${sayExtraTime(g.extra!)}`).join(", ")}, by itself
          </span>
        ) : null}
      </summary>
      <div className="mt-2 grid gap-3 border-l border-line pl-4">
        <div className="flex flex-wrap gap-2" role="group" aria-label={`${section.name}: for whom`}>
          <Chip
            chosen={audience.kind === "section"}
            onToggle={() =>
              change({ audience: audience.kind === "section" ? chosen : { kind: "section" } })
            }
          >
            whole section
          </Chip>
          {section.groups.map((group) => (
            <Chip
              key={group.id}
              chosen={chosen.groups.includes(group.id)}
              onToggle={() =>
                change({ audience: { ...chosen, groups: toggle(chosen.groups, group.id) } })
              }
            >
              {group.name}{" "}
              <span className="text-sm font-normal text-soft">{group.members.length}</span>
            </Chip>
          ))}
        </div>
        {error ? (
          <p role="alert" className="text-sm text-ember">
            ▲ {error}
          </p>
        ) : null}
        <div
          className="max-h-80 overflow-y-auto border border-line"
          tabIndex={0}
          role="region"
          aria-label={`${section.name}: its students`}
        >
          <table className="sheet-table">
            <thead>
              <tr className="label sticky top-0 bg-paper">
                <th scope="col" className="pl-3!">
                  student
                </th>
                <th scope="col">due for them</th>
                <th scope="col">excused</th>
                {versions.length > 0 ? <th scope="col">version</th> : null}
              </tr>
            </thead>
            <tbody>
              {section.students.map((student) => (
                <StudentLine
                  key={student.id}
                  student={student}
                  given={students.includes(student.id)}
                  chosenAlone={chosen.students.includes(student.id)}
                  whole={audience.kind === "section"}
                  exception={
                    row.exceptions.find((e) => e.studentId === student.id) ?? {
                      studentId: student.id,
                      due: null,
                      excused: false,
                      versionId: null,
                    }
                  }
                  versions={versions}
                  onChoose={() =>
                    change({
                      audience: { ...chosen, students: toggle(chosen.students, student.id) },
                    })
                  }
                  onExcept={(next) =>
                    change({
                      exceptions: [
                        ...row.exceptions.filter((e) => e.studentId !== student.id),
                        ...(next.due || next.excused || next.versionId ? [next] : []),
                      ],
                    })
                  }
                />
              ))}
            </tbody>
          </table>
        </div>
        {row.exceptions.length > 0 ? (
          <div>
            <Button small onClick={() => change({ exceptions: [] })}>
              Nothing other for anyone
            </Button>
          </div>
        ) : null}
      </div>
    </details>
  );
}

function StudentLine({
  student,
  given,
  chosenAlone,
  whole,
  exception,
  versions,
  onChoose,
  onExcept,
}: {
  student: { id: string; name: string };
  given: boolean;
  chosenAlone: boolean;
  whole: boolean;
  exception: Exception;
  versions: Plan["work"]["versions"];
  onChoose: () => void;
  onExcept: (next: Exception) => void;
}) {
  return (
    <tr className={given ? undefined : "text-soft"}>
      <td className="pl-3!">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-tide"
            checked={given}
            disabled={whole || (given && !chosenAlone)}
            onChange={onChoose}
          />
          {student.name}
        </label>
      </td>
      <td>
        <WhenField
          small
          hideLabel
          kind="both"
          label={`Due for ${student.name}`}
          disabled={!given}
          value={exception.due ?? ""}
          onChange={(typed) => onExcept({ ...exception, due: typed || null })}
        />
      </td>
      <td>
        <input
          type="checkbox"
          aria-label={`${student.name} is excused`}
          disabled={!given}
          className="size-4 accent-tide"
          checked={exception.excused}
          onChange={(event) => onExcept({ ...exception, excused: event.target.checked })}
        />
      </td>
      {versions.length > 0 ? (
        <td>
          <select
            aria-label={`Version for ${student.name}`}
            disabled={!given}
            value={exception.versionId ?? ""}
            onChange={(event) => onExcept({ ...exception, versionId: event.target.value || null })}
            className="border border-line bg-raised text-sm"
          >
            <option value="">the task as above</option>
            {versions.map((version) => (
              <option key={version.id} value={version.id}>
                {version.name}
              </option>
            ))}
          </select>
        </td>
      ) : null}
    </tr>
  );
}
