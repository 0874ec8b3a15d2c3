import { bareForm } from "../normalForm";

/** Words joined or parted anew are so few at a time. */
const MOST = 12;
/** Letters that must agree before it is no chance. */
const LETTERS = 3;
/** Longer stretches were written anew. */
const LARGEST = 3600;

export type Joined = { removed: number[]; added: number[] };

/**
 * Words that are the same letters cut otherwise: "in to" and "into", "well-known" and "well known", or writing
 * without spaces that a dictionary parted in another way. In order, each once.
 *
 * @param removed the keys of words that are gone from a place
 * @param added the keys of those that stand there now
 * @returns groups of indices into the two
 */
export function joinedWords(removed: readonly string[], added: readonly string[]): Joined[] {
  const groups: Joined[] = [];
  if (removed.length * added.length > LARGEST) return groups;
  const [from, to] = [removed.map(bareForm), added.map(bareForm)];
  let next = 0;
  for (let i = 0; i < from.length; i += 1) {
    for (let j = next; j < to.length; j += 1) {
      const length = sameLetters(from, i, to, j);
      if (!length) continue;
      groups.push({ removed: run(i, length.removed), added: run(j, length.added) });
      i += length.removed - 1;
      next = j + length.added;
      break;
    }
  }
  return groups;
}

const run = (from: number, length: number) => Array.from({ length }, (_, n) => from + n);

/** How many words from `i` are as many letters as how many from `j`, where they are the same letters. */
function sameLetters(a: readonly string[], i: number, b: readonly string[], j: number) {
  let [left, right] = [a[i]!, b[j]!];
  let [removed, added] = [1, 1];
  if (left === "" || right === "") return null;
  while (left !== right && removed + added < MOST) {
    const shorter = left.length < right.length;
    if (shorter ? !right.startsWith(left) : !left.startsWith(right)) return null;
    const more = shorter ? a[i + removed] : b[j + added];
    if (more === undefined) return null;
    if (shorter) {
      left += more;
      removed += 1;
    } else {
      right += more;
      added += 1;
    }
  }
  return left === right && left.length >= LETTERS ? { removed, added } : null;
}
