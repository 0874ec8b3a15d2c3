/** To whom a letter goes: to students, to the guardians of each, or to both. */
export const LETTER_TO = ["students", "guardians", "both"] as const;
export type LetterTo = (typeof LETTER_TO)[number];

export type Known = { studentId: string; guardians: readonly string[] };
export type Addressed = { personId: string; studentId: string };

/**
 * Who gets a letter about whom: each student their own, each guardian one for each of their children that is meant.
 * Nobody gets the same one twice.
 */
export function addressed(students: readonly Known[], to: LetterTo): Addressed[] {
  const seen = new Set<string>();
  return students
    .flatMap(({ studentId, guardians }) =>
      [...(to === "guardians" ? [] : [studentId]), ...(to === "students" ? [] : guardians)].map(
        (personId) => ({ personId, studentId }),
      ),
    )
    .filter(({ personId, studentId }) => {
      const key = `${personId} ${studentId}`;
      return seen.has(key) ? false : Boolean(seen.add(key));
    });
}

const WROTE = /\b(wrote|schrieb|a écrit)\s*:\s*$/i;
const SIGNATURE = /^-- $/;

/**
 * An answer that came by mail, without what it quotes: lines that begin with ">" (RFC 3676, section 4.5), the line that
 * introduces them, and the signature behind "-- " (section 4.3).
 */
export function withoutQuoted(text: string): string {
  const lines = text.replaceAll("\r\n", "\n").split("\n");
  const ends = lines.findIndex((line) => SIGNATURE.test(line));
  const own = ends < 0 ? lines : lines.slice(0, ends);
  const kept = own.filter((line, n) => {
    if (line.startsWith(">")) return false;
    const next = own.slice(n + 1).find((later) => later.trim() !== "");
    return !(WROTE.test(line) && (next === undefined || next.startsWith(">")));
  });
  return kept.join("\n").trim();
}

/** The address that an answer comes back to. @example answerAddress("k3x", "office@tern.example") // "answers+k3x@tern.example" */
export const answerAddress = (code: string, mailFrom: string): string =>
  `answers+${code}@${mailFrom.split("@").at(-1)!}`;

/** @example codeOfAddress("answers+k3x@tern.example") // "k3x" */
export const codeOfAddress = (address: string): string | null =>
  /^answers\+([a-z0-9]{6,40})@/i.exec(address.trim())?.[1]?.toLowerCase() ?? null;
