import type { MoonView } from "./views";

/** The state of a piece in the words teachers and guardians read. */
export function sayState({ state, round, late, missing, excused }: MoonView): string {
  if (excused && (state === "not_opened" || state === "started")) return "excused";
  const base = {
    not_opened: "not opened",
    started: "started",
    handed_in: round > 1 ? "handed in again" : "handed in",
    handed_back: "handed back",
    to_revise: "back to revise",
    reworking: "reworking",
  }[state];
  const notes = [
    late ? "late" : "",
    missing ? "missing" : "",
    round > 1 ? `round ${round}` : "",
  ].filter(Boolean);
  return notes.length ? `${base}, ${notes.join(", ")}` : base;
}
