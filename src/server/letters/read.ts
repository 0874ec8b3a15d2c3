import { sayTime } from "@/core/time/words";
import type { LettersView, LetterWord, ReceivedLetter, SentLetter } from "@/core/views/letterViews";
import type { ReadCall } from "../call";

const MOST = 200;

/** The letters one got, and those that were sent in the sections one teaches; the newest first. */
export async function readLetters(call: ReadCall): Promise<LettersView> {
  const { who } = call;
  const [received, sent] = await Promise.all([
    readReceived(call),
    who.kind === "teacher" ? readSentLetters(call) : [],
  ]);
  return { received, sent };
}

type ReceivedRow = Omit<ReceivedLetter, "when" | "unread" | "words"> & {
  goesAt: Date;
  readAt: Date | null;
};

/** Index: letter_to_person. */
async function readReceived(call: ReadCall): Promise<ReceivedLetter[]> {
  const { db, who, now } = call;
  const rows = await db<ReceivedRow[]>`
    select letter_to.id, author.name as from, section.name as section,
      case when letter_to.student_id <> letter_to.person_id then student.name end as about,
      letter.subject, letter_to.body, letter.goes_at, letter_to.read_at
    from letter_to
    join letter on letter.id = letter_to.letter_id
    join person author on author.id = letter.author_id
    join person student on student.id = letter_to.student_id
    join section on section.id = letter.section_id
    where letter_to.person_id = ${who.id} and letter.goes_at <= ${now}
    order by letter.goes_at desc, letter_to.id
    limit ${MOST}`;
  const words = await readWords(
    call,
    rows.map((row) => row.id),
  );
  return rows.map(({ goesAt, readAt, ...row }) => {
    const own = words.get(row.id) ?? [];
    return {
      ...row,
      when: sayTime(goesAt, now, who.zone),
      unread: readAt === null || own.some((word) => word.unread && !word.mine),
      words: own.map(wordOf),
    };
  });
}

type CopyRow = {
  letterId: string;
  by: string;
  mine: boolean;
  section: string;
  title: string | null;
  subject: string;
  body: string;
  writtenAt: Date;
  goesAt: Date;
  id: string;
  name: string;
  about: string | null;
  readAt: Date | null;
  byMail: boolean;
};

/**
 * Letters sent in the sections one teaches, with what became of each copy; of one student, those to them and about them
 * alone. Indexes: section_teacher_person, letter_section, letter_to's unique one, letter_to_student.
 */
export async function readSentLetters(
  call: ReadCall,
  studentId: string | null = null,
): Promise<SentLetter[]> {
  const { db, who, now } = call;
  const rows = await db<CopyRow[]>`
    select letter.id as letter_id, author.name as by, letter.author_id = ${who.id} as mine, section.name as section,
      full_title(assignment.emoji, assignment.number, assignment.title) as title, letter.subject, letter.body, letter.written_at, letter.goes_at,
      letter_to.id, person.name, case when letter_to.student_id <> letter_to.person_id then student.name end as about,
      letter_to.read_at, letter_to.mail_id is not null as by_mail
    from (
      select letter.*
      from section_teacher
      join letter on letter.section_id = section_teacher.section_id
      where section_teacher.person_id = ${who.id}
        and (${studentId}::uuid is null or exists (select from letter_to where letter_id = letter.id and student_id = ${studentId}::uuid))
      order by letter.written_at desc
      limit ${MOST}
    ) letter
    join section on section.id = letter.section_id
    join person author on author.id = letter.author_id
    left join hand_out on hand_out.id = letter.hand_out_id
    left join assignment on assignment.id = hand_out.assignment_id
    join letter_to on letter_to.letter_id = letter.id
    join person on person.id = letter_to.person_id
    join person student on student.id = letter_to.student_id
    where ${studentId}::uuid is null or letter_to.student_id = ${studentId}::uuid
    order by letter.written_at desc, letter.id, student.sort_name, person.sort_name`;
  const words = await readWords(
    call,
    rows.map((row) => row.id),
  );
  const letters = new Map<string, SentLetter>();
  for (const row of rows) {
    const { letterId, by, mine, section, title, subject, body } = row;
    const letter = letters.get(letterId) ?? {
      ...{ letterId, by, mine, section, title, subject, body, unread: 0, to: [] },
      when: sayTime(row.writtenAt, now, who.zone),
      held: row.goesAt > now ? sayTime(row.goesAt, now, who.zone) : null,
    };
    const own = words.get(row.id) ?? [];
    const unread = own.filter((word) => word.unread && word.fromOutside).length;
    letter.to.push({
      ...{ id: row.id, name: row.name, about: row.about, byMail: row.byMail, unread },
      read: row.readAt && sayTime(row.readAt, now, who.zone),
      words: own.map(wordOf),
    });
    letter.unread += unread;
    letters.set(letterId, letter);
  }
  return [...letters.values()];
}

type Word = LetterWord & { unread: boolean; fromOutside: boolean };
const wordOf = ({ id, author, mine, body, when, byMail }: Word): LetterWord => ({
  ...{ id, author, mine, body, when, byMail },
});

/** What came back on copies, and what was said to it. Index: letter_answer_to. */
async function readWords(
  { db, who, now }: ReadCall,
  copies: readonly string[],
): Promise<Map<string, Word[]>> {
  const rows = await db<
    {
      id: string;
      letterToId: string;
      authorId: string;
      personId: string;
      author: string;
      body: string;
      byMail: boolean;
      saidAt: Date;
      readAt: Date | null;
    }[]
  >`
    select letter_answer.id, letter_to_id, author_id, letter_to.person_id, person.name as author, letter_answer.body, by_mail, said_at, letter_answer.read_at
    from letter_answer
    join letter_to on letter_to.id = letter_to_id
    join person on person.id = author_id
    where letter_to_id = any(${copies as string[]})
    order by said_at, letter_answer.id`;
  const words = new Map<string, Word[]>();
  for (const { letterToId, authorId, personId, saidAt, readAt, ...row } of rows) {
    const word = {
      ...row,
      mine: authorId === who.id,
      fromOutside: authorId === personId,
      when: sayTime(saidAt, now, who.zone),
      unread: readAt === null,
    };
    words.set(letterToId, [...(words.get(letterToId) ?? []), word]);
  }
  return words;
}

/** How many letters, or answers to them, one has not read. Indexes: letter_to_person, letter_answer_unread. */
export async function countUnread({ db, who, now }: ReadCall): Promise<number> {
  const [row] =
    who.kind === "teacher"
      ? await db<{ n: number }[]>`
        select count(*)::int as n
        from letter_answer
        join letter_to on letter_to.id = letter_to_id
        join letter on letter.id = letter_to.letter_id
        join section_teacher on section_teacher.section_id = letter.section_id and section_teacher.person_id = ${who.id}
        where letter_answer.read_at is null and letter_answer.author_id = letter_to.person_id`
      : await db<{ n: number }[]>`
        select count(*)::int as n
        from letter_to
        join letter on letter.id = letter_to.letter_id
        where letter_to.person_id = ${who.id} and letter.goes_at <= ${now} and (
          letter_to.read_at is null
          or exists (select from letter_answer where letter_to_id = letter_to.id and author_id <> ${who.id} and letter_answer.read_at is null)
        )`;
  return row!.n;
}
