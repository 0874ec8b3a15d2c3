import type { alignmentOf } from "../text/kept";
import type { Range } from "../text/selectors";

type Alignment = Pick<ReturnType<typeof alignmentOf>, "beforeTokens" | "afterTokens" | "toAfter">;

/** A witness further away than this (in words) says nothing of the place any more. */
const FURTHEST = 40;
/** More words than this are no place but another text. */
const LONGEST = 60;

/**
 * Where the words of a mark were, when they are gone: what stands now between the nearest words before and behind them
 * that are still there. A place to offer, never to put a mark on by itself. Null where nothing stands there, or where
 * what was around the mark went to different places.
 *
 * @example likelyPlace(align("I saw a grey cloud there.", "I saw two gulls there."), { start: 6, end: 18 }) // "two gulls"
 */
export function likelyPlace(alignment: Alignment, range: Range): Range | null {
  const { beforeTokens, afterTokens, toAfter } = alignment;
  const own = beforeTokens.flatMap((token, n) =>
    token.end > range.start && token.start < range.end ? [n] : [],
  );
  if (own.length === 0) return null;
  const left = witness(toAfter, own[0]! - 1, -1);
  const right = witness(toAfter, own.at(-1)! + 1, 1);
  // At an edge of the text the edge itself is the witness.
  const from = left === null ? edge(own[0]! === 0, 0) : left + 1;
  const until =
    right === null
      ? edge(own.at(-1)! === beforeTokens.length - 1, afterTokens.length - 1)
      : right - 1;
  if (from === null || until === null || until < from || until - from >= LONGEST) return null;
  return { start: afterTokens[from]!.start, end: afterTokens[until]!.end };
}

const edge = (isThere: boolean, at: number): number | null => (isThere ? at : null);

/** Where the nearest surviving word went, looking one way. */
function witness(toAfter: ArrayLike<number>, from: number, step: 1 | -1): number | null {
  for (let n = from, tried = 0; n >= 0 && n < toAfter.length && tried < FURTHEST; n += step) {
    if (toAfter[n] !== -1) return toAfter[n]!;
    tried += 1;
  }
  return null;
}

const AROUND = 90;

/** The words around a range in its paragraph, for one that is shown without its text. */
export function around(text: string, { start, end }: Range): { left: string; right: string } {
  const opens = text.lastIndexOf("\n", start - 1) + 1;
  const closes = text.indexOf("\n", end);
  const left = text.slice(Math.max(opens, start - AROUND), start);
  const right = text.slice(end, Math.min(closes < 0 ? text.length : closes, end + AROUND));
  return {
    left: start - AROUND > opens ? `…${left}` : left,
    right: (closes < 0 ? text.length : closes) > end + AROUND ? `${right}…` : right,
  };
}
