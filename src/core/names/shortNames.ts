import { fold } from "../text/finding";

/** Someone in a list that has little room. */
export type Named = {
  /** Who it is, where that may be known: lines of one person are called alike. */ id:
    string | null;
  /** The name as it is read, or "Piece 21" while it is hidden. */ name: string;
};

/** What a list with room says behind a name that two people have. */
const TOLD_APART = /\s*\([^()]*\)$/;

/** "Piece 21", as a hidden name is said. */
const HIDDEN = /^Piece (\d+)$/;

/**
 * Names for a narrow strip, as short as they can be and still told apart: the first name; where others have it too,
 * as many letters of the last name as it takes; where the whole name is another's too, a number. A
 * hidden name is a P with its number.
 *
 * @returns one for each, in the order given
 * @example shortNames([{ id: "1", name: "Mia Kovač" }, { id: "2", name: "Mia Keel" }, { id: "3", name: "Bo Lind" }]) // ["Mia Ko.", "Mia Ke.", "Bo"]
 */
export function shortNames(all: readonly Named[]): string[] {
  const people = new Map<string, string>();
  for (const one of all) if (hiddenAs(one) === null) people.set(keyOf(one), one.name);
  const lines = [...people].map(([key, given]) => {
    const name = given.replace(TOLD_APART, "").trim();
    return { key, parts: name.split(/\s+/), name };
  });
  const alike = new Map<string, typeof lines>();
  for (const line of lines) {
    const first = fold(line.parts[0]!);
    alike.set(first, [...(alike.get(first) ?? []), line]);
  }
  const short = new Map<string, string>();
  for (const group of alike.values())
    for (const line of group) short.set(line.key, shortIn(line, group));
  return all.map((one) => hiddenAs(one) ?? short.get(keyOf(one))!);
}

function hiddenAs({ id, name }: Named): string | null {
  const hidden = id === null ? HIDDEN.exec(name) : null;
  return hidden && `P${hidden[1]}`;
}

const keyOf = ({ id, name }: Named): string => id ?? name;

type Line = { key: string; parts: string[]; name: string };

function shortIn(line: Line, group: readonly Line[]): string {
  const first = line.parts[0]!;
  if (group.length === 1) return first;
  const same = group.filter((other) => fold(other.name) === fold(line.name));
  const rest = group.filter((other) => !same.includes(other));
  const name = line.parts.length === 1 ? first : withLast(line, rest);
  return same.length > 1 ? `${name} (${same.indexOf(line) + 1})` : name;
}

/** The first name with as much of the last as no other has. */
function withLast(line: Line, others: readonly Line[]): string {
  const last = line.parts.at(-1)!;
  const enough = enoughOf(last, others);
  // Two who differ in a middle name alone, or where one's last name begins the other's.
  return enough === null ? line.name : `${line.parts[0]} ${enough}`;
}

function enoughOf(last: string, others: readonly Line[]): string | null {
  const letters = [...last];
  for (let n = 1; n <= letters.length; n += 1) {
    const begin = fold(letters.slice(0, n).join(""));
    const theirs = others.map((other) => (other.parts.length > 1 ? fold(other.parts.at(-1)!) : ""));
    if (theirs.every((name) => !name.startsWith(begin)))
      return n === letters.length ? last : `${letters.slice(0, n).join("")}.`;
  }
  const whole = fold(last);
  const differs = others.every(
    (other) => other.parts.length === 1 || fold(other.parts.at(-1)!) !== whole,
  );
  return differs ? last : null;
}
