import { randomInt } from "node:crypto";
import { faultInPassword } from "@/core/access/guessing";
import { Invalid, NotFound } from "@/core/refusals";
import type { ClassToSignIn, FirstPassword } from "@/core/views/accountViews";
import { requireKind, requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";
import { hashPassword, passwordMatches } from "./passwords";
import { endAllSessions, endOtherSessions } from "./sessions";
import { countTry, forgetAccount, forgetTries } from "./tries";
import type { Sql, Tx } from "../db/connection";

const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";

/** Twelve signs without look-alikes, in three parts that can be read out: about 59 bits. */
export function newPassword(): string {
  const part = () => Array.from({ length: 4 }, () => SIGNS[randomInt(SIGNS.length)]).join("");
  return `${part()}-${part()}-${part()}`;
}

export type NewPassword = { password: string; hash: string };

/** Thought up and hashed before the transaction: hashing is slow on purpose. */
async function thinkUp(): Promise<NewPassword> {
  const password = newPassword();
  return { password, hash: await hashPassword(password) };
}

export async function prepareNewPassword({ who }: ReadCall): Promise<NewPassword> {
  requireKind(who, "office");
  return thinkUp();
}

/**
 * A new password for a person of the school, shown to the office this once: they choose their own when they
 * first sign in. All their sessions end, and what was tried on their account counts no more.
 */
export async function givePassword(
  call: Call,
  personId: string,
  made: NewPassword,
): Promise<FirstPassword> {
  requireKind(call.who, "office");
  const [person] = await call.tx<
    { name: string; signsInAs: string }[]
  >`select name, coalesce(school_name, email) as signs_in_as from person where id = ${personId} and school_id = ${call.who.schoolId}`;
  if (!person) throw new NotFound();
  await setFirstPassword(call, personId, made.hash);
  return { password: made.password, ...person };
}

/** One that someone else has seen: it opens nothing but the page to change it. */
async function setFirstPassword({ tx }: Call, personId: string, hash: string): Promise<void> {
  await setPassword(tx, personId, { hash, mustChange: true });
  await endAllSessions(tx, personId);
}

async function setPassword(
  tx: Tx,
  personId: string,
  { hash, mustChange }: { hash: string; mustChange: boolean },
): Promise<void> {
  await tx`update person set password_hash = ${hash}, must_change = ${mustChange} where id = ${personId}`;
  await forgetAccount(tx, personId);
}

/** First passwords for so many students, thought up before the transaction. */
export async function prepareFirstPasswords(
  { db, who }: ReadCall,
  sectionId: string,
  count: number,
): Promise<NewPassword[]> {
  await requireOnSection(db, who, sectionId, "section.passwords");
  return Promise.all(Array.from({ length: count }, thinkUp));
}

/**
 * Passwords for students of a section, to be printed and cut apart. Everyone named must be on its roster.
 * Index: enrolment's primary key.
 */
export async function giveFirstPasswords(
  call: Call,
  sectionId: string,
  studentIds: readonly string[],
  made: readonly NewPassword[],
): Promise<{ passwords: FirstPassword[] }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "section.passwords");
  const students = await tx<{ id: string; name: string; signsInAs: string }[]>`
    select person.id, person.name, coalesce(person.school_name, person.email) as signs_in_as
    from enrolment
    join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId} and person.id = any(${[...new Set(studentIds)]})
    order by person.sort_name, person.id
    for update of person`;
  if (students.length < new Set(studentIds).size) throw new NotFound();
  const passwords: FirstPassword[] = [];
  for (const [n, { id, ...student }] of students.entries()) {
    await setFirstPassword(call, id, made[n]!.hash);
    passwords.push({ ...student, password: made[n]!.password });
  }
  await recordEvent(call, {
    handOutId: null,
    pieceId: null,
    kind: "gave first passwords",
    detail: { sectionId, studentIds: students.map((s) => s.id) },
  });
  return { passwords };
}

type OwnPassword = { current: string; password: string };

/**
 * Looks at the present password and hashes the new one, before the transaction. Tries are counted as those at
 * the sign-in are: who sits down at a page left open cannot guess on.
 */
export async function prepareOwnPassword(
  { db, who, now }: ReadCall,
  { current, password }: OwnPassword,
): Promise<string> {
  const [own] = await db<{ passwordHash: string; known: string[] }[]>`
    select password_hash, array_remove(array[name, email, school_name], null) as known
    from person
    where id = ${who.id}`;
  const trying = { account: `own password of ${who.id}`, address: "", device: null };
  await countTry(db as Sql, trying, now);
  if (!(await passwordMatches(current, own!.passwordHash)))
    throw new Invalid({ current: "This is not your present password." });
  await forgetTries(db, trying);
  const fault =
    password === current
      ? "This is the one you have. Choose another."
      : faultInPassword(password, own!.known);
  if (fault) throw new Invalid({ password: fault });
  return hashPassword(password);
}

/** One's own new password; the other sessions end, that of the token goes on. */
export async function changeOwnPassword(
  { tx, who }: Call,
  hash: string,
  token: string | null,
): Promise<{ changed: true }> {
  await setPassword(tx, who.id, { hash, mustChange: false });
  await endOtherSessions(tx, who.id, token);
  return { changed: true };
}

/** People of the school for the office, by a part of their name; those without a password first. At most 30. */
export async function findForOffice(
  { db, who }: ReadCall,
  text: string,
): Promise<{ id: string; name: string; kind: string; signsInAs: string; hasPassword: boolean }[]> {
  requireKind(who, "office");
  const like = `%${text.trim().replace(/[%_\\]/g, "\\$&")}%`;
  return db<{ id: string; name: string; kind: string; signsInAs: string; hasPassword: boolean }[]>`
    select id, name, kind, coalesce(school_name, email) as signs_in_as, password_hash is not null as has_password
    from person
    where school_id = ${who.schoolId} and (name ilike ${like} or email ilike ${like} or school_name ilike ${like})
    order by password_hash is not null, sort_name, id
    limit 30`;
}

/** The sections of the school (or one of them) with who has no password of their own yet. Index: enrolment's primary key. */
export async function classesToSignIn(
  { db, who }: ReadCall,
  sectionId: string | null = null,
): Promise<ClassToSignIn[]> {
  if (sectionId) await requireOnSection(db, who, sectionId, "section.passwords");
  else requireKind(who, "office");
  return db<ClassToSignIn[]>`
    select section.id, section.name, course.name as course,
      jsonb_agg(
        jsonb_build_object('id', person.id, 'name', person.name, 'hasPassword', person.password_hash is not null)
        order by person.sort_name, person.id
      ) as students
    from section
    join course on course.id = section.course_id
    join enrolment on enrolment.section_id = section.id and enrolment.left_on is null
    join person on person.id = enrolment.student_id
    where course.school_id = ${who.schoolId} and ${sectionId ? db`section.id = ${sectionId}` : db`true`}
    group by section.id, section.name, course.name
    order by section.name, section.id
    limit 400`;
}
