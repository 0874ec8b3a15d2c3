import { shorten } from "../text/shorten";
import Big from "big.js";

export type ParsedScore =
  | {
      ok: true;
      points: string;
      /** Said beside the score where it needs a second look; empty otherwise. */ note: string;
    }
  | { ok: false; why: string };

/**
 * Understands a score as a teacher types it. Points are exact decimals with at most three places,
 * as text; a comma is read as the decimal point.
 *
 * `8` is points; `8/10` is points of another total, brought to this one; `85%` is a share of it.
 *
 * @param possible the points of the hand-out, as a decimal text
 * @example parseScore("8/10", "50") // { ok: true, points: "40", note: "" }
 * @example parseScore("85%", "20") // { ok: true, points: "17", note: "" }
 */
export function parseScore(typed: string, possible: string): ParsedScore {
  const text = typed
    .trim()
    .replace(/\s+/g, "")
    .replace(/(\d),(\d)/g, "$1.$2");
  const total = new Big(possible);
  const number = "(\\d{1,6}(?:\\.\\d+)?|\\.\\d+)";
  const share = new RegExp(`^${number}/${number}$`).exec(text);
  const percent = new RegExp(`^${number}%$`).exec(text);
  const plain = new RegExp(`^${number}$`).exec(text);
  if (share) {
    const of = new Big(share[2]!);
    if (of.eq(0)) return { ok: false, why: "A score out of nothing cannot be worked out." };
    return scored(new Big(share[1]!).times(total).div(of), total);
  }
  if (percent) return scored(new Big(percent[1]!).times(total).div(100), total);
  if (plain) return scored(new Big(plain[1]!), total);
  return {
    ok: false,
    why: `“${shorten(typed.trim(), 20)}” is not a score. Type points (8), points of a total (8/10) or a percentage (85%).`,
  };
}

function scored(points: Big, total: Big): ParsedScore {
  const rounded = points.round(3, Big.roundHalfUp);
  if (rounded.gt(total.times(2)))
    return {
      ok: false,
      why: `${rounded.toString()} is more than twice the ${total.toString()} possible points.`,
    };
  return {
    ok: true,
    points: rounded.toString(),
    note: rounded.gt(total) ? `More than the ${total.toString()} possible.` : "",
  };
}

/** @example sayScore("8.500", "10") // "8.5 / 10" */
export function sayScore(points: string, possible: string): string {
  return `${new Big(points).toString()} / ${new Big(possible).toString()}`;
}
