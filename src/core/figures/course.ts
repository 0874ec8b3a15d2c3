import Big from "big.js";
import { mondayOf } from "../time/term";
import type { Day } from "../time/zone";

/** A piece as charts over a term take it: when it was due, what it earned, how it came in, what was asked of it. */
export type CoursePiece = {
  title: string;
  /** The day at the school on which it was due. */ on: Day;
  /** "" where it has none. */ category: string;
  /** What it earned and what was possible; null: not scored, or nothing possible. */
  earned: { points: string; possible: string } | null;
  late: boolean;
  missing: boolean;
  asked: number;
  settled: number;
};

export type CourseScore = { title: string; on: Day; percent: number };
export type CourseCategory = { category: string; pieces: number; percent: number };
export type CourseWeek = {
  monday: Day;
  pieces: number;
  late: number;
  missing: number;
  asked: number;
  settled: number;
};

/** Rounded to one decimal, half up; figures to look at, and not those of a grade. */
const shareOf = (points: Big, possible: Big): number =>
  points.div(possible).times(100).round(1, Big.roundHalfUp).toNumber();

type Scored = CoursePiece & { earned: { points: string; possible: string } };
const scored = (pieces: readonly CoursePiece[]): Scored[] =>
  pieces.filter((piece): piece is Scored =>
    Boolean(piece.earned && new Big(piece.earned.possible).gt(0)),
  );

/** What each piece earned of what was possible, in the order of their due days. */
export function scoresOver(pieces: readonly CoursePiece[]): CourseScore[] {
  return scored(pieces)
    .map(({ title, on, earned }) => ({
      ...{ title, on },
      percent: shareOf(new Big(earned.points), new Big(earned.possible)),
    }))
    .sort((a, b) => a.on.localeCompare(b.on) || a.title.localeCompare(b.title));
}

/** All points of a category of all that were possible there, in the order of names; what has no category comes last. */
export function categoriesOver(pieces: readonly CoursePiece[]): CourseCategory[] {
  const groups = grouped(scored(pieces), ({ category }) => category);
  const total = (of: readonly Scored[], key: "points" | "possible") =>
    of.reduce((sum, { earned }) => sum.plus(earned[key]), new Big(0));
  return [...groups]
    .map(([category, own]) => ({
      ...{ category, pieces: own.length },
      percent: shareOf(total(own, "points"), total(own, "possible")),
    }))
    .sort(
      (a, b) =>
        Number(a.category === "") - Number(b.category === "") ||
        a.category.localeCompare(b.category),
    );
}

/** By the week in which they were due, the first first: how many, late and missing, and what was asked and settled. */
export function weeksOver(pieces: readonly CoursePiece[]): CourseWeek[] {
  const count = (own: readonly CoursePiece[], key: "late" | "missing") =>
    own.filter((piece) => piece[key]).length;
  const sum = (own: readonly CoursePiece[], key: "asked" | "settled") =>
    own.reduce((all, piece) => all + piece[key], 0);
  return [...grouped(pieces, ({ on }) => mondayOf(on))]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([monday, own]) => ({
      ...{ monday, pieces: own.length },
      ...{ late: count(own, "late"), missing: count(own, "missing") },
      ...{ asked: sum(own, "asked"), settled: sum(own, "settled") },
    }));
}

function grouped<T>(all: readonly T[], keyOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const key = keyOf(one);
    const own = groups.get(key);
    if (own) own.push(one);
    else groups.set(key, [one]);
  }
  return groups;
}
