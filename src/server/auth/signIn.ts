import { FIRST_PAGE, type PersonKind } from "@/core/access/access";
import type { Db } from "../db/connection";
import { HttpProblem } from "../problem";
import { passwordMatches } from "./passwords";
import { beginSession } from "./sessions";

/** Failures within the last quarter of an hour after which no password is looked at. */
const WINDOW_MINUTES = 15;
const MOST_PER_ACCOUNT = 8;
const MOST_PER_ADDRESS = 60;

export type SignedIn = { token: string; to: string };

/**
 * Signs in by e-mail address or school name. A wrong password and an unknown account get the same
 * answer after the same work; failures are counted for the account as typed and for the address.
 *
 * @throws HttpProblem 401, or 429 when there were too many failures
 */
export async function signIn(
  db: Db,
  given: { name: string; password: string; address: string },
  now: Date,
): Promise<SignedIn> {
  const account = given.name.trim().toLowerCase().slice(0, 200);
  const since = new Date(now.getTime() - WINDOW_MINUTES * 60_000);
  const [failures] = await db<{ byAccount: number; byAddress: number }[]>`
    select
      (select count(*)::int from sign_in_failure where account = ${account} and at > ${since}) as by_account,
      (select count(*)::int from sign_in_failure where address = ${given.address} and at > ${since}) as by_address`;
  if (failures!.byAccount >= MOST_PER_ACCOUNT || failures!.byAddress >= MOST_PER_ADDRESS) {
    throw new HttpProblem(
      429,
      "Too many tries.",
      "Wait a quarter of an hour, or ask the office for a new password.",
    );
  }
  const [person] = await db<{ id: string; kind: PersonKind; passwordHash: string }[]>`
    select id, kind, password_hash
    from person
    where lower(email) = ${account} or lower(school_name) = ${account}
    limit 1`;
  if (!(await passwordMatches(given.password, person?.passwordHash ?? null)) || !person) {
    await db`insert into sign_in_failure (account, address, at) values (${account}, ${given.address}, ${now})`;
    throw new HttpProblem(
      401,
      "The name or the password is not right.",
      "Check both, and whether Caps Lock is on.",
    );
  }
  await db`delete from sign_in_failure where account = ${account}`;
  return { token: await beginSession(db, person.id, now), to: FIRST_PAGE[person.kind] };
}

export type DemoPerson = { id: string; name: string; kind: PersonKind; about: string };

/** The people of the demo to enter as; the caller must have made sure that this is the demo. */
export async function demoPeople(db: Db): Promise<DemoPerson[]> {
  return db<DemoPerson[]>`
    select person.id, person.name, person.kind, coalesce(classes.names, children.names, '') as about
    from person
    left join lateral (
      select string_agg(section.name, ', ' order by section.name) as names
      from section
      where section.id in (select section_id from section_teacher where person_id = person.id union all select section_id from enrolment where student_id = person.id)
    ) classes on true
    left join lateral (
      select string_agg(child.name, ', ' order by child.sort_name) as names
      from guardianship
      join person child on child.id = guardianship.student_id
      where guardianship.guardian_id = person.id
    ) children on true
    order by array_position(array['teacher', 'student', 'guardian', 'office'], person.kind), person.sort_name, person.id`;
}

export async function enterDemo(db: Db, personId: string, now: Date): Promise<SignedIn | null> {
  const [person] = await db<
    { id: string; kind: PersonKind }[]
  >`select id, kind from person where id = ${personId}`;
  return person
    ? { token: await beginSession(db, person.id, now), to: FIRST_PAGE[person.kind] }
    : null;
}
