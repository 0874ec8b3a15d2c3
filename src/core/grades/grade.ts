import { dropped, type Counts } from "./drop";
import { exact, sayRounded, shownParts, sumOf, ZERO, type Exact } from "./exact";
import { trimmed } from "../scores/decimal";
import type { GradeRules } from "./rules";

/** A column that can count: a hand-out with its points. */
export type GradeColumn = {
  id: string;
  title: string;
  categoryId: string | null;
  /** As decimal text; null: words only. */ possible: string | null;
  counts: boolean;
  extraCredit: boolean;
};
export type GradeCategory = {
  id: string | null;
  name: string;
  /** As decimal text. */ weight: string;
  /** So many are dropped, those whose dropping helps most. */ drop: number;
};

/** What one student has in a column; `points` as decimal text where `state` is "scored". */
export type GradeEntry = {
  columnId: string;
  state: "scored" | "missing" | "excused" | "not yet";
  points: string | null;
  /** A teacher's draft is in it that was not handed back; students' grades have none. */ draft?: boolean;
};

/** What became of an entry in the sum. */
export type Treatment =
  "counts" | "extra" | "as zero" | "dropped" | "left out" | "excused" | "does not count";

export type GradeLine = {
  columnId: string;
  title: string;
  /** As typed decimals; null where there is nothing. */ points: string | null;
  possible: string | null;
  treatment: Treatment;
};

/** A category in the sum. Decimal texts, as shown. */
export type GradePart = {
  name: string;
  weight: string;
  lines: GradeLine[];
  earned: string;
  possible: string;
  /** Null: nothing counts here yet. */ percent: string | null;
  /** What it brings to the grade, in percent points; null by points, and where nothing counts. */
  brings: string | null;
};

export type Grade = {
  /** Rounded as the rules say; null: nothing counts yet. */ percent: string | null;
  /** The name of its step. */ name: string | null;
  /** Before rounding, with three places more: the shown parts add up to it. */ unrounded:
    string | null;
  parts: GradePart[];
  /** The weights that the sum is divided by. */ ofWeight: string;
};

const MORE_PLACES = 3;

/**
 * A grade with the sum that makes it, in exact numbers and rounded once. By weights: of each category its points by its
 * possible points, times its weight, by the weights that count; by points: all points by all possible points. Extra
 * credit adds points and asks for none; a category of extra credit alone adds its weight above the others. Nothing depends on the order of columns; a better score never lowers it.
 */
export function gradeOf(
  rules: GradeRules,
  categories: readonly GradeCategory[],
  columns: readonly GradeColumn[],
  entries: readonly GradeEntry[],
): Grade {
  const groups = grouped(rules, categories, columns, entries);
  const out = whatIsDropped(rules, groups);
  for (const { lines } of groups)
    for (const line of lines) if (out.has(line.columnId)) line.treatment = "dropped";
  return rules.way === "points" ? byPoints(rules, groups) : byWeights(rules, groups);
}

type Group = { category: GradeCategory; lines: GradeLine[] };

/** Work of no category stands in one of its own, with no weight. */
const NO_CATEGORY: GradeCategory = { id: null, name: "without a category", weight: "0", drop: 0 };

function grouped(
  rules: GradeRules,
  categories: readonly GradeCategory[],
  columns: readonly GradeColumn[],
  entries: readonly GradeEntry[],
): Group[] {
  const byColumn = new Map(entries.map((entry) => [entry.columnId, entry]));
  const loose = columns.some((c) => !categories.some(({ id }) => id === c.categoryId));
  // Where no category is there at all, all work is one and has the whole weight.
  const rest =
    categories.length === 0 ? { ...NO_CATEGORY, name: "all work", weight: "1" } : NO_CATEGORY;
  const all = loose ? [...categories, rest] : [...categories];
  return all.map((category) => ({
    category,
    lines: columns
      .filter((c) =>
        category.id === null
          ? !categories.some(({ id }) => id === c.categoryId)
          : c.categoryId === category.id,
      )
      .flatMap((column) => {
        const entry = byColumn.get(column.id);
        return entry ? [lineOf(rules, column, entry)] : [];
      }),
  }));
}

function lineOf(rules: GradeRules, column: GradeColumn, entry: GradeEntry): GradeLine {
  const { id: columnId, title, possible } = column;
  const points = entry.state === "scored" ? entry.points : null;
  return { columnId, title, points, possible, treatment: treatmentOf(rules, column, entry) };
}

function treatmentOf(
  rules: GradeRules,
  column: GradeColumn,
  { state, points }: GradeEntry,
): Treatment {
  const { possible, counts, extraCredit } = column;
  if (!counts || possible === null || (!extraCredit && exact(possible).equals(0)))
    return "does not count";
  if (state === "excused") return "excused";
  if (state === "scored" && points !== null) return extraCredit ? "extra" : "counts";
  if (state === "missing" && !extraCredit && rules.missing === "zero") return "as zero";
  return "left out";
}

