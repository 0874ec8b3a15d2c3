/**
 * Text positions as the W3C Web Annotation Data Model writes them (Recommendation of 23 February
 * 2017): sections 4.2.4 TextQuoteSelector and 4.2.5 TextPositionSelector. Both count in Unicode code
 * points; ranges inside Almanac count in UTF-16 code units. This is the border between the two.
 */
export type Range = { start: number; end: number };

export type TextPositionSelector = { type: "TextPositionSelector"; start: number; end: number };
export type TextQuoteSelector = {
  type: "TextQuoteSelector";
  exact: string;
  prefix: string;
  suffix: string;
};

/** How much of the surroundings a quote carries, in code units: enough to tell repeated words apart. */
const CONTEXT = 32;

export function toSelectors(
  text: string,
  { start, end }: Range,
): [TextPositionSelector, TextQuoteSelector] {
  const codePoints = (upTo: number) => countCodePoints(text.slice(0, upTo));
  return [
    { type: "TextPositionSelector", start: codePoints(start), end: codePoints(end) },
    {
      type: "TextQuoteSelector",
      exact: text.slice(start, end),
      prefix: text.slice(snap(text, Math.max(0, start - CONTEXT)), start),
      suffix: text.slice(end, snap(text, Math.min(text.length, end + CONTEXT))),
    },
  ];
}

/**
 * Finds the range that selectors point at in this very text.
 *
 * The position is believed when the quoted words stand there; otherwise the quote is looked for with
 * its context, and the occurrence with most of the context around it wins (the nearest one if two do
 * equally well). Returns null when the words do not occur. To follow words into a *changed* text use
 * `marks/reattach`.
 */
export function fromSelectors(
  text: string,
  position: TextPositionSelector | null,
  quote: TextQuoteSelector | null,
): Range | null {
  const stated = position && {
    start: codeUnits(text, position.start),
    end: codeUnits(text, position.end),
  };
  if (!quote) return stated && isWithin(text, stated) ? stated : null;
  if (stated && text.slice(stated.start, stated.end) === quote.exact) return stated;
  return likeliest(text, quote, stated?.start ?? null);
}

const isWithin = (text: string, { start, end }: Range) => end <= text.length && start <= end;

/** Of all places where the quoted words stand the one with most of their context around it. */
function likeliest(text: string, quote: TextQuoteSelector, near: number | null): Range | null {
  let best: { range: Range; score: number; distance: number } | null = null;
  for (let at = text.indexOf(quote.exact); at !== -1; at = text.indexOf(quote.exact, at + 1)) {
    const range = { start: at, end: at + quote.exact.length };
    const score =
      commonEnd(text.slice(0, at), quote.prefix) + commonStart(text.slice(range.end), quote.suffix);
    const distance = near === null ? 0 : Math.abs(near - at);
    if (!best || score > best.score || (score === best.score && distance < best.distance))
      best = { range, score, distance };
    if (quote.exact === "") break;
  }
  return best?.range ?? null;
}

function countCodePoints(text: string): number {
  let count = 0;
  for (const _ of text) count += 1;
  return count;
}

function codeUnits(text: string, codePoints: number): number {
  let units = 0;
  for (const character of text) {
    if (codePoints-- <= 0) break;
    units += character.length;
  }
  return units;
}

/** Moves an offset off the middle of a surrogate pair. */
function snap(text: string, offset: number): number {
  const unit = text.charCodeAt(offset);
  return unit >= 0xdc00 && unit <= 0xdfff ? offset - 1 : offset;
}

function commonStart(a: string, b: string): number {
  let n = 0;
  while (n < a.length && n < b.length && a[n] === b[n]) n += 1;
  return n;
}

function commonEnd(a: string, b: string): number {
  let n = 0;
  while (n < a.length && n < b.length && a[a.length - 1 - n] === b[b.length - 1 - n]) n += 1;
  return n;
}
