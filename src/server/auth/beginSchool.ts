import { uuidv7 } from "uuidv7";
import { Invalid } from "@/core/refusals";
import { isEmail, sortNameOf, splitName } from "@/core/roster/roster";
import type { Sql } from "../db/connection";
import { newPassword } from "./givePassword";
import { hashPassword } from "./passwords";

/**
 * Makes a school with its first office person, who brings in everything else on the office's pages.
 *
 * @returns the password, which is kept nowhere else
 * @throws Invalid when the time zone or the address cannot be one; nothing is then made
 */
export async function beginSchool(
  sql: Sql,
  given: { school: string; zone: string; name: string; email: string },
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
    await tx`
      insert into person (id, school_id, kind, name, called, sort_name, email, password_hash, must_change)
      values (${uuidv7()}, ${schoolId}, 'office', ${given.name}, ${first || given.name}, ${sortNameOf(first, family)}, ${given.email.toLowerCase()}, ${passwordHash}, true)`;
  });
  return { password };
}