const isCounted = ({ treatment }: GradeLine): boolean =>
  treatment === "counts" || treatment === "as zero";
const asCounts = (line: GradeLine): Counts => ({
  id: line.columnId,
  points: exact(line.points ?? "0"),
  possible: exact(line.possible ?? "0"),
});

const extraOf = ({ lines }: Group): Exact =>
  sumOf(lines.filter((l) => l.treatment === "extra").map((l) => exact(l.points ?? "0")));

/** By points all categories are one quotient, and are looked at together; by weights each is its own. */
function whatIsDropped(rules: GradeRules, groups: readonly Group[]): Set<string> {
  const from = groups.map((group) => ({
    counts: group.lines.filter(isCounted).map(asCounts),
    drop: group.category.drop,
  }));
  const extra = groups.map(extraOf);
  if (rules.way === "points") return dropped(from, { points: sumOf(extra), possible: ZERO });
  return new Set(
    from.flatMap((one, n) => [...dropped([one], { points: extra[n]!, possible: ZERO })]),
  );
}

/** `extraPossible`: of a category that holds extra credit alone, which adds its weight above all others. */
type Summed = Group & { earned: Exact; possible: Exact; extraPossible: Exact };

function summed(group: Group): Summed {
  const counted = group.lines.filter(isCounted).map(asCounts);
  return {
    ...group,
    earned: sumOf(counted.map((c) => c.points)).add(extraOf(group)),
    possible: sumOf(counted.map((c) => c.possible)),
    extraPossible:
      counted.length > 0
        ? ZERO
        : sumOf(
            group.lines.filter((l) => l.treatment === "extra").map((l) => exact(l.possible ?? "0")),
          ),
  };
}

function byWeights(rules: GradeRules, groups: readonly Group[]): Grade {
  const all = groups.map(summed);
  const filled = all.filter(({ possible }) => !possible.equals(0));
  const weights = (of: readonly Summed[]) =>
    sumOf(of.map(({ category }) => exact(category.weight)));
  const weight = rules.emptyWeights === "spread" ? weights(filled) : weights(all);
  if (weight.equals(0) || filled.length === 0) return nothingYet(all);
  const bringing = all.filter(
    ({ possible, extraPossible }) => !possible.equals(0) || !extraPossible.equals(0),
  );
  const brings = bringing.map(({ earned, possible, extraPossible, category }) =>
    earned
      .div(possible.equals(0) ? extraPossible : possible)
      .mul(100)
      .mul(exact(category.weight))
      .div(weight),
  );
  const shown = shownParts(brings, rules.decimals + MORE_PLACES, rules);
  const said = new Map(bringing.map((one, n) => [one, shown.parts[n]!]));
  return finished(rules, sumOf(brings), {
    unrounded: shown.sum,
    parts: all.map((one) => partOf(one, rules, said.get(one) ?? null)),
    ofWeight: trimmed(sayRounded(weight, 3, "half up")),
  });
}

function byPoints(rules: GradeRules, groups: readonly Group[]): Grade {
  const all = groups.map(summed);
  const possible = sumOf(all.map((one) => one.possible));
  if (possible.equals(0)) return nothingYet(all);
  const percent = sumOf(all.map((one) => one.earned))
    .div(possible)
    .mul(100);
  return finished(rules, percent, {
    unrounded: shownParts([percent], rules.decimals + MORE_PLACES, rules).sum,
    parts: all.map((one) => partOf(one, rules, null)),
    ofWeight: "",
  });
}

function finished(
  rules: GradeRules,
  value: Exact,
  rest: Pick<Grade, "unrounded" | "parts" | "ofWeight">,
): Grade {
  const percent = sayRounded(value, rules.decimals, rules.round);
  // The name is that of the grade as it is read, so that 84.96 with one place is an 85.0 in both.
  const step = rules.scale.find(({ from }) => exact(percent).compare(exact(from)) >= 0);
  return { percent, name: step?.name ?? null, ...rest };
}

function nothingYet(all: readonly Summed[]): Grade {
  const parts = all.map((one) => partOf(one, { decimals: 0 }, null));
  return { percent: null, name: null, unrounded: null, parts, ofWeight: "" };
}

function partOf(
  one: Summed,
  { decimals }: Pick<GradeRules, "decimals">,
  brings: string | null,
): GradePart {
  const { category, lines, earned, possible } = one;
  const empty = possible.equals(0);
  const says = (value: Exact, places: number) => trimmed(sayRounded(value, places, "half up"));
  return {
    ...{ name: category.name, weight: trimmed(category.weight), lines, brings },
    earned: says(earned, 3),
    possible: says(possible, 3),
    percent: empty ? null : says(earned.div(possible).mul(100), decimals + MORE_PLACES),
  };
}
