import type { PieceFlag, Sign } from "../pieces/flags";
import { readScore, type Scale } from "../scores/scales";

/** What a teacher can type into a cell of the Ledger: a score as typed, one flag, excused or not. */
export type CellWork = { score: string; flag: PieceFlag | null; excused: boolean };

export const EMPTY_CELL: CellWork = { score: "", flag: null, excused: false };

export const sameCell = (a: CellWork, b: CellWork): boolean =>
  a.score === b.score && a.flag === b.flag && a.excused === b.excused;

/**
 * What a cell becomes when it was changed from `was` to `now` here, and stands as `stored` there: each of its three
 * things by itself, since a flag of one teacher and a score of another are no conflict. Null: both changed the same thing
 * to something else.
 */
export function mergeCell(was: CellWork, now: CellWork, stored: CellWork): CellWork | null {
  const collides = (key: keyof CellWork) =>
    was[key] !== now[key] && stored[key] !== was[key] && stored[key] !== now[key];
  const merged = <K extends keyof CellWork>(key: K) => (was[key] === now[key] ? stored : now)[key];
  if (collides("score") || collides("flag") || collides("excused")) return null;
  return { score: merged("score"), flag: merged("flag"), excused: merged("excused") };
}

export type ReadCell =
  | {
      ok: true;
      work: CellWork;
      /** Said beside the cell where it wants a second look ("More than the 10 possible."). */ note: string;
    }
  | { ok: false; why: string };

/** Words for flags, as they are typed: whole, or as short as they are told apart. Common practice, no source. */
const FLAG_WORDS: Readonly<Record<Sign, readonly string[]>> = {
  late: ["late", "l"],
  "on time": ["on time", "ontime", "ot"],
  missing: ["missing", "mis", "m"],
  away: ["away", "aw"],
  unfinished: ["unfinished", "unf", "inc"],
  "on paper": ["on paper", "paper", "pap"],
  excused: ["excused", "exc", "ex"],
};

/** The longest text a cell takes; a score is never as long. */
export const LONGEST_TYPED = 40;

/** So many cells go in one request; each is a few short statements. */
export const MOST_CELLS = 40;

function flagOf(word: string): Sign | null {
  const found = Object.entries(FLAG_WORDS).find(([, words]) => words.includes(word));
  return found ? (found[0] as Sign) : null;
}

/**
 * Understands what is typed into a cell: a score in any way its scale reads, or a word for a flag; the scale's own words
 * come first ("inc" is incomplete where work is complete or not, else unfinished). Nothing empties the cell.
 *
 * A score takes the place of excused and missing, which say that there is none; other flags stay beside it.
 *
 * @example readCell("8/10", { kind: "points", possible: "20" }, EMPTY_CELL) // work.score "8/10"
 */
export function readCell(typed: string, scale: Scale, before: CellWork): ReadCell {
  const text = typed.trim();
  if (text === "") return { ok: true, work: EMPTY_CELL, note: "" };
  if (text.length > LONGEST_TYPED)
    return { ok: false, why: `“${text.slice(0, 20)}…” is too long for a score.` };
  const read = readScore(text, scale);
  if (read.ok) {
    const flag = before.flag === "missing" ? null : before.flag;
    return { ok: true, work: { score: text, flag, excused: false }, note: read.note };
  }
  const flag = flagOf(text.toLowerCase().replace(/\s+/g, " "));
  if (flag !== null) return { ok: true, work: withFlag(before, flag), note: "" };
  return { ok: false, why: `${read.why} Or a flag: late, m, ex, away, unf, paper.` };
}

/** The cell with a flag set; what is excused or missing has no other flag beside it. */
export function withFlag(before: CellWork, flag: Sign | null): CellWork {
  if (flag === "excused") return { ...before, flag: null, excused: true };
  if (flag === null) return { ...before, flag: null, excused: false };
  return { ...before, flag, excused: false };
}

/** The text that stands in a cell when it is opened for typing, and that is copied from it. */
export function cellText({ score, flag, excused }: CellWork): string {
  if (score !== "") return score;
  return excused ? "ex" : (flag ?? "");
}
