/** Tries that everyone has, who mistypes; then each has to wait longer than the one before. */
const FREE = 5;
const FIRST_SECONDS = 5;
const MOST_SECONDS = 300;

/**
 * How long after the last failure the next try is looked at. Who mistypes does not notice; who guesses gets no
 * further than some hundred tries a day.
 *
 * @param failures those that count so far
 * @example [4, 5, 7, 20].map(secondsToWait) // [0, 5, 20, 300]
 */
export function secondsToWait(failures: number): number {
  if (failures < FREE) return 0;
  return Math.min(MOST_SECONDS, FIRST_SECONDS * 2 ** Math.min(16, failures - FREE));
}

/** @example sayWait(90) // "2 minutes" */
export function sayWait(seconds: number): string {
  if (seconds < 60) return seconds === 1 ? "1 second" : `${seconds} seconds`;
  const minutes = Math.ceil(seconds / 60);
  return minutes === 1 ? "1 minute" : `${minutes} minutes`;
}

export const SHORTEST_PASSWORD = 10;

/** What is tried first by whoever guesses; from memory, not from a published list. */
const COMMON =
  /^(.)\1+$|^(0?1?234567890?|qwert(y|z)(uiop)?|password|passwort|letmein|welcome|school|teacher|student|almanac)[\d!.]*$/i;

/**
 * Why a password cannot be taken; null when it can. Length is what counts; no kinds of signs are asked for (NIST
 * SP 800-63B, section 5.1.1.2).
 *
 * @param known what stands beside the account anyway: names, address
 */
export function faultInPassword(password: string, known: readonly string[]): string | null {
  if (password.length < SHORTEST_PASSWORD)
    return `A password has ${SHORTEST_PASSWORD} characters at least. Some words in a row are easy to remember.`;
  const plain = password.toLowerCase();
  const parts = known
    .flatMap((text) => text.toLowerCase().split(/[\s@.]+/))
    .filter((p) => p.length > 2);
  const rest = parts.reduce((left, part) => left.replaceAll(part, ""), plain);
  if (rest.length < 6) return "This is hardly more than your name. Choose something else.";
  if (COMMON.test(password)) return "This is one of the first that anyone would try.";
  return null;
}
