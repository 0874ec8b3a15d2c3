export type PlaceholderValues = { name?: string; title?: string; due?: string; score?: string };

const KNOWN = ["name", "title", "due", "score"] as const;

/**
 * Fills `{name}`, `{title}`, `{due}` and `{score}`. A placeholder that is unknown, or whose value is
 * not there, stays as it is written, so that the teacher sees it and nothing is said by accident.
 *
 * @example fillPlaceholders("Read it aloud, {name}.", { name: "Ines" }) // "Read it aloud, Ines."
 */
export function fillPlaceholders(text: string, values: PlaceholderValues): string {
  return text.replace(/\{([a-z]+)\}/gi, (written, word: string) => {
    const key = KNOWN.find((known) => known === word.toLowerCase());
    return (key && values[key]) || written;
  });
}

/** A place in a comment that waits for the teacher: a choice `{first|second}`, or a blank `{…}` (also `{...}`). */
export type Slot = { start: number; end: number; /** Null: a blank. */ choices: string[] | null };

/** @example slotsOf("Is it {rain|snow}? {…}") // a choice at 6, a blank at 19 */
export function slotsOf(text: string): Slot[] {
  return [...text.matchAll(/\{(?:…|\.\.\.|([^{}\n|]*(?:\|[^{}\n|]*)+))\}/gu)].map((found) => ({
    start: found.index,
    end: found.index + found[0].length,
    choices: found[1] === undefined ? null : found[1].split("|").map((c) => c.trim()),
  }));
}

/** The first slot at or behind an offset, or else the first of all. */
export function nextSlot(text: string, from: number): Slot | null {
  const slots = slotsOf(text);
  return slots.find((s) => s.end > from) ?? slots[0] ?? null;
}

/** Everything in a comment that is not said yet: placeholders without their value, and open slots. @example unfilled("Dear {name}, {a|b} {foo}") // ["{name}", "{a|b}"] */
export function unfilled(text: string): string[] {
  const named = [...text.matchAll(/\{([a-z]+)\}/gi)]
    .filter((m) => KNOWN.some((known) => `{${known}}` === m[0].toLowerCase()))
    .map((m) => ({ at: m.index, written: m[0] }));
  const slots = slotsOf(text).map((s) => ({ at: s.start, written: text.slice(s.start, s.end) }));
  return [...named, ...slots].sort((a, b) => a.at - b.at).map((w) => w.written);
}
