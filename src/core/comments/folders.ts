/** @example cleanFolder(" Letters //Openings/ ") // "Letters/Openings" */
export function cleanFolder(path: string): string {
  return path
    .split("/")
    .map((part) => part.trim())
    .filter(Boolean)
    .slice(0, 4)
    .join("/")
    .slice(0, 120);
}

/** Tags from a list, or from a text with commas. @example cleanTags("#verbs, verbs ,tone") // ["verbs", "tone"] */
export function cleanTags(input: unknown): string[] {
  const written = typeof input === "string" ? input.split(",") : [];
  const list = Array.isArray(input) ? input.map(String) : written;
  const clean = list.map((t) => t.trim().replace(/^#/, "").slice(0, 30)).filter(Boolean);
  return [...new Set(clean)].slice(0, 12);
}
