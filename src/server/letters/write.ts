import { fillPlaceholders } from "@/core/comments/placeholders";
import { addressed, answerAddress, type LetterTo } from "@/core/letters/letter";
import { Invalid, NotFound } from "@/core/refusals";
import { afterQuiet, quietHours } from "@/core/time/quiet";
import { sayTime } from "@/core/time/words";
import { requireOnSection } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { recordEvent } from "../life/queries";
import { post } from "../mail/postRoom";
import { settings } from "../settings";

export type GivenLetter = {
  handOutId: string | null;
  studentIds: readonly string[];
  to: LetterTo;
  subject: string;
  body: string;
};

/** What became of it: to how many, of whom some have no address, and when it goes. */
export type WrittenLetter = { to: number; byMail: number; goes: string | null };

/**
 * A teacher writes to students of a section, or to their guardians: in the application, and by mail to those who have
 * an address. In the quiet hours it is held until they end. Each copy says who it is to.
 */
export async function writeLetter(
  call: Call,
  sectionId: string,
  given: GivenLetter,
): Promise<WrittenLetter> {
  const { tx, who, now } = call;
  await requireOnSection(tx, who, sectionId, "letter.write");
  const students = await readStudents(tx, sectionId, given.studentIds);
  if (students.length !== new Set(given.studentIds).size) throw new NotFound();
  await requireInSection(tx, sectionId, given.handOutId);
  const copies = addressed(students, given.to);
  if (copies.length === 0)
    throw new Invalid({ to: "None of these students has a guardian here. Nothing was sent." });
  const goesAt = await whenItGoes(call);
  const id = call.newId();
  const { handOutId, subject, body } = given;
  await tx`insert into letter ${tx({ id, sectionId, handOutId, authorId: who.id, subject, body, writtenAt: now, goesAt })}`;
  const people = await readPeople(
    tx,
    copies.map((c) => c.personId),
  );
  const called = new Map(students.map((s) => [s.studentId, s.called]));
  let byMail = 0;
  for (const copy of copies) {
    const person = people.get(copy.personId)!;
    const text = fillPlaceholders(body, { name: called.get(copy.studentId) });
    byMail += await send(call, { letterId: id, ...copy, person, text, subject, goesAt });
  }
  await recordEvent(call, {
    ...{ handOutId, pieceId: null, kind: "wrote a letter" },
    detail: { letterId: id, to: copies.length },
  });
  return { to: copies.length, byMail, goes: goesAt > now ? sayTime(goesAt, now, who.zone) : null };
}

type Student = { studentId: string; called: string; guardians: string[] };

/** Indexes: enrolment's key, guardianship_student. */
function readStudents(db: Db, sectionId: string, ids: readonly string[]): Promise<Student[]> {
  return db<Student[]>`
    select person.id as student_id, person.called,
      coalesce((select array_agg(guardian_id order by guardian_id) from guardianship where student_id = person.id), '{}') as guardians
    from enrolment
    join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId} and enrolment.left_on is null and person.id = any(${ids as string[]})
    order by person.sort_name, person.id`;
}

async function requireInSection(
  db: Db,
  sectionId: string,
  handOutId: string | null,
): Promise<void> {
  if (handOutId === null) return;
  const [found] = await db`
    select from hand_out where id = ${handOutId} and section_id = ${sectionId}`;
  if (!found) throw new NotFound();
}

async function whenItGoes({ tx, who, now }: Call): Promise<Date> {
  const [school] = await tx<
    { quietFrom: string | null; quietUntil: string | null }[]
  >`select quiet_from, quiet_until from school where id = ${who.schoolId}`;
  return afterQuiet(now, quietHours(school!.quietFrom, school!.quietUntil), who.zone);
}

type To = { name: string; called: string; email: string | null };

async function readPeople(db: Db, ids: readonly string[]): Promise<Map<string, To>> {
  const rows = await db<
    (To & { id: string })[]
  >`select id, name, called, email from person where id = any(${ids as string[]})`;
  return new Map(rows.map(({ id, ...to }) => [id, to]));
}

type Copy = {
  letterId: string;
  personId: string;
  studentId: string;
  person: To;
  text: string;
  subject: string;
  goesAt: Date;
};

/** One copy: there in the application, and by mail where there is an address. @returns 1 where it goes by mail */
async function send(call: Call, copy: Copy): Promise<0 | 1> {
  const { tx, who, now, newId } = call;
  const { letterId, personId, studentId, person, text, subject, goesAt } = copy;
  const id = newId();
  // The random digits of two fresh ids: nobody guesses whom an answer would be taken for.
  const code = `${newId().slice(-12)}${newId().slice(-12)}`;
  const mailId = person.email
    ? await post(
        tx,
        {
          ...{ personId, address: person.email, name: person.name, subject, goesAt },
          text: `${text}\n\n${who.name}\n\nYou can answer this mail, or in Almanac under Letters.\n`,
          replyTo: answerAddress(code, settings().mailFrom),
        },
        now,
        newId,
      )
    : null;
  await tx`insert into letter_to ${tx({ id, letterId, personId, studentId, code, body: text, mailId })}`;
  return mailId ? 1 : 0;
}
