import { FIRST_PAGE, OWN_PAGE, type PersonKind } from "@/core/access/access";
import type { Db, Sql } from "../db/connection";
import { HttpProblem } from "../problem";
import { keepDevice, knownDevice } from "./devices";
import { passwordMatches } from "./passwords";
import { beginSession } from "./sessions";
import { countTry, forgetTries } from "./tries";

export type SignedIn = {
  token: string;
  to: string;
  /** A token for the browser, which was not known before. */ device?: string;
};

type Given = {
  name: string;
  password: string;
  address: string;
  /** What the browser is known by, if it is. */ device?: string | null;
  /** What browser it is, in words. */ about?: string;
};

/**
 * Signs in by e-mail address or school name. A wrong password and an unknown account get the same
 * answer after the same work; how tries are counted, see `tries`.
 *
 * @throws HttpProblem 401, or 429 while it has to wait
 */
export async function signIn(sql: Sql, given: Given, now: Date): Promise<SignedIn> {
  const account = given.name.trim().toLowerCase().slice(0, 200);
  const [person] = await sql<
    { id: string; kind: PersonKind; passwordHash: string; mustChange: boolean }[]
  >`
    select id, kind, password_hash, must_change
    from person
    where lower(email) = ${account} or lower(school_name) = ${account}
    limit 1`;
  const device = await knownDevice(sql, person?.id, given.device ?? null);
  const trying = { account, address: given.address, device };
  await countTry(sql, trying, now);
  if (!(await passwordMatches(given.password, person?.passwordHash ?? null)) || !person)
    throw new HttpProblem(
      401,
      "The name or the password is not right.",
      "Check both, and whether Caps Lock is on.",
    );
  await forgetTries(sql, trying);
  return {
    token: await beginSession(sql, person.id, now, given.about),
    to: person.mustChange ? OWN_PAGE : FIRST_PAGE[person.kind],
    ...(device ? {} : { device: await keepDevice(sql, person.id, now) }),
  };
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
