import { simpleParser, type AddressObject } from "mailparser";
import type { Sql } from "../db/connection";
import { takeMailAnswer } from "./answer";

/** Larger messages are not read: an answer is some words. */
export const MOST_BYTES = 5_000_000;

const addressesOf = (field: AddressObject | AddressObject[] | undefined): string[] =>
  [field ?? []].flat().flatMap(({ value }) => value.flatMap(({ address }) => address ?? []));

/**
 * A message (MIME, RFC 5322) that the school's mail server hands over: kept as an answer where it was sent to the address
 * of a letter. `recipient` is the one that the server names, for messages that do not say it themselves.
 *
 * @returns whether it was an answer to a letter
 */
export async function takeMessage(
  sql: Sql,
  { mime, recipient }: { mime: Buffer; recipient: string | null },
  { now, newId }: { now: Date; newId: () => string },
): Promise<boolean> {
  if (mime.length > MOST_BYTES) return false;
  const mail = await simpleParser(mime, { skipImageLinks: true, skipTextLinks: true });
  const to = [recipient ?? [], addressesOf(mail.to), addressesOf(mail.cc)].flat();
  // Of a message that has HTML alone the parser makes words.
  const text = mail.text ?? "";
  return sql.begin(async (tx) => {
    for (const address of new Set(to))
      if (await takeMailAnswer(tx, { to: address, text }, { now, newId })) return true;
    return false;
  }) as Promise<boolean>;
}
