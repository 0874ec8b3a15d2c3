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

/** Placeholders still unfilled. @example unfilled("Dear {name}, {foo}") // ["{name}"] */
export function unfilled(text: string): string[] {
  return [...text.matchAll(/\{([a-z]+)\}/gi)].map((m) => m[0]).filter((written) => KNOWN.some((known) => `{${known}}` === written.toLowerCase()));
}
