import { randomInt } from "node:crypto";
import { NotFound } from "@/core/refusals";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { hashPassword } from "./passwords";

const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";

/** Twelve signs without look-alikes, in three parts that can be read out: about 59 bits. */
export function newPassword(): string {
  const part = () => Array.from({ length: 4 }, () => SIGNS[randomInt(SIGNS.length)]).join("");
  return `${part()}-${part()}-${part()}`;
}

export type NewPassword = { password: string; hash: string };

/** Thought up and hashed before the transaction: hashing is slow on purpose. */
export async function prepareNewPassword({ who }: ReadCall): Promise<NewPassword> {
  requireKind(who, "office");
  const password = newPassword();
  return { password, hash: await hashPassword(password) };
}

/** A new password for a person of the school, shown to the office this once; all their sessions end. */
export async function givePassword(
  { tx, who }: Call,
  personId: string,
  { password, hash }: NewPassword,
): Promise<{ password: string; name: string; signsInAs: string }> {
  requireKind(who, "office");
  const [person] = await tx<
    { name: string; signsInAs: string }[]
  >`select name, coalesce(school_name, email) as signs_in_as from person where id = ${personId} and school_id = ${who.schoolId}`;
  if (!person) throw new NotFound();
  await tx`update person set password_hash = ${hash} where id = ${personId}`;
  await tx`delete from session where person_id = ${personId}`;
  return { password, ...person };
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
