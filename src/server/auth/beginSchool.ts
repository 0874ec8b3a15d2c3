import { uuidv7 } from "uuidv7";
import { Invalid } from "@/core/refusals";
import { dayOf } from "@/core/time/zone";
import { isEmail, sortNameOf, splitName } from "@/core/roster/roster";
import type { Sql } from "../db/connection";
import { newPassword } from "./givePassword";
import { hashPassword } from "./passwords";

/** A first school year, so that a class can be made at once: from this month on, ten months. Common practice, no source. */
const YEAR_MONTHS = 10;

/** @example nameOfYear("2026-11-28") // "2026/27" */
function nameOfYear(today: string): string {
  const year = Number(today.slice(0, 4));
  const begins = Number(today.slice(5, 7)) >= 7 ? year : year - 1;
  return `${begins}/${String(begins + 1).slice(2)}`;
}

/**
 * Makes a school with its first person: an office person, who brings in everything else on the office's pages; or a
 * teacher alone, whose own school it is, with a first term.
 *
 * @returns the password, which is kept nowhere else
 * @throws Invalid when the time zone or the address cannot be one; nothing is then made
 */
export async function beginSchool(
  sql: Sql,
  given: { school: string; zone: string; name: string; email: string; alone?: boolean },
  now: Date,
): Promise<{ password: string }> {
  const [zone] = await sql`select name from pg_timezone_names where name = ${given.zone}`;
  if (!zone)
    throw new Invalid({
      zone: `“${given.zone}” is not a time zone. Give an IANA name such as America/Halifax.`,
    });
  if (!isEmail(given.email))
    throw new Invalid({ email: `“${given.email}” is not an e-mail address.` });
  const password = newPassword();
  const passwordHash = await hashPassword(password);
  const { given: first, family } = splitName(given.name);
  await sql.begin(async (tx) => {
    const schoolId = uuidv7();
    await tx`insert into school (id, name, time_zone) values (${schoolId}, ${given.school}, ${given.zone})`;
    const personId = uuidv7();
    await tx`
      insert into person (id, school_id, kind, name, called, sort_name, email, password_hash, must_change)
      values (${personId}, ${schoolId}, ${given.alone ? "teacher" : "office"}, ${given.name}, ${first || given.name}, ${sortNameOf(first, family)}, ${given.email.toLowerCase()}, ${passwordHash}, true)`;
    if (!given.alone) return;
    await tx`update school set kept_by = ${personId} where id = ${schoolId}`;
    const today = dayOf(now, given.zone);
    await tx`
      insert into term (id, school_id, name, starts_on, ends_on)
      values (${uuidv7()}, ${schoolId}, ${nameOfYear(today)}, date_trunc('month', ${today}::date),
        date_trunc('month', ${today}::date) + make_interval(months => ${YEAR_MONTHS}) - interval '1 day')`;
  });
  return { password };
}
