"use client";

import { faultsOfBody } from "@/core/api/faults";
import { planBody } from "@/core/api/planBody";
import { checkPlan } from "@/core/handouts/checkPlan";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { checkRow } from "@/core/handouts/checkRow";
import { describeChange, factsOf, type Touched } from "@/core/handouts/describeChange";
import type { Plan, PlanRow } from "@/core/handouts/plan";
import { wallToInstant } from "@/core/time/zone";
import { suggestedDates } from "@/core/handouts/dueChoices";
import type { HandOutFormView } from "@/core/views/handOutViews";
import { call, Problem, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { CheckField } from "../../kit/Field";
import { Empty, Notice } from "../../kit/Notice";
import { CountingPart } from "./CountingPart";
import { StudentsView } from "./StudentsView";
import { usePlan, type DraftState } from "./usePlan";
import { WhoAndWhen } from "./WhoAndWhen";
import { WorkPart } from "./WorkPart";

export type Editing = {
  handOutId: string;
  revision: number;
  alsoIn: string[];
  scored: boolean;
  touched: Touched;
};
type Props = {
  form: HandOutFormView;
  first: Plan;
  draft: DraftState | null;
  editing: Editing | null;
};

/** Handing out, read top to bottom: the work, who and when, how it counts; at its side what a student will see. */
export function HandOutPage({ form, first, draft, editing }: Props) {
  const router = useRouter();
  const { plan, change, words, conflict, choose, ...draftKept } = usePlan(
    first,
    draft,
    editing === null,
  );
  const { keepAsTemplate, draftId, settled, goOn, stop, found, takeFound } = draftKept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // Editors hold their own text: they are made anew when another plan takes the place of this one.
  const [taken, setTaken] = useState(0);
  const [pastIsMeant, setPast] = useState(false);
  const [telling, setTelling] = useState(true);
  const [revision, setRevision] = useState(editing?.revision ?? 0);
  const key = useRef<string>(undefined);
  const checks = useMemo(
    () =>
      plan.rows.map((row) => checkRow(row, form, { pastIsMeant: pastIsMeant || editing !== null })),
    [plan.rows, form, pastIsMeant, editing],
  );
  const faulty = checks.some((c) => Object.keys(c.faults).length > 0);
  const students = checks.reduce((sum, c) => sum + c.students.length, 0);
  const later = plan.rows.some((row) => row.opens && row.opens > form.now);

  const setWork = (work: Partial<Plan["work"]>) =>
    change((old) => ({ ...old, work: { ...old.work, ...work } }));
  const setCounting = (counting: Partial<Plan["counting"]>) =>
    change((old) => ({ ...old, counting: { ...old.counting, ...counting } }));
  const setRows = (make: (rows: PlanRow[]) => PlanRow[]) =>
    change((old) => ({ ...old, rows: make(old.rows) }));

  function toggleSection(sectionId: string) {
    const section = form.sections.find((s) => s.id === sectionId)!;
    const row: PlanRow = {
      sectionId,
      opens: null,
      closes: null,
      ...suggestedDates(form.now, {
        meetings: section.meetings,
        calendar: form.calendar,
        dayEnds: form.dayEnds,
      }),
      audience: { kind: "section" },
      exceptions: [],
    };
    setRows((rows) =>
      rows.some((r) => r.sectionId === sectionId)
        ? rows.filter((r) => r.sectionId !== sectionId)
        : [...rows, row].sort((a, b) => order(a.sectionId) - order(b.sectionId)),
    );
  }
  const order = (id: string) => form.sections.findIndex((s) => s.id === id);

  function fail(fields: Record<string, string>, words: string) {
    const named = Object.entries(fields).map(([field, why]) => [field.replace(/^plan\./, ""), why]);
    key.current = undefined;
    setErrors(Object.fromEntries(named) as Record<string, string>);
    setProblem(words);
    setBusy(false);
    window.scrollTo({ top: 0 });
  }

  async function send() {
    if (busy) return;
    // By the same schema and the same rules as its route.
    const faults = { ...faultsOfBody(planBody, plan), ...checkPlan(plan) };
    if (Object.keys(faults).length > 0)
      return fail(faults, "Some of this cannot be handed out yet. It says where.");
    setBusy(true);
    setErrors({});
    setProblem(null);
    key.current ??= crypto.randomUUID();
    try {
      if (editing) {
        const answer = await call(contract.changeHandOut, {
          params: { handOutId: editing.handOutId },
          body: { plan, tell: telling },
          revision,
        });
        setRevision(answer.revision);
        router.push(
          `/hand-outs/${editing.handOutId}?changed=${answer.words.length > 0 ? answer.told : "nothing"}`,
        );
        return;
      }
      await settled();
      const { handOuts } = await call(contract.handOut, {
        body: { plan, draftId: draftId(), pastIsMeant },
        key: key.current,
      });
      await stop();
      router.push(
        handOuts.length === 1
          ? `/hand-outs/${handOuts[0]!.id}`
          : `/sections?handed=${handOuts.map((each) => each.id).join(",")}`,
      );
    } catch (error) {
      if (!editing) goOn();
      fail(error instanceof Problem ? error.fields : {}, sayProblem(error));
    }
  }

  // Ctrl+Enter hands out from wherever one is on the page.
  const press = useRef(send);
  useEffect(() => {
    press.current = send;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      void press.current();
    };
    // Before the editors, which would put in a line break.
    window.addEventListener("keydown", listen, true);
    return () => window.removeEventListener("keydown", listen, true);
  }, []);

  if (form.sections.length === 0)
    return (
      <Empty title="You have no section to hand out to">
        Make one under Sections, or ask its owner to let you hand out.
      </Empty>
    );
  const one =
    plan.rows.length === 1
      ? form.sections.find((s) => s.id === plan.rows[0]!.sectionId)?.name
      : `${plan.rows.length} sections`;
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
      className="grid gap-x-8 gap-y-8 xl:grid-cols-[minmax(0,1fr)_17rem]"
    >
      <div className="grid min-w-0 gap-10" key={taken}>
        {found ? (
          <Notice
            ink="ember"
            acts={
              <>
                <Button
                  small
                  onClick={() => {
                    takeFound(true);
                    setTaken((n) => n + 1);
                  }}
                >
                  Go on with it
                </Button>
                <Button small onClick={() => takeFound(false)}>
                  Throw it away
                </Button>
              </>
            }
          >
            “{found.work.title || "A page without a title"}” was left on this device without having
            reached the server.
          </Notice>
        ) : null}
        {conflict ? (
          <Notice
            ink="ember"
            acts={(["mine", "theirs"] as const).map((which) => (
              <Button
                key={which}
                small
                onClick={() => {
                  choose(which);
                  setTaken((n) => n + 1);
                }}
              >
                {which === "mine" ? "Keep mine" : "Take the other"}
              </Button>
            ))}
          >
            This draft was changed in another window since this one was opened. Nothing is lost;
            choose which to go on with.
          </Notice>
        ) : null}
        {problem ? (
          <Notice ink="ember">
            {problem}{" "}
            {Object.keys(errors).length > 1
              ? `${Object.keys(errors).length} places are marked below.`
              : ""}
          </Notice>
        ) : null}
        <WorkPart
          plan={plan}
          form={form}
          setWork={setWork}
          errors={errors}
          toggleSection={editing ? null : toggleSection}
          given={editing && { versions: first.work.versions.map((v) => v.id) }}
        />
        <WhoAndWhen
          plan={plan}
          form={form}
          setRows={setRows}
          checks={checks}
          errors={errors}
          editing={editing !== null}
        />
        <CountingPart
          plan={plan}
          form={form}
          setCounting={setCounting}
          errors={errors}
          scored={editing?.scored ?? false}
        />
        <div className="sticky bottom-0 z-20 flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-line-strong bg-paper py-3">
          <Button
            ink="tide"
            type="submit"
            disabled={
              busy ||
              (faulty && editing === null && !checks.every((c) => c.onlyPast)) ||
              plan.rows.length === 0
            }
          >
            {busy
              ? "One moment …"
              : editing
                ? "Keep the changes"
                : `${later ? "Hand out, to open later:" : "Hand out to"} ${plan.rows.length === 0 ? "…" : one}`}
          </Button>
          {editing ? (
            <>
              <WhatChanges
                first={first}
                plan={plan}
                form={form}
                touched={editing.touched}
                telling={telling}
              />
              <CheckField
                label="Tell the students"
                hint={undefined}
                checked={telling}
                onChange={(event) => setTelling(event.target.checked)}
              />
              <p className="text-sm text-soft">
                They are told of a new due time, opening, closing or task, nothing else.
                {editing.alsoIn.length > 0
                  ? ` The task and how it counts change for ${editing.alsoIn.join(" and ")} too.`
                  : ""}
              </p>
            </>
          ) : (
            <>
              <p className="text-sm text-soft" role="status">
                {plan.rows.length === 0
                  ? "Choose a section under the title."
                  : `${students} ${students === 1 ? "student" : "students"}`}{" "}
                · <kbd>Ctrl</kbd> <kbd>Enter</kbd>
              </p>
              {checks.some((c) => c.onlyPast) ? (
                <CheckField
                  label="It is due in the past, and that is meant"
                  checked={pastIsMeant}
                  onChange={(event) => setPast(event.target.checked)}
                />
              ) : null}
              <p className="ml-auto text-sm text-soft" aria-live="polite" data-draft>
                {words}
              </p>
              <Button
                small
                onClick={() => void keepAsTemplate()}
                title="Keeps this on the Shelf, to be used again"
              >
                Keep on the Shelf
              </Button>
            </>
          )}
        </div>
      </div>
      <StudentsView plan={plan} form={form} />
    </form>
  );
}

/** Said before it is kept: what changes, whom it touches, and what students would be told. */
function WhatChanges({
  first,
  plan,
  form,
  touched,
  telling,
}: {
  first: Plan;
  plan: Plan;
  form: HandOutFormView;
  touched: Touched;
  telling: boolean;
}) {
  const now = wallToInstant(form.now, form.zone).at;
  const { words, notice } = describeChange(
    factsOf(first, now, form.zone),
    factsOf(plan, now, form.zone),
    touched,
    { now, zone: form.zone },
  );
  if (words.length === 0)
    return <p className="w-full text-sm text-soft">Nothing is changed yet.</p>;
  return (
    <div className="w-full text-sm" aria-live="polite" data-what-changes>
      <ul>
        {words.map((line) => (
          <li key={line}>→ {line}</li>
        ))}
      </ul>
      <p className="text-soft">{sayTelling(notice, telling)}</p>
    </div>
  );
}

function sayTelling(notice: string | null, telling: boolean): string {
  if (!notice) return "Nothing in it that students are told of.";
  return telling ? `Students read: “${notice}”` : "Students are not told.";
}
