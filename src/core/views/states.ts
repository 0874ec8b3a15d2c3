import { pieces, type PieceWords } from "../language/messages/en/pieces";
import type { MoonView } from "./views";

/** The state of a piece in the words teachers and guardians read. */
export function sayState(
  { state, round, late, missing, excused }: MoonView,
  words: PieceWords = pieces,
): string {
  if (excused && (state === "not_opened" || state === "started")) return words.excused;
  const base = {
    not_opened: words.notOpened,
    started: words.started,
    handed_in: round > 1 ? words.handedInAgain : words.handedIn,
    handed_back: words.handedBack,
    to_revise: words.toRevise,
    reworking: words.reworking,
  }[state];
  const notes = [
    late ? words.late : "",
    missing ? words.missing : "",
    round > 1 ? words.round.replace("{number}", String(round)) : "",
  ].filter(Boolean);
  return notes.length ? `${base}, ${notes.join(", ")}` : base;
}
