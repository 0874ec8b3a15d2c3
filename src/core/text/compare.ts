import { align, type Alignment } from "./aligning/align";
import { lineGroups, type LineGroup } from "./lineGroups";
import { longestRising } from "./aligning/inOrder";
import { indicesIn, joinedWith } from "./aligning/indices";
import { countWords } from "./plainText";
import type { Range } from "./selectors";
import { lineRanges, type Token } from "./tokens";

/** A run of words and what became of them. */
export type Change = { kind: "same" | "inserted" | "deleted" | "moved"; text: string };

/** One line of the comparison: a line of the later text, or one of the earlier that is no longer there. */
export type ComparedLine = {
  /** `merged`: several lines became this one; `split`: it was one with the line it is listed behind. */
  kind: "same" | "changed" | "inserted" | "deleted" | "moved" | "merged" | "split";
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
 * Follows the pairing of `align`: a line that moved is shown once, at its new place, as moved, and so are
 * words that moved inside a line or came from another; words that left a line are shown deleted where they
 * stood. Joining all that is not deleted gives the words of the later text in order.
 */
export function compareTexts(before: string, after: string): Comparison {
  return compareAligned(align(before, after), before, after);
}

/** The same for texts that are aligned already. */
export function compareAligned(alignment: Alignment, before: string, after: string): Comparison {
  const [earlier, later] = [lineRanges(before), lineRanges(after)];
  const groups = lineGroups(alignment, earlier, later);
  const moved = movedGroups(groups);
  const texts = { alignment, before, after };
  const lines = groups.flatMap((group) =>
    compareGroup(texts, group).map((changes, n): ComparedLine => {
      const kind = kindOf(group, n, { moved: moved.has(group), changes });
      return { kind, changes, at: group.after[n]!.start };
    }),
  );
  const taken = new Set(groups.flatMap((group) => group.after));
  const fresh = later.filter((line) => !taken.has(line));
  for (const line of fresh)
    lines.push({ kind: "inserted", changes: [written(texts, line)], at: line.start });
  const places = placesOfGone(later, new Set(fresh));
  lines.push(...deletedLines({ text: before, earlier, groups, moved, places }));
  const rank = (line: ComparedLine) => (line.kind === "deleted" ? 0 : 1);
  lines.sort((a, b) => a.at - b.at || rank(a) - rank(b));
  return {
    lines,
    wordsInserted: wordsWithout(alignment.toBefore, alignment.afterTokens, after),
    wordsDeleted: wordsWithout(alignment.toAfter, alignment.beforeTokens, before),
    ...(alignment.coarse ? { coarse: true as const } : {}),
  };
}

/** Words without a counterpart, as a reader counts words. */
function wordsWithout(map: Int32Array, tokens: readonly Token[], text: string): number {
  const alone = [...tokens.keys()].filter((n) => map[n] === -1);
  return runsOf(alone, tokens, text).reduce((sum, run) => sum + countWords(run), 0);
}

/** Groups keep their order along the longest run that does; those outside it have moved. */
function movedGroups(groups: readonly LineGroup[]): Set<LineGroup> {
  const steady = new Set(longestRising(groups.map((group) => group.before[0]!.start)));
  return new Set(groups.filter((_, n) => !steady.has(n)));
}

function kindOf(
  { before, after }: LineGroup,
  n: number,
  { moved, changes }: { moved: boolean; changes: readonly Change[] },
): ComparedLine["kind"] {
  if (moved && n === 0) return "moved";
  if (before.length === 1 && n > 0) return "split";
  if (before.length > 1 && after.length === 1) return "merged";
  return changes.some((change) => change.kind !== "same") ? "changed" : "same";
}

type Gone = {
  text: string;
  earlier: readonly Range[];
  groups: readonly LineGroup[];
  moved: ReadonlySet<LineGroup>;
  places: (kept: Range | null, nth: number) => number;
};

/** A line that is gone is shown behind the last one before it that kept its place. */
function deletedLines({ text, earlier, groups, moved, places }: Gone): ComparedLine[] {
  const groupOf = new Map(groups.flatMap((group) => group.before.map((line) => [line, group])));
  let kept: Range | null = null;
  let nth = 0;
  return earlier.flatMap((line): ComparedLine[] => {
    const group = groupOf.get(line);
    if (group && !moved.has(group)) [kept, nth] = [group.after.at(-1)!, 0];
    if (group) return [];
    const changes: Change[] = [{ kind: "deleted", text: text.slice(line.start, line.end) }];
    return [{ kind: "deleted", changes, at: places(kept, nth++) }];
  });
}

/**
 * Where the nth line that is gone behind one that stayed is shown: before the nth line that was put in there, since
 * it most often took its place (a cell that was corrected), or behind the last of them.
 */
function placesOfGone(later: readonly Range[], fresh: ReadonlySet<Range>): Gone["places"] {
  const numberOf = new Map(later.map((line, n) => [line, n]));
  return (kept, nth) => {
    let at = kept ? numberOf.get(kept)! + 1 : 0;
    const first = at;
    while (at < later.length && fresh.has(later[at]!) && at - first < nth) at += 1;
    const here = later[at];
    if (here && fresh.has(here) && at - first === nth) return here.start - 0.5;
    return at === 0 ? -1 : later[at - 1]!.start + 0.5;
  };
}

type Texts = { alignment: Alignment; before: string; after: string };

const written = ({ after }: Texts, { start, end }: Range): Change => ({
  kind: "inserted",
  text: after.slice(start, end),
});

/** The later lines of a group with the words of its earlier ones that are gone, where they stood. */
function compareGroup(texts: Texts, group: LineGroup): Change[][] {
  const { alignment, before, after } = texts;
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const left = indicesIn(beforeTokens, group.before);
  const own = indicesIn(afterTokens, group.after);
  const steady = steadyWords(left, own, toBefore);
  let next = 0;
  /** Words that have no counterpart are shown before the one that stood behind them. */
  const departedUpTo = (source: number): string[] => {
    const from = next;
    while (next < left.length && left[next]! <= source) next += 1;
    const departed = left.slice(from, next).filter((n) => toAfter[n] === -1);
    return runsOf(departed, beforeTokens, before, "with the space behind");
  };
  const lines = group.after.map((line) => {
    const changes = new Changes();
    let at = line.start;
    for (const n of indicesIn(afterTokens, [line])) {
      const token = afterTokens[n]!;
      const space = after.slice(at, token.start);
      at = token.end;
      if (toBefore[n] === -1) changes.push("inserted", space + token.text);
      else if (!steady.has(n)) changes.push("moved", space + token.text);
      else {
        changes.push("same", space);
        for (const gone of departedUpTo(toBefore[n]! - 1)) changes.push("deleted", gone);
        for (const [kind, text] of mending(texts, n)) changes.push(kind, text);
        departedUpTo(toBefore[n]!);
      }
    }
    changes.push("same", after.slice(at, line.end));
    return changes;
  });
  for (const gone of departedUpTo(Infinity)) lines.at(-1)!.push("deleted", ` ${gone.trim()}`);
  return lines.map((changes) => changes.list);
}

/** The words of the later lines that stand in the order they stood in; the others of them have moved. */
function steadyWords(
  left: readonly number[],
  own: readonly number[],
  toBefore: Int32Array,
): Set<number> {
  const home = new Set(left);
  const linked = own.filter((n) => home.has(toBefore[n]!));
  // Two words that were one come from the same place, which is no step back.
  const places = linked.map((n, k) => toBefore[n]! + k / (linked.length + 1));
  return new Set(longestRising(places).map((k) => linked[k]!));
}

/** A word that stayed: as it is, or as it was and as it is. Other signs of one letter are no change to a reader. */
function mending({ alignment, before }: Texts, n: number): [Change["kind"], string][] {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const token = afterTokens[n]!;
  const source = toBefore[n]!;
  const again = n > 0 && toBefore[n - 1] === source;
  // Of words that were joined all are shown as they were.
  const { first, last } = joinedWith(toAfter, source);
  const was = before.slice(beforeTokens[first]!.start, beforeTokens[last]!.end);
  if (was.normalize("NFC") === token.text.normalize("NFC")) return [["same", token.text]];
  return again
    ? [["inserted", token.text]]
    : [
        ["deleted", was],
        ["inserted", token.text],
      ];
}

class Changes {
  readonly list: Change[] = [];
  push(kind: Change["kind"], text: string): void {
    if (text === "") return;
    const last = this.list.at(-1);
    if (last?.kind === kind) last.text += text;
    else this.list.push({ kind, text });
  }
}

/** Neighbouring tokens as they were written, each run with the spaces inside it. */
function runsOf(
  indices: readonly number[],
  tokens: readonly Token[],
  text: string,
  space?: "with the space behind",
): string[] {
  const runs: [number, number][] = [];
  for (const n of indices) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  return runs.map(([a, b]) => {
    const end = tokens[b]!.end;
    return text.slice(tokens[a]!.start, space && text[end] === " " ? end + 1 : end);
  });
}
