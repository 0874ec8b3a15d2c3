import { align, indicesIn, type Alignment } from "./align";
import { longestRising } from "./inOrder";
import type { Range } from "./selectors";
import { lineRanges, type Token } from "./tokens";

/** A run of words and what became of them. */
export type Change = { kind: "same" | "inserted" | "deleted"; text: string };

/** One line of the comparison: a line of the later text, or one of the earlier that is no longer there. */
export type ComparedLine = {
  kind: "same" | "changed" | "inserted" | "deleted" | "moved";
  changes: Change[];
  /** Where the line stands in the later text; for a deleted line, where it would stand. */
  at: number;
};

export type Comparison = {
  lines: ComparedLine[];
  wordsInserted: number;
  wordsDeleted: number;
  /** Some passage was too large and too much changed to be compared word by word, and stands as written anew. */
  coarse?: true;
};

/**
 * What changed from one text to the next, line by line and word by word, for people to read.
 *
 * Follows the pairing of `align`: a line that moved is shown once, at its new place, as moved; words
 * that left a line are shown deleted where they stood. Joining all that is not deleted gives the
 * words of the later text in order.
 */
export function compareTexts(before: string, after: string): Comparison {
  return compareAligned(align(before, after), before, after);
}

/** The same for texts that are aligned already. */
export function compareAligned(alignment: Alignment, before: string, after: string): Comparison {
  const [earlier, later] = [lineRanges(before), lineRanges(after)];
  const home = homes(alignment, later);
  const texts = { alignment, before, after };
  const lines: ComparedLine[] = later.map((line) =>
    compareLine(texts, line, home.partners.get(line.start), home.moved.has(line.start)),
  );
  // A line that is gone is shown behind the last one before it that kept its place.
  let at = -1;
  for (const line of earlier) {
    const kept = home.earlierKept.get(line.start);
    if (kept === undefined)
      lines.push({
        kind: "deleted",
        changes: [{ kind: "deleted", text: before.slice(line.start, line.end) }],
        at,
      });
    else if (!home.moved.has(kept)) at = kept + 0.5;
  }
  const taken = (line: ComparedLine) => (line.kind === "deleted" ? 0 : 1);
  lines.sort((a, b) => a.at - b.at || taken(a) - taken(b));
  const count = (map: Int32Array, tokens: Token[]) =>
    tokens.filter((t, n) => map[n] === -1 && /[\p{L}\p{N}]/u.test(t.text)).length;
  return {
    lines,
    wordsInserted: count(alignment.toBefore, alignment.afterTokens),
    wordsDeleted: count(alignment.toAfter, alignment.beforeTokens),
    ...(alignment.coarse ? { coarse: true as const } : {}),
  };
}

/** Which line of the earlier text each of the later one comes from, and which of them have moved. */
function homes({ stretches }: Alignment, later: Range[]) {
  const earlierKept = new Map<number, number>();
  const partners = new Map<number, Range[]>();
  for (const { before, after } of stretches) {
    after.forEach((line, n) => partners.set(line.start, n === 0 ? before : []));
    before.forEach((line) => earlierKept.set(line.start, after[0]!.start));
  }
  // Lines keep their order along the longest run that does; those outside it have moved.
  const inOrder = later
    .filter((line) => partners.get(line.start)?.length)
    .map((line) => ({ line, from: partners.get(line.start)![0]!.start }));
  const steady = new Set(longestRising(inOrder.map((x) => x.from)));
  const moved = new Set(inOrder.filter((_, n) => !steady.has(n)).map((x) => x.line.start));
  return { earlierKept, moved, partners };
}

type Texts = { alignment: Alignment; before: string; after: string };

function compareLine(
  texts: Texts,
  line: Range,
  partners: Range[] | undefined,
  moved: boolean,
): ComparedLine {
  const whole = texts.after.slice(line.start, line.end);
  if (!partners)
    return { kind: "inserted", changes: [{ kind: "inserted", text: whole }], at: line.start };
  const changes = changesOf(texts, line, partners);
  if (moved) return { kind: "moved", changes, at: line.start };
  const touched = changes.some((c) => c.kind !== "same");
  return { kind: touched ? "changed" : "same", changes, at: line.start };
}

/** A line of the later text with the words of its partners in the earlier one that are gone, where they stood. */
function changesOf({ alignment, before, after }: Texts, line: Range, partners: Range[]): Change[] {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const changes: Change[] = [];
  const push = (kind: Change["kind"], text: string) => {
    if (text === "") return;
    const last = changes.at(-1);
    if (last?.kind === kind) last.text += text;
    else changes.push({ kind, text });
  };
  const left = indicesIn(beforeTokens, partners);
  const leftSet = new Set(left);
  let next = 0;
  /** Words that have no counterpart are shown before the one that stood behind them. */
  const departedBefore = (source: number): string[] => {
    const from = next;
    while (next < left.length && left[next]! < source) next += 1;
    const departed = left.slice(from, next).filter((n) => toAfter[n] === -1);
    if (left[next] === source) next += 1;
    return runsOf(departed, beforeTokens, before);
  };
  let written = line.start;
  for (const n of indicesIn(afterTokens, [line])) {
    const token = afterTokens[n]!;
    const source = toBefore[n]!;
    const space = after.slice(written, token.start);
    written = token.end;
    if (!leftSet.has(source)) {
      push(source === -1 ? "inserted" : "same", space + token.text);
      continue;
    }
    push("same", space);
    for (const text of departedBefore(source))
      push("deleted", text.endsWith(" ") ? text : `${text} `);
    const was = beforeTokens[source]!.text;
    if (was !== token.text) push("deleted", was);
    push(was === token.text ? "same" : "inserted", token.text);
  }
  const rest = left.slice(next).filter((n) => toAfter[n] === -1);
  for (const text of runsOf(rest, beforeTokens, before)) push("deleted", ` ${text}`);
  push("same", after.slice(written, line.end));
  return changes;
}

/** Neighbouring tokens as they were written, each run with the spaces inside it. */
function runsOf(indices: number[], tokens: Token[], text: string): string[] {
  const runs: [number, number][] = [];
  for (const n of indices) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  return runs.map(([a, b]) => text.slice(tokens[a]!.start, tokens[b]!.end));
}
