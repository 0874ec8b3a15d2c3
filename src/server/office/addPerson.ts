import { shorten } from "@/core/text/shorten";
import type { PersonKind } from "@/core/access/access";
import { Invalid } from "@/core/refusals";
import { isEmail, sortNameOf, splitName } from "@/core/roster/roster";
import { requireKind } from "../access/standing";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";

/** A person whom the office adds by hand; they get a password of their own afterwards. */
export async function addPerson(
  call: Call,
  given: { name: string; email: string; kind: PersonKind },
): Promise<{ id: string; name: string }> {
  const { tx, who, newId } = call;
  requireKind(who, "office");
  const email = given.email.toLowerCase();
  if (!isEmail(email))
    throw new Invalid({ email: `“${shorten(given.email, 60)}” is not an e-mail address.` });
  const [taken] = await tx<
    { name: string }[]
  >`select name from person where school_id = ${who.schoolId} and lower(email) = ${email}`;
  if (taken) throw new Invalid({ email: `${taken.name} has this address in this school.` });
  const { given: first, family } = splitName(given.name);
  const name = given.name.includes(",") ? [first, family].filter(Boolean).join(" ") : given.name;
  const id = newId();
  await tx`
    insert into person (id, school_id, kind, name, called, sort_name, email)
    values (${id}, ${who.schoolId}, ${given.kind}, ${name}, ${first || name}, ${sortNameOf(first, family)}, ${email})`;
  await recordEvent(call, {
    handOutId: null,
    pieceId: null,
    kind: "added a person",
    detail: { personId: id, name, kind: given.kind },
  });
  return { id, name };
}
