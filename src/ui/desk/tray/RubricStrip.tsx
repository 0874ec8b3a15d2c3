"use client";

import { useEffect, useEffectEvent, useRef } from "react";
import { sayLevelPoints, stepsOf, sumOf, type Picks, type Rubric } from "@/core/rubrics/rubric";
import { classes } from "../../kit/classes";

/** The rubric in one line of the tray: how far it is chosen, and the sum so far; pressed, it opens. */
export function RubricChip({
  rubric,
  name,
  picks,
  open,
  onTurn,
}: {
  rubric: Rubric;
  name: string;
  picks: Picks;
  open: boolean;
  onTurn: () => void;
}) {
  const sum = sumOf(rubric, picks);
  return (
    <button
      type="button"
      aria-expanded={open}
      title={`${name} (b)`}
      onClick={onTurn}
      className="min-h-9 shrink-0 cursor-pointer border border-line-strong bg-raised px-2 text-left text-xs leading-4 hover:bg-sunk"
    >
      <span className="block">
        rubric <kbd>b</kbd> {open ? "▾" : "▴"} {sum.chosen} of {rubric.criteria.length}
      </span>
      <span className="block text-soft">
        sum {sum.earned} of {sum.of}
      </span>
    </button>
  );
}

type Props = {
  rubric: Rubric;
  picks: Picks;
  onPick: (picks: Picks) => void;
  onClose: () => void;
  /** So often it was asked for by its key: it takes the focus each time. */ asked: number;
};

/**
 * The rubric opened in the tray: a row per criterion, a press per level, half levels between them where the rubric has
 * them. By keys: ↑ and ↓ go through the criteria, ← and → (or 1, 2, 3 …) choose, Backspace takes back, Escape folds it.
 * Where criteria weigh differently, it says how much.
 */
export function RubricRows({ rubric, picks, onPick, onClose, asked }: Props) {
  const rows = useRef<(HTMLDivElement | null)[]>([]);
  const takeFocus = useEffectEvent(() => {
    const first = rubric.criteria.findIndex((c) => !picks[c.id]);
    rows.current[Math.max(0, first)]?.focus();
  });
  useEffect(() => {
    takeFocus();
  }, [asked]);

  function pick(criterionId: string, step: { levelId: string; points: string } | null) {
    const { [criterionId]: before, ...others } = picks;
    const same = step && before?.levelId === step.levelId && before.points === step.points;
    const next =
      step && !same
        ? { ...others, [criterionId]: { levelId: step.levelId, points: step.points } }
        : others;
    onPick(next);
  }

  function keys(event: React.KeyboardEvent, row: number) {
    const criterion = rubric.criteria[row]!;
    const steps = stepsOf(criterion, rubric.halves ?? false);
    const now = steps.findIndex(
      (s) => s.levelId === picks[criterion.id]?.levelId && s.points === picks[criterion.id]?.points,
    );
    const focus = (n: number) =>
      rows.current[Math.min(rubric.criteria.length - 1, Math.max(0, n))]?.focus();
    const set = (n: number) => steps[n] && n !== now && pick(criterion.id, steps[n]);
    const digit = /^[1-9]$/.test(event.key) ? Number(event.key) : null;
    // A digit means a whole level, the least first: half levels lie between, on the arrows.
    const whole = steps.filter((s) => !s.half);
    if (digit !== null && whole[digit - 1]) {
      if (steps.indexOf(whole[digit - 1]!) !== now) pick(criterion.id, whole[digit - 1]!);
      focus(row + 1);
    } else if (event.key === "ArrowRight") set(Math.min(steps.length - 1, now + 1));
    else if (event.key === "ArrowLeft") set(now === -1 ? steps.length - 1 : Math.max(0, now - 1));
    else if (event.key === "ArrowDown") focus(row + 1);
    else if (event.key === "ArrowUp") focus(row - 1);
    else if (event.key === "Backspace" || event.key === "Delete") pick(criterion.id, null);
    else if (event.key === "Escape") onClose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return (
    <div data-rubric className="grid max-h-52 gap-0.5 overflow-y-auto p-0.5 pb-1">
      {rubric.criteria.map((criterion, row) => {
        const points = picks[criterion.id]?.points;
        return (
          <div
            key={criterion.id}
            ref={(element) => {
              rows.current[row] = element;
            }}
            role="group"
            tabIndex={0}
            data-arrows
            aria-label={`${criterion.name}: ${points ? `${points} points` : "nothing chosen"}. 1 to ${criterion.levels.length} choose a level, the least first`}
            onKeyDown={(event) => keys(event, row)}
            className="flex flex-wrap items-center gap-1 -outline-offset-2 outline-tide"
          >
            <span
              className="w-44 shrink-0 truncate font-serif text-sm"
              title={criterion.note || criterion.name}
            >
              {criterion.name}
              {criterion.weight === "1" ? null : (
                <span className="text-soft"> ×{criterion.weight}</span>
              )}
            </span>
            {stepsOf(criterion, rubric.halves ?? false).map((step) => {
              const level = criterion.levels.find((l) => l.id === step.levelId)!;
              const own = picks[criterion.id];
              const here =
                own?.levelId === step.levelId &&
                (step.half
                  ? own.points === step.points
                  : own.points === step.points || level.most !== null);
              return (
                <button
                  key={`${step.levelId} ${step.points}`}
                  type="button"
                  tabIndex={-1}
                  aria-pressed={here}
                  aria-label={step.half ? `${step.name}, ${step.points}` : undefined}
                  title={step.half ? step.name : level.descriptor || undefined}
                  onClick={() => pick(criterion.id, step)}
                  className={classes(
                    "min-h-7 cursor-pointer border text-sm",
                    step.half ? "px-1" : "px-2",
                    here
                      ? "border-tide bg-tide-wash font-semibold"
                      : "border-line-strong bg-raised",
                  )}
                >
                  {here ? "✓ " : ""}
                  {step.half ? "½" : level.name}{" "}
                  {step.half ? null : (
                    <span className="font-normal text-soft">{sayLevelPoints(level)}</span>
                  )}
                </button>
              );
            })}
            {criterion.levels.map((level) =>
              picks[criterion.id]?.levelId === level.id &&
              level.most &&
              level.most !== level.points ? (
                <Within
                  key={level.id}
                  level={level}
                  points={picks[criterion.id]!.points}
                  onSet={(value) => pick(criterion.id, { levelId: level.id, points: value })}
                  name={criterion.name}
                />
              ) : null,
            )}
          </div>
        );
      })}
    </div>
  );
}

/** Where a level is a range, how much of it. */
function Within({
  level,
  points,
  onSet,
  name,
}: {
  level: Rubric["criteria"][number]["levels"][number];
  points: string;
  onSet: (points: string) => void;
  name: string;
}) {
  return (
    <input
      type="number"
      aria-label={`Points in ${name}`}
      min={level.points}
      max={level.most!}
      step="0.5"
      value={points}
      onKeyDown={(event) => event.stopPropagation()}
      onChange={(event) =>
        event.target.value &&
        Number(event.target.value) >= Number(level.points) &&
        Number(event.target.value) <= Number(level.most) &&
        onSet(event.target.value)
      }
      className="w-20 border border-line-strong bg-raised px-1 text-sm"
    />
  );
}
