import { sayLevelPoints, type Picks, type Rubric } from "@/core/rubrics/rubric";
import { classes } from "../kit/classes";

/** A rubric to read: a line per criterion, its levels beside each other; what was chosen is framed and said. */
export function RubricTable({
  rubric,
  picks = {},
  next,
}: {
  rubric: Rubric;
  picks?: Picks;
  /** Levels to be reached for, by id. */ next?: ReadonlySet<string>;
}) {
  return (
    <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Rubric">
      <table className="border-collapse text-sm">
        <tbody>
          {rubric.criteria.map((criterion) => (
            <tr key={criterion.id} className="align-top">
              <th
                scope="row"
                className="max-w-44 min-w-32 border border-line p-2 text-left font-serif font-normal"
              >
                {criterion.name}
                {criterion.weight === "1" ? null : (
                  <span className="text-soft"> ×{criterion.weight}</span>
                )}
                {criterion.note ? (
                  <span className="block font-sans text-xs text-soft">{criterion.note}</span>
                ) : null}
              </th>
              {criterion.levels.map((level) => {
                const chosen = picks[criterion.id]?.levelId === level.id;
                return (
                  <td
                    key={level.id}
                    className={classes(
                      "max-w-56 min-w-28 border border-line p-2",
                      chosen && "bg-tide-wash outline-2 -outline-offset-2 outline-tide",
                      next?.has(level.id) && "border-dashed! border-moss!",
                    )}
                  >
                    {chosen && next ? <span className="label block">reached</span> : null}
                    {next?.has(level.id) ? (
                      <span className="label block text-moss">▹ next</span>
                    ) : null}
                    <span className="font-semibold">
                      {chosen ? "✓ " : ""}
                      {level.name}
                    </span>{" "}
                    <span className="text-soft">{sayLevelPoints(level)}</span>
                    {level.descriptor ? (
                      <span className="block whitespace-pre-line">{level.descriptor}</span>
                    ) : null}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
