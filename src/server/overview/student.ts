import { NotFound } from "@/core/refusals";
import { sayMessage } from "@/core/threads/message";
import { categoriesOver, scoresOver } from "@/core/figures/course";
import { dayOf } from "@/core/time/zone";
import { sayDay, sayTime } from "@/core/time/words";
import type { StudentPage } from "@/core/views/studentViews";
import { requireKind } from "../access/standing";
import type { ReadCall } from "../call";
import { readSentLetters } from "../letters/read";
import { hiddenNow } from "../names/names";
import { againAndAgain, courseOf, overTime } from "./overTime";
import { lineOf, linesWhere, type Line } from "./sheetLines";

/**
 * Everything of one student across the sections that this teacher teaches them in: for a meeting. Of what is read
 * without its name it says only whether it is in; private notes stand apart, and are not printed.
 *
 * @throws NotFound when the teacher has the student in no section
 */
export async function studentPage(call: ReadCall, studentId: string): Promise<StudentPage> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const sections = await readSections(call, studentId);
  if (sections.length === 0) throw new NotFound();
  const ids = sections.map((section) => section.id);
  const mine = db`standing.student_id = ${studentId} and standing.section_id = any(${ids})
    and standing.opens_at <= ${now} and standing.withdrawn_at is null`;
  const [lines, talk, notes, comments, letters] = await Promise.all([
    linesWhere(db, mine),
    readTalk(call, studentId, ids),
    readNotes(call, studentId, ids),
    againAndAgain(call, db`piece.student_id = ${studentId} and hand_out.section_id = any(${ids})`),
    readSentLetters(call, studentId),
  ]);
  const named = new Map(sections.map((section) => [section.id, section.name]));
  const open = lines.filter((line) => !line.hidden);
  return {
    student: sections[0]!.student,
    studentId,
    sections: sections.map(({ id, name, course }) => ({ id, name, course })),
    lines: [...lines]
      .sort((a, b) => b.due.getTime() - a.due.getTime())
      .map((line) => ({
        ...lineOf(line, now, who.zone),
        ...{ title: line.title, section: named.get(line.sectionId) ?? "" },
        ...{ handOutId: line.handOutId, due: sayTime(line.due, now, who.zone) },
      })),
    overTime: overTime(open),
    course: courseView(call, open),
    comments,
    talk,
    letters,
    notes,
  };
}

function courseView(call: ReadCall, lines: readonly Line[]): StudentPage["course"] {
  const pieces = courseOf(lines, call);
  const today = dayOf(call.now, call.who.zone);
  return {
    scores: scoresOver(pieces).map((score) => ({ ...score, day: sayDay(score.on, today) })),
    categories: categoriesOver(pieces),
  };
}

type Section = { id: string; name: string; course: string; student: string };

/** Indexes: section_teacher_person, enrolment_student. */
function readSections({ db, who }: ReadCall, studentId: string): Promise<Section[]> {
  return db<Section[]>`
    select section.id, section.name, course.name as course, shown_name(student) as student
    from section_teacher
    join enrolment on enrolment.section_id = section_teacher.section_id and enrolment.student_id = ${studentId}
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    join person student on student.id = enrolment.student_id
    where section_teacher.person_id = ${who.id}
    order by course.name, section.name`;
}

/** The last words of their threads. Index: piece_student, message_piece. */
async function readTalk(
  { db, who, now }: ReadCall,
  studentId: string,
  sections: readonly string[],
): Promise<StudentPage["talk"]> {
  const rows = await db<
    {
      pieceId: string;
      title: string;
      author: string;
      body: string;
      voice: boolean;
      files: number;
      sentAt: Date;
    }[]
  >`
    select piece.id as piece_id, full_title(assignment.emoji, assignment.number, assignment.title) as title,
      author.name as author, message.body, message.clip_id is not null as voice, (select count(*)::int from message_file where message_id = message.id) as files, message.sent_at
    from piece
    join hand_out on hand_out.id = piece.hand_out_id and hand_out.section_id = any(${sections as string[]})
    join assignment on assignment.id = hand_out.assignment_id
    join message on message.piece_id = piece.id
    join person author on author.id = message.author_id
    where piece.student_id = ${studentId} and piece.removed_at is null
      and not ${hiddenNow(db, db`piece.id`)}
    order by message.sent_at desc, message.id desc
    limit 40`;
  return rows.map(({ sentAt, body, voice, files, ...row }) => ({
    ...row,
    body: sayMessage({ body, voice, files }),
    when: sayTime(sentAt, now, who.zone),
  }));
}

/** Index: private_note_student. */
async function readNotes(
  { db, who, now }: ReadCall,
  studentId: string,
  sections: readonly string[],
): Promise<StudentPage["notes"]> {
  const rows = await db<{ author: string; body: string; writtenAt: Date; section: string }[]>`
    select author.name as author, private_note.body, private_note.written_at, section.name as section
    from private_note
    join person author on author.id = private_note.author_id
    join section on section.id = private_note.section_id
    where private_note.student_id = ${studentId} and private_note.section_id = any(${sections as string[]})
      and private_note.deleted_at is null
      and not exists (
        select
        from piece
        join hand_out on hand_out.id = piece.hand_out_id
        where piece.id = private_note.piece_id and ${hiddenNow(db, db`piece.id`)}
      )
    order by private_note.written_at desc
    limit 100`;
  return rows.map(({ writtenAt, ...row }) => ({ ...row, when: sayTime(writtenAt, now, who.zone) }));
}
