import { NotFound } from "@/core/refusals";
import type { Person } from "../call";
import type { Db } from "../db/connection";

/** Someone by their id, for what is done in their name later. @throws NotFound */
export async function readPerson(db: Db, personId: string): Promise<Person> {
  const [who] = await db<Person[]>`
    select person.id, person.kind, person.name, person.called, person.school_id, school.time_zone as zone
    from person
    join school on school.id = person.school_id
    where person.id = ${personId}`;
  if (!who) throw new NotFound();
  return who;
}
