import { sumOf, ZERO, type Exact } from "./exact";

/** Points of something that counts, as exact numbers; `possible` is above nought. */
export type Counts = { id: string; points: Exact; possible: Exact };

/** Pieces of one category, of which `drop` go. */
export type DropFrom = { counts: readonly Counts[]; drop: number };

/** At least one stays: what nothing counts of is no grade. */
const kept = ({ counts, drop }: DropFrom): number =>
  Math.max(Math.min(1, counts.length), counts.length - drop);

/**
 * Which to leave out so that the quotient of all points by all possible points is the highest. That is not always the
 * lowest percents: a small quiz with nothing in it costs less than a poor long paper (D. M. Kane and J. M. Kane,
 * "Dropping Lowest Grades", Mathematics Magazine 79, 2006). By Dinkelbach's method ("On Nonlinear Fractional
 * Programming", Management Science 13, 1967): those with the best points − q·possible for the quotient q reached so far
 * stay, until q no longer rises. Of equals the one with the smaller id stays, so that the order of columns says nothing.
 *
 * @param more points and possible points that stay whatever is dropped
 * @returns the ids of what is dropped
 */
export function dropped(
  groups: readonly DropFrom[],
  more: { points: Exact; possible: Exact } = { points: ZERO, possible: ZERO },
): Set<string> {
  if (groups.every(({ drop }) => drop === 0)) return new Set();
  let staying = groups.map((group) => group.counts.slice(0, kept(group)));
  for (let q = quotient(staying, more); q !== null;) {
    const best = groups.map((group) => bestOf(group, q!));
    const next = quotient(best, more);
    if (next === null || next.compare(q) <= 0) {
      staying = best;
      break;
    }
    staying = best;
    q = next;
  }
  const stay = new Set(staying.flat().map(({ id }) => id));
  return new Set(
    groups.flatMap(({ counts }) => counts.map(({ id }) => id).filter((id) => !stay.has(id))),
  );
}

function bestOf(group: DropFrom, q: Exact): Counts[] {
  const worth = (one: Counts) => one.points.sub(q.mul(one.possible));
  return [...group.counts]
    .sort((a, b) => worth(b).compare(worth(a)) || (a.id < b.id ? -1 : 1))
    .slice(0, kept(group));
}

function quotient(
  staying: readonly (readonly Counts[])[],
  more: { points: Exact; possible: Exact },
): Exact | null {
  const all = staying.flat();
  const possible = sumOf(all.map((one) => one.possible)).add(more.possible);
  return possible.equals(0)
    ? null
    : sumOf(all.map((one) => one.points))
        .add(more.points)
        .div(possible);
}
