import { Invalid } from "@/core/refusals";
import type { Sql } from "../db/connection";
import { newPassword } from "./givePassword";
import { hashPassword } from "./passwords";
import { endAllSessions } from "./sessions";
import { forgetAccount } from "./tries";

/**
 * A new first password for who keeps a school (the office, or a teacher alone), from the command line: nobody else could
 * give them one.
 *
 * @throws Invalid when nobody who keeps a school has the address
 */
export async function renewPassword(
  sql: Sql,
  email: string,
): Promise<{ name: string; password: string }> {
  const password = newPassword();
  const hash = await hashPassword(password);
  return sql.begin(async (tx) => {
    const [person] = await tx<{ id: string; name: string }[]>`
      update person
      set password_hash = ${hash}, must_change = true
      from school
      where school.id = person.school_id and lower(person.email) = ${email.toLowerCase()}
        and (person.kind = 'office' or school.kept_by = person.id)
      returning person.id, person.name`;
    if (!person) throw new Invalid({ email: `Nobody who keeps a school signs in as ${email}.` });
    await endAllSessions(tx, person.id);
    await forgetAccount(tx, person.id);
    return { name: person.name, password };
  }) as Promise<{ name: string; password: string }>;
}
