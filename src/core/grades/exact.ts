import Fraction from "fraction.js";

/** Exact numbers: every sum of a grade is one of fractions, and is rounded once. */
export type Exact = Fraction;

export const exact = (value: string | number | bigint): Exact => new Fraction(value);
export const ZERO: Exact = new Fraction(0);

/** Their sum. Brought over one denominator and reduced once: a term has hundreds of scores for each student. */
export function sumOf(values: readonly Exact[]): Exact {
  let [n, d] = [0n, 1n];
  for (const value of values) {
    if (d % value.d !== 0n) [n, d] = [n * value.d, d * value.d];
    n += value.s * value.n * (d / value.d);
  }
  return new Fraction(n, d);
}

export type Rounding = "half up" | "half even";

/** So many whole units of the last place; 10 to the power of places. */
const unitsIn = (places: number): Exact => new Fraction(10n ** BigInt(places));

/**
 * A number as decimal text, rounded to so many places: halves go up, or to the even neighbour. Never negative here.
 *
 * @example sayRounded(exact("85.25"), 1, "half even") // "85.2"
 */
export function sayRounded(value: Exact, places: number, how: Rounding): string {
  const scaled = value.mul(unitsIn(places));
  const floor = scaled.floor();
  const half = scaled.sub(floor).compare(new Fraction(1, 2));
  const isOdd = floor.n % 2n === 1n;
  const up = half > 0 || (half === 0 && (how === "half up" || isOdd));
  return sayUnits(up ? floor.add(1).n : floor.n, places);
}

function sayUnits(units: bigint, places: number): string {
  if (places === 0) return String(units);
  const digits = String(units).padStart(places + 1, "0");
  return `${digits.slice(0, -places)}.${digits.slice(-places)}`;
}

/**
 * Parts of a sum as decimal texts that add up to the text of their sum, as one adds them with a pencil. Each is cut off
 * and what is left over is given to those that lost most by it (largest remainders).
 *
 * @returns the parts and their sum, with so many places; the sum, rounded further, is rounded as the exact one
 */
export function shownParts(
  parts: readonly Exact[],
  places: number,
  final: { decimals: number; round: Rounding },
): { parts: string[]; sum: string } {
  const units = unitsIn(places);
  const scaled = parts.map((part) => part.mul(units));
  const total = sumOf(scaled);
  const cut = total.floor();
  const inFull = sayRounded(total.div(units), final.decimals, final.round);
  // Cut off, a sum just above a half can look like the half itself.
  const same = sayRounded(cut.div(units), final.decimals, final.round) === inFull;
  const sum = same ? cut : cut.add(1);
  const floors = scaled.map((part) => part.floor());
  let left = Number(sum.sub(sumOf(floors)).n);
  const order = scaled
    .map((part, n) => ({ n, lost: part.sub(floors[n]!) }))
    .sort((a, b) => b.lost.compare(a.lost) || a.n - b.n);
  const given = new Set(order.slice(0, left).map(({ n }) => n));
  left -= given.size;
  return {
    parts: floors.map((part, n) =>
      sayUnits(part.n + (given.has(n) ? 1n : 0n) + (n === 0 ? BigInt(left) : 0n), places),
    ),
    sum: sayUnits(sum.n, places),
  };
}
