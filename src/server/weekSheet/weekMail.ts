import { uuidv7 } from "uuidv7";
import { sayIn } from "@/core/language/say";
import { afterQuiet, quietHours } from "@/core/time/quiet";
import { mondayOf } from "@/core/time/term";
import { dayOf, instantToWall, weekdayOf } from "@/core/time/zone";
import type { Person } from "../call";
import type { Sql, Tx } from "../db/connection";
import { post } from "../mail/postRoom";
import { countWeek } from "./week";
import { mailGoes, settings } from "../settings";

/** On Friday afternoon, by the school's clock: a family has the weekend before it. */
const ON_WEEKDAY = 5;
const AT_CLOCK = "15:00";
/** So many guardians in one turn of the clock; the next goes on. */
const AT_ONCE = 50;

type School = { id: string; zone: string; quietFrom: string | null; quietUntil: string | null };
type Guardian = Person & { email: string };

/**
 * Tells guardians once a week by mail that their week sheet is there: how much is due, missing and came back, with a link,
 * and no word of what it is, since mail is read by more than its addressee. Who has nothing on their sheet is not written
 * to; who switched it off neither. Whoever runs this, and however often: each week once.
 *
 * @returns how many were written to
 */
export async function mailWeekSheets(sql: Sql, now: Date): Promise<number> {
  if (!mailGoes()) return 0;
  const schools = await sql<School[]>`
    select id, time_zone as zone, quiet_from, quiet_until from school`;
  let written = 0;
  for (const school of schools)
    if (isTime(now, school.zone))
      written += (await sql.begin((tx) => mailSchool(tx, school, now))) as number;
  return written;
}

function isTime(now: Date, zone: string): boolean {
  return (
    weekdayOf(dayOf(now, zone)) === ON_WEEKDAY && instantToWall(now, zone).slice(11) >= AT_CLOCK
  );
}

/** Index: person_school. One application at a time; another has just done it. */
async function mailSchool(tx: Tx, school: School, now: Date): Promise<number> {
  const [{ free } = { free: false }] = await tx<
    { free: boolean }[]
  >`select pg_try_advisory_xact_lock(7262004) as free`;
  if (!free) return 0;
  const monday = mondayOf(dayOf(now, school.zone));
  const guardians = await tx<Guardian[]>`
    select person.id, person.kind, person.name, person.called, person.school_id, ${school.zone} as zone, person.email, person.language
    from person
    left join week_mail on week_mail.person_id = person.id
    where person.school_id = ${school.id} and person.kind = 'guardian' and person.email is not null
      and week_mail.off is not true and coalesce(week_mail.said_of, '-infinity') < ${monday}::date
      and exists (select from guardianship where guardian_id = person.id)
    order by person.id
    limit ${AT_ONCE}`;
  const goesAt = afterQuiet(now, quietHours(school.quietFrom, school.quietUntil), school.zone);
  let written = 0;
  for (const guardian of guardians) {
    const text = letterOf(guardian, await countWeek({ db: tx, who: guardian, now }));
    if (text) await post(tx, { ...addressOf(guardian), ...text, goesAt }, now, uuidv7);
    if (text) written += 1;
  }
  if (guardians.length > 0)
    await tx`
      insert into week_mail (person_id, said_of)
      select id, ${monday}::date from unnest(${guardians.map(({ id }) => id)}::uuid[]) as given(id)
      on conflict (person_id) do update set said_of = excluded.said_of`;
  return written;
}

const addressOf = ({ id, email, name }: Guardian) => ({ personId: id, address: email, name });

function letterOf(
  { called, language = "en" }: Guardian,
  { due, missing, back }: Awaited<ReturnType<typeof countWeek>>,
): { subject: string; text: string } | null {
  const say = sayIn("weekMail", language);
  const counts = { toDo: due, missing, back };
  const parts = (["toDo", "missing", "back"] as const).flatMap((key) =>
    counts[key] > 0 ? [`· ${say(key, { count: counts[key] })}`] : [],
  );
  if (parts.length === 0) return null;
  const origin = settings().publicOrigin;
  const where = origin ? `${origin}/week` : say("here");
  const blocks = [
    say("hello", { name: called }),
    parts.join("\n"),
    say("sheet", { where }),
    say("off"),
  ];
  return { subject: say("subject"), text: `${blocks.join("\n\n")}\n` };
}
