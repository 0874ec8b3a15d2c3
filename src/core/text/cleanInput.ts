/** Nothing that is sent is nested deeper: a document is, at most, half as deep. */
const DEEPEST = 64;

/**
 * Text as the database and every reader can hold it: without NUL, which PostgreSQL does not store, and without
 * halves of surrogate pairs, which are no characters (both come from programs, not from people).
 *
 * @example cleanText("a\u0000b\ud800") // "ab\ufffd"
 */
export const cleanText = (text: string): string =>
  text.replace(
    /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
    (sign) => (sign === "\u0000" ? "" : "\ufffd"),
  );

/**
 * The same for everything in a JSON value, names of fields too.
 *
 * @returns null where it is nested deeper than anything that is sent
 */
export function cleanInput(input: unknown): { value: unknown } | null {
  try {
    return { value: clean(input, 0) };
  } catch (error) {
    if (error instanceof TooDeep) return null;
    throw error;
  }
}

class TooDeep extends Error {}

function clean(value: unknown, depth: number): unknown {
  if (typeof value === "string") return cleanText(value);
  if (typeof value !== "object" || value === null) return value;
  if (depth > DEEPEST) throw new TooDeep();
  if (Array.isArray(value)) return value.map((item) => clean(item, depth + 1));
  return Object.fromEntries(
    Object.entries(value).map(([name, item]) => [cleanText(name), clean(item, depth + 1)]),
  );
}
