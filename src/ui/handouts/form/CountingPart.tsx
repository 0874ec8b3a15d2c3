"use client";

import { toDecimal } from "@/core/scores/decimal";
import { useState } from "react";
import { isWall } from "@/core/handouts/checkDates";
import { latePolicyOf, type Counting, type Plan } from "@/core/handouts/plan";
import { FINAL_SCORES, type FinalScore } from "@/core/rounds/roundsRule";
import { sayLatePolicy, type LatePolicy } from "@/core/scores/latePolicy";
import { isScored, LETTERS, LEVELS, type ScoreKind } from "@/core/scores/scales";
import { wallToInstant } from "@/core/time/zone";
import type { HandOutFormView, RubricChoice } from "@/core/views/handOutViews";
import { Button } from "../../kit/Button";
import { SelectField } from "../../kit/Choices";
import { Dialog } from "../../kit/Dialog";
import { CheckField, TextField } from "../../kit/Field";
import { EMPTY_RUBRIC, RubricEditor } from "../../rubrics/RubricEditor";
import { RubricTable } from "../../rubrics/RubricTable";
import { WhenField } from "../../kit/WhenField";
import { ChooseOrMake } from "../../kit/ChooseOrMake";
import { LatePolicyFields } from "../../sections/LatePolicyFields";

const KINDS: { value: ScoreKind; words: string }[] = [
  { value: "points", words: "points" },
  { value: "percent", words: "percent" },
  { value: "letters", words: "letters" },
  { value: "levels", words: "levels" },
  { value: "completion", words: "complete or incomplete" },
  { value: "words", words: "words only" },
  { value: "none", words: "not scored" },
];
const FINALS: Record<FinalScore, string> = {
  latest: "the latest round",
  best: "the best round",
  average: "the average",
  "win back": "win back a share of what was lost",
};

type Props = {
  plan: Plan;
  form: HandOutFormView;
  setCounting: (counting: Partial<Counting>) => void;
  errors: Record<string, string>;
  scored: boolean;
};

