import { shorten } from "../text/shorten";
import Big from "big.js";
import { parseScore, sayScore, type ParsedScore } from "./parseScore";

/** How a piece is scored. Behind every kind but the last two stand points, so that a Ledger can add them up. */
export const SCORE_KINDS = [
  "points",
  "percent",
  "letters",
  "levels",
  "completion",
  "words",
  "none",
] as const;
export type ScoreKind = (typeof SCORE_KINDS)[number];

/** A step of a letter or level scale: its name, and the least share of the possible points (percent) that earns it. */
export type ScaleStep = { name: string; percent: string };

/** The step's own worth is its percentage; a typed percentage earns the highest step it reaches. Common practice, no source. */
export const LETTERS: readonly ScaleStep[] = [
  { name: "A+", percent: "97" },
  { name: "A", percent: "93" },
  { name: "A-", percent: "90" },
  { name: "B+", percent: "87" },
  { name: "B", percent: "83" },
  { name: "B-", percent: "80" },
  { name: "C+", percent: "77" },
  { name: "C", percent: "73" },
  { name: "C-", percent: "70" },
  { name: "D+", percent: "67" },
  { name: "D", percent: "63" },
  { name: "D-", percent: "60" },
  { name: "F", percent: "0" },
];
export const LEVELS: readonly ScaleStep[] = [
  { name: "secure and more", percent: "100" },
  { name: "secure", percent: "80" },
  { name: "nearly", percent: "60" },
  { name: "beginning", percent: "40" },
  { name: "no sign yet", percent: "0" },
];

/** How a hand-out is scored: `possible` is an exact decimal; null where nothing is counted. */
export type Scale = { kind: ScoreKind; possible: string | null; steps?: readonly ScaleStep[] };

export const isScored = (kind: ScoreKind): boolean => kind !== "words" && kind !== "none";
export const stepsOf = ({ kind, steps }: Scale): readonly ScaleStep[] =>
  steps ?? (kind === "letters" ? LETTERS : LEVELS);

export type ReadScore = ParsedScore & {
  /** As it is shown: `B+`, `secure`, `complete`, `8 / 10`, `85 %`. */ shown?: string;
};

/**
 * Understands what a teacher types, whatever the kind: points and shares everywhere, and the scale's
 * own words where it has them.
 *
 * @example readScore("b+", { kind: "letters", possible: "20" }) // points "17.4", shown "B+"
 * @example readScore("inc", { kind: "completion", possible: "5" }) // points "0", shown "incomplete"
 */
export function readScore(typed: string, scale: Scale): ReadScore {
  const { kind } = scale;
  const possible = scale.possible ?? "100";
  if (kind === "words" || kind === "none")
    return { ok: false, why: "This work is not scored: it gets words only." };
  if (kind === "completion") return readCompletion(typed, possible);
  if (kind === "letters" || kind === "levels") return readStep(typed, scale, possible);
  const parsed = parseScore(
    kind === "percent" && /^[\d.,\s]+$/.test(typed) ? `${typed.trim()}%` : typed,
    possible,
  );
  return parsed.ok
    ? { ...parsed, shown: sayPoints(parsed.points, { ...scale, possible }) }
    : parsed;
}

function readCompletion(typed: string, possible: string): ReadScore {
  const word = typed.trim().toLowerCase();
  if (/^(complete|comp?|c|✓|x|done|yes|y)$/.test(word))
    return { ok: true, points: new Big(possible).toString(), note: "", shown: "complete" };
  if (/^(incomplete|inc|i|no|n)$/.test(word))
    return { ok: true, points: "0", note: "", shown: "incomplete" };
  return {
    ok: false,
    why: `“${shorten(typed.trim(), 20)}” is neither complete (c) nor incomplete (inc).`,
  };
}

function readStep(typed: string, scale: Scale, possible: string): ReadScore {
  const steps = stepsOf(scale);
  const word = typed.trim().toLowerCase().replace(/[−–]/g, "-").replace(/\s+/g, " ");
  const exact = steps.find((s) => s.name.toLowerCase() === word);
  const begins =
    scale.kind === "levels"
      ? steps.filter((s) => word !== "" && s.name.toLowerCase().startsWith(word))
      : [];
  const step = exact ?? (begins.length === 1 ? begins[0] : undefined);
  if (step)
    return {
      ok: true,
      points: new Big(possible).times(step.percent).div(100).round(3, Big.roundHalfUp).toString(),
      note: "",
      shown: step.name,
    };
  const parsed = parseScore(typed, possible);
  if (parsed.ok) return { ...parsed, shown: stepFor(parsed.points, possible, steps) };
  return {
    ok: false,
    why: `“${shorten(typed.trim(), 20)}” is not on this scale: ${steps.map((s) => s.name).join(", ")}.`,
  };
}

/** The highest step whose percentage the points reach. */
function stepFor(points: string, possible: string, steps: readonly ScaleStep[]): string {
  const percent = new Big(points).times(100).div(possible);
  const reached = [...steps]
    .sort((a, b) => Number(b.percent) - Number(a.percent))
    .find((s) => percent.gte(s.percent));
  return (reached ?? steps.at(-1)!).name;
}

/**
 * Points as this scale shows them; used where points were worked out (after a deduction, over rounds).
 *
 * @example sayPoints("17.4", { kind: "letters", possible: "20" }) // "B+"
 */
export function sayPoints(points: string, scale: Scale): string {
  const possible = scale.possible ?? "100";
  switch (scale.kind) {
    case "percent":
      return `${new Big(points).times(100).div(possible).round(1, Big.roundHalfUp).toString()} %`;
    case "letters":
    case "levels":
      return stepFor(points, possible, stepsOf(scale));
    case "completion":
      return new Big(points).gt(0) ? "complete" : "incomplete";
    default:
      return sayScore(points, possible);
  }
}
