"use client";

import { sayLevelPoints, scoreOf, type Picks, type Rubric } from "@/core/rubrics/rubric";
import { classes } from "../kit/classes";

/** The rubric in the tray: a line per criterion, a press per level; when all are chosen the score is worked out. */
export function RubricStrip({ rubric, name, picks, possible, onPick }: { rubric: Rubric; name: string; picks: Picks; possible: string | null; onPick: (picks: Picks, score: string | null) => void }) {
  const chosen = rubric.criteria.filter((c) => picks[c.id]).length;
  function pick(criterionId: string, levelId: string, points: string) {
    const { [criterionId]: before, ...others } = picks;
    const next = before?.levelId === levelId && before.points === points ? others : { ...others, [criterionId]: { levelId, points } };
    onPick(next, possible === null ? null : scoreOf(rubric, next, possible));
  }
  return (
    <details className="mt-1.5" open={chosen > 0 && chosen < rubric.criteria.length}>
      <summary className="label cursor-pointer">
        {name} · {chosen} of {rubric.criteria.length} chosen
      </summary>
      <div className="mt-1 grid max-h-48 gap-1 overflow-y-auto">
        {rubric.criteria.map((criterion) => (
          <div key={criterion.id} role="group" aria-label={criterion.name} className="flex flex-wrap items-center gap-1.5">
            <span className="w-44 shrink-0 truncate font-serif text-sm" title={criterion.note || criterion.name}>
              {criterion.name}
            </span>
            {criterion.levels.map((level) => {
              const here = picks[criterion.id]?.levelId === level.id;
              return (
                <button key={level.id} type="button" aria-pressed={here} title={level.descriptor || undefined} onClick={() => pick(criterion.id, level.id, here ? picks[criterion.id]!.points : level.points)} className={classes("min-h-7 cursor-pointer border px-2 text-sm", here ? "border-tide bg-tide-wash font-semibold" : "border-line-strong bg-raised")}>
                  {here ? "✓ " : ""}
                  {level.name} <span className="font-normal text-soft">{sayLevelPoints(level)}</span>
                </button>
              );
            })}
            {criterion.levels.map((level) => (picks[criterion.id]?.levelId === level.id && level.most && level.most !== level.points ? <Within key={level.id} level={level} points={picks[criterion.id]!.points} onSet={(points) => pick(criterion.id, level.id, points)} name={criterion.name} /> : null))}
          </div>
        ))}
      </div>
    </details>
  );
}

/** Where a level is a range, how much of it. */
function Within({ level, points, onSet, name }: { level: Rubric["criteria"][number]["levels"][number]; points: string; onSet: (points: string) => void; name: string }) {
  return <input type="number" aria-label={`Points in ${name}`} min={level.points} max={level.most!} step="0.5" value={points} onChange={(event) => event.target.value && Number(event.target.value) >= Number(level.points) && Number(event.target.value) <= Number(level.most) && onSet(event.target.value)} className="w-20 border border-line-strong bg-raised px-1 text-sm" />;
}