/** How it counts: the score, its category, lateness, rounds, rubric. */
export function CountingPart({ plan, form, setCounting, errors, scored }: Props) {
  const { counting } = plan;
  const sections = form.sections.filter((s) => plan.rows.some((r) => r.sectionId === s.id));
  const categories = [...new Set(sections.flatMap((s) => s.categories))];
  const missing = counting.category.trim()
    ? sections.filter(
        (s) =>
          !s.categories.some((c) => c.toLowerCase() === counting.category.trim().toLowerCase()),
      )
    : [];
  const late = latePolicyOf(counting.late, sections[0]?.late ?? null);
  const [made, setMade] = useState<RubricChoice[]>([]);
  const [making, setMaking] = useState(false);
  const rubrics = [
    ...form.rubrics,
    ...made.filter((m) => !form.rubrics.some((r) => r.id === m.id)),
  ];
  const rubric = rubrics.find((r) => r.id === counting.rubricId);
  const counted = isScored(counting.kind);
  return (
    <section aria-labelledby="how-it-counts" className="grid gap-5">
      <h2 id="how-it-counts" className="border-b border-line pb-1">
        How it counts
      </h2>
      <div className="grid gap-4 sm:grid-cols-4">
        <SelectField
          label="Scored in"
          value={counting.kind}
          onChange={(event) => setCounting({ kind: event.target.value as ScoreKind })}
          disabled={scored}
          error={errors["counting.kind"]}
          hint={scored ? "Scores were handed back already." : scaleHint(counting.kind)}
        >
          {KINDS.map((kind) => (
            <option key={kind.value} value={kind.value}>
              {kind.words}
            </option>
          ))}
        </SelectField>
        {counted ? (
          <TextField
            label="Possible points"
            inputMode="decimal"
            value={counting.points}
            onChange={(event) => setCounting({ points: event.target.value })}
            error={errors["counting.points"]}
            hint={counting.kind === "points" ? undefined : "what it weighs in the Ledger"}
          />
        ) : null}
        <ChooseOrMake
          label="Category"
          none="none"
          make="a new one …"
          value={counting.category}
          choices={categories}
          onChange={(category) => setCounting({ category })}
          hint={
            missing.length > 0
              ? `New in ${missing.map((s) => s.name).join(", ")}, with weight 0`
              : "Weights are the section’s"
          }
        />
        <TextField
          label="Grace (minutes)"
          inputMode="numeric"
          value={String(counting.graceMinutes)}
          onChange={(event) =>
            setCounting({
              graceMinutes: Math.min(1440, Number(event.target.value.replace(/\D/g, "")) || 0),
            })
          }
          error={errors["counting.graceMinutes"]}
          hint="after due, and still on time"
        />
      </div>
      {counted ? (
        <div className="flex flex-wrap gap-x-8 gap-y-2">
          <CheckField
            label="Counts in the grade"
            checked={counting.counts}
            onChange={(event) => setCounting({ counts: event.target.checked })}
          />
          <CheckField
            label="Extra credit"
            hint="adds points, and is never missed"
            checked={counting.extraCredit}
            onChange={(event) => setCounting({ extraCredit: event.target.checked })}
          />
        </div>
      ) : null}
      <LatePolicyFields
        value={counting.late}
        inherited={sections[0]?.late ?? { kind: "flag" }}
        onChange={(next: LatePolicy | null) => setCounting({ late: next })}
        errors={errors}
        at="counting.late"
      />
      <LateExample late={late} plan={plan} form={form} />
      <div className="grid gap-4 sm:grid-cols-4">
        <TextField
          label="Rounds at most"
          inputMode="numeric"
          value={counting.roundsMost}
          onChange={(event) => setCounting({ roundsMost: event.target.value.replace(/\D/g, "") })}
          error={errors["counting.roundsMost"]}
          hint="Empty: as many as it needs"
        />
        <WhenField
          label="Rounds end"
          kind="both"
          value={counting.roundsUntil ?? ""}
          onChange={(typed) => setCounting({ roundsUntil: typed || null })}
          hint="No revision is due later"
        />
        {counted ? (
          <SelectField
            label="What counts over the rounds"
            value={counting.final}
            onChange={(event) => setCounting({ final: event.target.value as FinalScore })}
          >
            {FINAL_SCORES.map((final) => (
              <option key={final} value={final}>
                {FINALS[final]}
              </option>
            ))}
          </SelectField>
        ) : null}
        {counted && counting.final === "win back" ? (
          <TextField
            label="Up to (% of what was lost)"
            inputMode="decimal"
            value={counting.winBackPercent}
            onChange={(event) => setCounting({ winBackPercent: event.target.value })}
            error={errors["counting.winBackPercent"]}
            hint="50 %: 6 and then 10 of 10 make 8"
          />
        ) : null}
      </div>
      <div className="grid gap-3">
        <div className="grid gap-4 sm:grid-cols-2">
          <SelectField
            label="Rubric"
            value={counting.rubricId ?? ""}
            onChange={(event) => setCounting({ rubricId: event.target.value || null })}
          >
            <option value="">none</option>
            {rubrics.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name} ({r.rubric.criteria.length}{" "}
                {r.rubric.criteria.length === 1 ? "criterion" : "criteria"}, {r.possible} points)
              </option>
            ))}
          </SelectField>
          <p className="self-end pb-2 text-sm text-soft">
            <Button small onClick={() => setMaking(true)}>
              Make or paste one
            </Button>{" "}
            It stands on the Shelf too.
          </p>
        </div>
        <Dialog open={making} onClose={() => setMaking(false)} title="A rubric" wide>
          <RubricEditor
            first={EMPTY_RUBRIC}
            onDone={(_, done) => {
              setMaking(false);
              if (!done) return;
              setMade((old) => [...old, done]);
              setCounting({ rubricId: done.id });
            }}
          />
        </Dialog>
        {rubric ? (
          <details>
            <summary className="label cursor-pointer">{rubric.name}, as students see it</summary>
            <RubricTable rubric={rubric.rubric} />
          </details>
        ) : null}
      </div>
      <div className="max-w-60">
        <TextField
          label="Put away when over (days)"
          inputMode="numeric"
          value={counting.archiveDays}
          onChange={(event) => setCounting({ archiveDays: event.target.value.replace(/\D/g, "") })}
          hint="After its last date, hand-in or hand-back, and never while something waits for you. Empty: never"
        />
      </div>
    </section>
  );
}

function scaleHint(kind: ScoreKind): string | undefined {
  if (kind === "letters") return `${LETTERS[0]!.name} to ${LETTERS.at(-1)!.name}`;
  if (kind === "levels") return LEVELS.map((l) => l.name).join(", ");
  return undefined;
}

/** The policy in one sentence, with the due time of the first row. */
function LateExample({
  late,
  plan,
  form,
}: {
  late: LatePolicy;
  plan: Plan;
  form: HandOutFormView;
}) {
  const due = plan.rows.find((r) => isWall(r.due))?.due ?? null;
  const numbers = late.kind !== "deduct" || /^\d{1,3}([.,]\d+)?$/.test(late.percent);
  if (!due || !numbers) return null;
  const points =
    /^\d{1,5}([.,]\d{1,3})?$/.test(plan.counting.points) &&
    Number(toDecimal(plan.counting.points)) > 0 &&
    isScored(plan.counting.kind)
      ? toDecimal(plan.counting.points)
      : null;
  const exact: LatePolicy =
    late.kind === "deduct"
      ? {
          ...late,
          percent: toDecimal(late.percent),
          floorPercent: /^\d+([.,]\d+)?$/.test(late.floorPercent)
            ? toDecimal(late.floorPercent)
            : "0",
        }
      : late;
  return (
    <p className="border-l-2 border-tide pl-3 text-sm" data-late-example>
      {sayLatePolicy(exact, wallToInstant(due, form.zone).at, points, {
        calendar: form.calendar,
        zone: form.zone,
      })}
    </p>
  );
}
