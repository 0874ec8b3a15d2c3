import { may } from "@/core/access/access";
import { answerAddress, codeOfAddress, withoutQuoted } from "@/core/letters/letter";
import { Invalid, NotFound } from "@/core/refusals";
import type { LettersView } from "@/core/views/letterViews";
import { standingOnSection } from "../access/standing";
import type { Call, Person, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { settings } from "../settings";
import { readLetters } from "./read";

type Copy = { id: string; personId: string; sectionId: string; goesAt: Date };

/** What someone is to a copy of a letter: who got it, or a teacher of its section. @throws NotFound */
async function requireCopy(call: ReadCall, letterToId: string): Promise<"got" | "teaches"> {
  const { db, who, now } = call;
  const [copy] = await db<Copy[]>`
    select letter_to.id, letter_to.person_id, letter.section_id, letter.goes_at
    from letter_to
    join letter on letter.id = letter_to.letter_id
    where letter_to.id = ${letterToId}`;
  if (!copy) throw new NotFound();
  if (copy.personId === who.id && copy.goesAt <= now) return "got";
  if (who.kind !== "teacher") throw new NotFound();
  const standing = await standingOnSection(db, who, copy.sectionId);
  if (!may(standing, "letter.write")) throw new NotFound();
  return "teaches";
}

/** An answer in the application, from who got the letter or from a teacher of its section. */
export async function answerLetter(
  call: Call,
  letterToId: string,
  { body }: { body: string },
): Promise<LettersView> {
  await requireCopy(call, letterToId);
  await keepAnswer(call.tx, { ...call, letterToId, body, byMail: false });
  return readLetters(call);
}

/** It was looked at: by who got it, the letter; by its teachers, what came back. */
export async function noteLetterRead(call: Call, letterToId: string): Promise<{ read: true }> {
  const { tx, now } = call;
  const side = await requireCopy(call, letterToId);
  if (side === "got")
    await tx`update letter_to set read_at = ${now} where id = ${letterToId} and read_at is null`;
  // To either side what the other said is read.
  await tx`
    update letter_answer
    set read_at = ${now}
    from letter_to
    where letter_answer.letter_to_id = ${letterToId} and letter_to.id = letter_to_id and letter_answer.read_at is null
      and (letter_answer.author_id = letter_to.person_id) = ${side === "teaches"}`;
  return { read: true };
}

type Kept = {
  letterToId: string;
  body: string;
  byMail: boolean;
  who: Pick<Person, "id">;
  now: Date;
  newId: () => string;
};

async function keepAnswer(db: Db, kept: Kept): Promise<void> {
  const { letterToId, body, byMail, who, now, newId } = kept;
  await db`
    insert into letter_answer (id, letter_to_id, author_id, body, by_mail, said_at)
    values (${newId()}, ${letterToId}, ${who.id}, ${body}, ${byMail}, ${now})`;
}

/** A message that came in for the school: to which address, and its text. */
export type Incoming = { to: string; text: string };
const LONGEST = 8000;

/**
 * Takes an answer that came by mail: this is what a mail server hands incoming messages to. Whoever knows the address
 * was written to, and the answer is theirs; what it quotes is left out.
 *
 * @returns false where the address is none of ours, or nothing is left of the text
 */
export async function takeMailAnswer(
  db: Db,
  { to, text }: Incoming,
  { now, newId }: { now: Date; newId: () => string },
): Promise<boolean> {
  const code = codeOfAddress(to);
  const body = withoutQuoted(text.slice(0, 4 * LONGEST)).slice(0, LONGEST);
  if (!code || body === "") return false;
  const [copy] = await db<
    { id: string; personId: string }[]
  >`select id, person_id from letter_to where code = ${code}`;
  if (!copy) return false;
  const who = { id: copy.personId };
  await keepAnswer(db, { letterToId: copy.id, body, byMail: true, who, now, newId });
  await db`update letter_to set read_at = coalesce(read_at, ${now}) where id = ${copy.id}`;
  return true;
}

/** In the demo's post room one answers a mail as one would at home: it goes the way that mail takes. */
export async function answerMail(
  call: Call,
  mailId: string,
  { text }: { text: string },
): Promise<{ answered: true }> {
  if (settings().mode === "production") throw new NotFound();
  const { tx, who, now, newId } = call;
  const [copy] = await tx<{ code: string }[]>`
    select letter_to.code
    from letter_to
    join mail on mail.id = letter_to.mail_id
    where mail.id = ${mailId} and mail.person_id = ${who.id}`;
  if (!copy) throw new NotFound();
  const to = answerAddress(copy.code, settings().mailFrom);
  const taken = await takeMailAnswer(tx, { to, text }, { now, newId });
  if (!taken) throw new Invalid({ text: "Write something above what you quote." });
  return { answered: true };
}
