import { sayCount } from "../text/sayCount";

/** So many files go with one message of a thread. */
export const MOST_IN_A_MESSAGE = 5;

/** A file that was sent with a message. */
export type SentFile = { id: string; name: string; size: number };

/**
 * What a message says, in one line of a list.
 *
 * @example sayMessage({ body: "", voice: false, files: 2 }) // "2 files"
 */
export function sayMessage(said: { body: string; voice: boolean; files: number }): string {
  if (said.body !== "") return said.body;
  const holds = [
    said.voice ? "a voice note" : "",
    said.files === 1 ? "a file" : "",
    said.files > 1 ? sayCount(said.files, "file") : "",
  ].filter(Boolean);
  return holds.join(" and ");
}
