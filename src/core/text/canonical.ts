/**
 * JSON with its keys in order and no white space (the shape of RFC 8785 for the values that occur in
 * documents: strings, whole numbers, arrays and objects), so that one document has one digest.
 *
 * @example canonicalJson({ b: 1, a: "x" }) // {"a":"x","b":1}
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(",")}]`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  const entries = Object.entries(value).filter(([, v]) => v !== undefined);
  entries.sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([key, v]) => `${JSON.stringify(key)}:${canonicalJson(v)}`).join(",")}}`;
}
