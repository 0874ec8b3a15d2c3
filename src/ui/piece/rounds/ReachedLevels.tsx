import { sayLevelPoints, type Level, type Picks, type Rubric } from "@/core/rubrics/rubric";
import { RubricTable } from "../../rubrics/RubricTable";
import { classes } from "../../kit/classes";

/**
 * The rubric as it came back, as a grid: each criterion's levels beside one another, the one that was reached marked by frame,
 * sign and word, and the next one's words, which say what would be more.
 */
export function ReachedLevels({ rubric, picks }: { rubric: Rubric; picks: Picks }) {
  return (
    <>
      <div className="mt-3 max-lg:hidden lg:w-[64rem] lg:max-w-[calc(100vw-3rem)]">
        <RubricTable rubric={rubric} picks={picks} next={nextOf(rubric, picks)} />
      </div>
      <Levels rubric={rubric} picks={picks} />
    </>
  );
}

/** The level above the one that was reached, by criterion. */
function nextOf(rubric: Rubric, picks: Picks): ReadonlySet<string> {
  return new Set(
    rubric.criteria.flatMap((criterion) => {
      const reached = criterion.levels.find((l) => l.id === picks[criterion.id]?.levelId);
      const next = reached && above(criterion.levels, reached);
      return next ? [next.id] : [];
    }),
  );
}

/** On a narrow screen each criterion by itself: its levels by name, and the words of two of them. */
function Levels({ rubric, picks }: { rubric: Rubric; picks: Picks }) {
  return (
    <ul className="mt-3 grid gap-y-2 lg:hidden" aria-label="Rubric">
      {rubric.criteria.map((criterion) => {
        const reached = criterion.levels.find((l) => l.id === picks[criterion.id]?.levelId);
        const next = reached ? above(criterion.levels, reached) : null;
        return (
          <li key={criterion.id} className="border-t border-line pt-2">
            <p className="font-serif">{criterion.name}</p>
            <ul className="mt-1 flex flex-wrap gap-1">
              {criterion.levels.map((level) => (
                <li
                  key={level.id}
                  className={classes(
                    "border px-2 py-0.5 text-sm",
                    level === reached
                      ? "border-2 border-tide bg-tide-wash font-semibold"
                      : "border-line text-soft",
                  )}
                >
                  {level === reached ? "✓ " : ""}
                  {level.name} <span className="text-soft">{sayLevelPoints(level)}</span>
                  {level === reached ? <span className="sr-only">, reached</span> : null}
                </li>
              ))}
            </ul>
            {reached?.descriptor ? (
              <p className="mt-1 text-sm">
                <span className="label">reached</span> {reached.descriptor}
              </p>
            ) : null}
            {next?.descriptor ? (
              <p className="mt-1 text-sm text-soft">
                <span className="label">next, {next.name}</span> {next.descriptor}
              </p>
            ) : null}
            {reached ? null : <p className="mt-1 text-sm text-soft">no level given</p>}
          </li>
        );
      })}
    </ul>
  );
}

/** The level that asks for a little more; null at the top. */
function above(levels: readonly Level[], reached: Level): Level | null {
  const more = levels.filter((level) => Number(level.points) > Number(reached.points));
  return more.reduce<Level | null>(
    (least, level) => (least && Number(least.points) <= Number(level.points) ? least : level),
    null,
  );
}
