import { sayTime } from "@/core/time/words";
import type { SentFile } from "@/core/threads/message";
import type { OpenQuestion } from "@/core/views/letterViews";
import type { ClipView } from "@/core/views/voiceViews";
import { requireKind } from "../access/standing";
import type { ReadCall } from "../call";
import { filesOf } from "../life/messages";
import { hiddenNow } from "../names/names";
import { mayHear } from "../speech/clips";

type Row = {
  files: SentFile[];
  pieceId: string;
  student: string;
  hidden: boolean;
  handOutId: string;
  title: string;
  section: string;
  id: string;
  body: string;
  clipId: string | null;
  sentAt: Date;
  markId: string | null;
  quote: string | null;
  said: string | null;
  checkpoint: number | null;
  lookId: string | null;
};

const MOST = 400;

/**
 * Every question that waits for this teacher, with what it is about: of each piece what its student wrote since the last
 * word of a teacher. Those that wait longest come first. Indexes: section_teacher_person, piece by hand-out, message_piece.
 */
export async function openQuestions(
  call: ReadCall,
): Promise<{ questions: OpenQuestion[]; clips: ClipView[] }> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const rows = await db<Row[]>`
    select asked.id as piece_id, shown_name(student) as student, ${hiddenNow(db, db`asked.id`)} as hidden, hand_out.id as hand_out_id,
      asked.title, section.name as section,
      message.id, message.body, message.clip_id, ${filesOf(db, db`message`)} as files, message.sent_at, message.mark_id, mark.quote, mark.body as said, checkpoint.number as checkpoint,
      (select look.id from look where look.checkpoint_id = checkpoint.id and look.reader_id is null limit 1) as look_id
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null and hand_out.put_away_at is null
    cross join lateral (
      select id, student_id, title from piece_standing where piece_standing.hand_out_id = hand_out.id and piece_standing.asked offset 0
    ) asked
    join person student on student.id = asked.student_id
    join message on message.piece_id = asked.id and message.author_id = asked.student_id
      and message.sent_at > coalesce((select max(sent_at) from message earlier where earlier.piece_id = asked.id and earlier.author_id <> asked.student_id), '-infinity')
    left join mark on mark.id = message.mark_id
    left join checkpoint on checkpoint.id = message.checkpoint_id
    where section_teacher.person_id = ${who.id}
    order by message.sent_at, message.id
    limit ${MOST}`;
  const questions = new Map<string, OpenQuestion>();
  for (const row of rows) {
    const question = questions.get(row.pieceId) ?? begin(row);
    question.words.push({
      ...{ id: row.id, body: row.body, clipId: row.clipId, files: row.files },
      when: sayTime(row.sentAt, now, who.zone),
      about: sayAbout(row),
    });
    question.answers = { markId: row.markId, checkpoint: row.checkpoint };
    question.lookId = row.lookId ?? question.lookId;
    questions.set(row.pieceId, question);
  }
  const clips = await mayHear(
    call,
    rows.map((row) => row.clipId),
  );
  return { questions: [...questions.values()], clips };
}

function begin({ pieceId, student, hidden, handOutId, title, section }: Row): OpenQuestion {
  return {
    ...{ pieceId, title, section, words: [], lookId: null },
    student: hidden ? "a student" : student,
    href: `/desk?pile=questions&handOut=${handOutId}&piece=${pieceId}`,
    answers: { markId: null, checkpoint: null },
  };
}

/** What a question is about: the words of a mark and what it says, a checkpoint, or (null) the whole. */
function sayAbout({ quote, said, checkpoint }: Row): string | null {
  if (quote) return said ? `“${quote}”: ${said}` : `“${quote}”`;
  if (said) return said;
  return checkpoint === null ? null : `checkpoint ${checkpoint}`;
}
