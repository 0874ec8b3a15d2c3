import { isWithStudent } from "@/core/pieces/life";
import { isInWeek, weekOf, type Week } from "@/core/time/week";
import { addDays, dayOf, type Day } from "@/core/time/zone";
import { sayState } from "@/core/views/states";
import type { WeekChild, WeekLetter, WeekLine, WeekView } from "@/core/views/overviewViews";
import type { Language } from "@/core/language/languages";
import { MESSAGES, sayIn } from "@/core/language/say";
import { sayDayIn, sayTimeIn } from "@/core/language/when";
import { requireKind } from "../access/standing";
import type { Call, Person, ReadCall } from "../call";
import { moonOf } from "../life/standings";
import { mailGoes } from "../settings";
import { readPieces, toldScore, type WorkRow } from "../overview/work";

/** So far back the sheets of earlier weeks can be read: a school year. */
const MOST_WEEKS_BACK = 52;

/**
 * A guardian's week sheet: of each of their children what is due, missing and handed back, the scores the student was
 * told, and what teachers wrote to the guardian; no work, no feedback, nothing of another child.
 *
 * @param wanted a day of an earlier week; anything else is the week that is now
 */
export async function weekView(call: ReadCall, wanted: Day | null = null): Promise<WeekView> {
  const { db, who, now } = call;
  requireKind(who, "guardian");
  const language = languageOf(who);
  const present = weekOf(dayOf(now, who.zone), who.zone);
  const week = weekMeant(wanted, present, who.zone);
  const isPresent = week.monday === present.monday;
  const [children, [own]] = await Promise.all([
    readChildren(call),
    db<{ email: string | null; off: boolean }[]>`
      select person.email, coalesce(week_mail.off, false) as off
      from person left join week_mail on week_mail.person_id = person.id
      where person.id = ${who.id}`,
  ]);
  const back = addDays(week.monday, -7);
  return {
    language,
    words: sayIn("week", language)("range", {
      from: sayDayIn(language, week.monday, present.monday),
      to: sayDayIn(language, week.sunday, present.monday),
    }),
    present: isPresent,
    earlier: back >= addDays(present.monday, -7 * MOST_WEEKS_BACK) ? back : null,
    later: isPresent ? null : addDays(week.monday, 7),
    children: await Promise.all(children.map((child) => childOf(call, child, { week, isPresent }))),
    mail: { on: mailGoes() && !own!.off, address: mailGoes() ? own!.email : null },
  };
}

const languageOf = ({ language }: Person): Language => language ?? "en";
const when = (at: Date, { now, who }: ReadCall) => sayTimeIn(languageOf(who), at, now, who.zone);

function weekMeant(wanted: Day | null, present: Week, zone: string): Week {
  const first = addDays(present.monday, -7 * MOST_WEEKS_BACK);
  return wanted && wanted >= first && wanted < present.monday ? weekOf(wanted, zone) : present;
}

type Child = { id: string; name: string };

/** Index: guardianship's key. */
function readChildren({ db, who }: ReadCall): Promise<Child[]> {
  return db<Child[]>`
    select child.id, child.name
    from guardianship
    join person child on child.id = guardianship.student_id
    where guardianship.guardian_id = ${who.id}
    order by child.sort_name, child.id`;
}

async function childOf(
  call: ReadCall,
  { id, name }: Child,
  { week, isPresent }: { week: Week; isPresent: boolean },
): Promise<WeekChild> {
  const [rows, letters] = await Promise.all([
    readPieces(call, id),
    readLettersAbout(call, id, week),
  ]);
  return {
    ...{ id, name, letters },
    lines: rows
      .filter((row) => (isPresent && isWanted(row, call.now)) || concerns(row, week))
      .map((row) => lineOf(row, week, call)),
  };
}

/** What is still to be done, whenever it was or is due, and what was due within the last seven days. */
const isWanted = ({ state, due }: WorkRow, now: Date): boolean =>
  isWithStudent(state) || now.getTime() - due.getTime() < 7 * 86_400_000;

const backIn = ({ handBacks }: WorkRow, week: Week): Date | null => {
  const at = handBacks?.at(-1)?.at;
  return at && isInWeek(new Date(at), week) ? new Date(at) : null;
};

const concerns = (row: WorkRow, week: Week): boolean =>
  isInWeek(row.due, week) || backIn(row, week) !== null;

function lineOf(row: WorkRow, week: Week, call: ReadCall): WeekLine {
  const moon = moonOf(row, call.now);
  const { pieces } = MESSAGES[languageOf(call.who)];
  const back = backIn(row, week);
  return {
    ...{ title: row.title, section: row.section, due: when(row.due, call) },
    ...{ state: sayState(moon, pieces), moon, score: toldScore(row) },
    back: back && when(back, call),
  };
}

/** Index: letter_to_person. */
async function readLettersAbout(
  call: ReadCall,
  studentId: string,
  { begins, ends }: Week,
): Promise<WeekLetter[]> {
  const { db, who, now } = call;
  const rows = await db<
    (Omit<WeekLetter, "when" | "unread"> & { at: Date; readAt: Date | null })[]
  >`
    select letter_to.id, author.name as from, letter.subject, letter_to.body, letter.goes_at as at, letter_to.read_at
    from letter_to
    join letter on letter.id = letter_to.letter_id
    join person author on author.id = letter.author_id
    where letter_to.person_id = ${who.id} and letter_to.student_id = ${studentId}
      and letter.goes_at >= ${begins} and letter.goes_at < ${ends} and letter.goes_at <= ${now}
    order by letter.goes_at desc, letter_to.id
    limit 50`;
  return rows.map(({ at, readAt, ...row }) => ({
    ...row,
    ...{ when: when(at, call), unread: readAt === null },
  }));
}

/** The language of a guardian's week sheet and its mail. */
export async function setLanguage(
  { tx, who }: Call,
  { language }: { language: Language },
): Promise<{ language: Language }> {
  requireKind(who, "guardian");
  await tx`update person set language = ${language} where id = ${who.id}`;
  return { language };
}

/** Whether a guardian's week sheet is said by mail. */
export async function setWeekMail(
  { tx, who }: Call,
  { on }: { on: boolean },
): Promise<{ on: boolean }> {
  requireKind(who, "guardian");
  await tx`
    insert into week_mail (person_id, off) values (${who.id}, ${!on})
    on conflict (person_id) do update set off = excluded.off`;
  return { on };
}

/** What the mail of a week says: how much there is, and nothing of what it is. */
export async function countWeek(
  call: ReadCall,
): Promise<{ due: number; missing: number; back: number }> {
  const { children } = await weekView(call);
  const lines = children.flatMap((child) => child.lines);
  return {
    due: lines.filter(({ moon }) => isToDo(moon) && !moon.missing).length,
    missing: lines.filter(({ moon }) => moon.missing).length,
    back: lines.filter(({ back }) => back !== null).length,
  };
}

const isToDo = ({ state, excused }: WeekLine["moon"]): boolean => !excused && isWithStudent(state);
