import type { Range } from "../text/selectors";
import type { Edit } from "./mark";

/** One change to a text: the words between `from` and `to` give way to `insert`. */
export type TextChange = { from: number; to: number; insert: string };

/**
 * The change that accepting an edit makes at the place where it now stands.
 *
 * Spaces are put right as a writer would: a word deleted takes one of the two spaces around it along,
 * and an insertion between words gets the space it lacks. The inserted words themselves are left as
 * the teacher wrote them.
 *
 * @example changeOf("It is is wet.", { kind: "delete", start: 6, end: 8 }) // takes " is"
 */
export function changeOf(
  text: string,
  edit: Pick<Edit, "kind" | "replacement"> & Range,
): TextChange {
  const { start, end } = edit;
  if (edit.kind === "replace" || edit.kind === "transpose")
    return { from: start, to: end, insert: edit.replacement };
  if (edit.kind === "delete") return deletion(text, { start, end });
  const first = edit.replacement[0];
  const last = edit.replacement.at(-1);
  const before = isWord(text[start - 1]) && isWord(first) ? " " : "";
  const after = isWord(last) && isWord(text[end]) ? " " : "";
  return { from: start, to: end, insert: before + edit.replacement + after };
}

/**
 * Why accepting an edit would not make of the text what the teacher meant; null: its words still stand there.
 * `there`: what it asks for is there already. `changed`: the words are others by now. `gone`: none of them is left.
 *
 * @param quote the words as they were when the edit was made; for an insertion nothing
 */
export function whyNotAccept(
  text: string,
  { kind, start, end, replacement, quote }: Pick<Edit, "kind" | "replacement" | "quote"> & Range,
): "there" | "changed" | "gone" | null {
  const words = text.slice(start, end);
  if (kind === "insert") {
    const put = replacement.trim();
    const near = [text.slice(0, start).trimEnd(), text.slice(end).trimStart()] as const;
    return put !== "" && (near[0].endsWith(put) || near[1].startsWith(put)) ? "there" : null;
  }
  if (words.trim() === "") return "gone";
  if (sameWords(words, quote)) return null;
  return kind !== "delete" && sameWords(words, replacement) ? "there" : "changed";
}

/** But for the spaces between them and the form in which Unicode writes a letter. */
const sameWords = (a: string, b: string): boolean => bareWords(a) === bareWords(b);
const bareWords = (words: string) => words.normalize("NFC").replace(/\s+/g, " ").trim();

/** The words go, and one of the two spaces around them. */
function deletion(text: string, { start, end }: Range): TextChange {
  const left = text[start - 1];
  const right = text[end];
  const closes = right === undefined || isSpace(right) || /[.,;:!?)]/.test(right);
  if (isSpace(left) && closes) return { from: start - 1, to: end, insert: "" };
  const leading = (left === undefined || left === "\n") && isSpace(right);
  return { from: start, to: leading ? end + 1 : end, insert: "" };
}

/** @example applyChange("rain fell", { from: 0, to: 4, insert: "Snow" }) // "Snow fell" */
export function applyChange(text: string, { from, to, insert }: TextChange): string {
  return text.slice(0, from) + insert + text.slice(to);
}

/**
 * Where a range stands after a change: what lies behind it moves along, what it covered is cut away.
 * A caret at the place of an insertion stays before what was inserted.
 */
export function moveRange(range: Range, { from, to, insert }: TextChange): Range {
  const shift = insert.length - (to - from);
  const move = (at: number, sticksRight: boolean) => {
    if (at < from || (at === from && !sticksRight)) return at;
    if (at >= to) return at + shift;
    return sticksRight ? from + insert.length : from;
  };
  if (range.start === range.end) {
    const at = move(range.start, false);
    return { start: at, end: at };
  }
  const start = move(range.start, true);
  const end = move(range.end, false);
  return start <= end ? { start, end } : { start: end, end };
}

export type Decision = "accepted" | "declined";

/**
 * The text after a student's decisions, taken in the order given. Edits not decided change nothing.
 *
 * The order does not matter for edits that do not touch: each is applied where its words stand by
 * then. Of two edits on the same words the first accepted wins, and the other finds its words gone and
 * changes nothing.
 */
export function applyDecisions<E extends Edit>(
  text: string,
  edits: readonly E[],
  decisions: readonly { id: string; decision: Decision }[],
): string {
  let places = new Map(
    edits.map((edit) => [edit.id, { edit, start: edit.start, end: edit.end, spent: false }]),
  );
  for (const { id, decision } of decisions) {
    const place = places.get(id);
    if (!place || place.spent) continue;
    place.spent = true;
    if (decision === "declined") continue;
    if (place.edit.kind !== "insert" && place.start === place.end) continue;
    const change = changeOf(text, { ...place.edit, start: place.start, end: place.end });
    text = applyChange(text, change);
    places = new Map(
      [...places].map(([key, p]) => [key, key === id ? p : { ...p, ...moveRange(p, change) }]),
    );
  }
  return text;
}

const isSpace = (character: string | undefined) => character === " " || character === "\u00a0";
const isWord = (character: string | undefined) =>
  character !== undefined && /[\p{L}\p{N}]/u.test(character);
