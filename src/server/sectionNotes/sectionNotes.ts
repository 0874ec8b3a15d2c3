import { isTeacher, may, type Standing } from "@/core/access/access";
import { mayReport } from "@/core/looks/shown";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import {
  answerIs,
  mayTakeAway,
  seesSaid,
  type ClassAnswers,
} from "@/core/sectionNotes/sectionNote";
import { sayTime } from "@/core/time/words";
import type { SaidView, SectionNotes } from "@/core/views/sectionNoteViews";
import { requireInClass } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";
import { mayHear, OWN_SECONDS, ownClip, requirePieceClip } from "../speech/clips";

/**
 * Section notes: a teacher's word to all the students of one hand-out, and the class's answers. Nothing here is
 * overwritten: what is taken away keeps its row, with who took it.
 */
type Given = { body: string; clipId: string | null };
type Row = {
  id: string;
  answersId: string | null;
  authorId: string;
  author: string;
  body: string;
  clipId: string | null;
  saidAt: Date;
  shownAt: Date | null;
  takenAt: Date | null;
  reportedAt: Date | null;
  reportWhy: string;
};

/** All that the one who asks may see of it. Index: section_note_hand_out. @throws NotFound */
export async function readSectionNotes(call: ReadCall, handOutId: string): Promise<SectionNotes> {
  const { db, who } = call;
  const standing = await requireInClass(call, handOutId, "class.see");
  const [rows, [about]] = await Promise.all([
    db<Row[]>`
      select note.id, note.answers_id, note.author_id,
        -- To teachers who read without names, whoever answers has none.
        case when hand_out.anonymous and author.kind = 'student' and ${who.kind === "teacher"} then 'a student' else author.name end as author,
        note.body, note.clip_id, note.said_at, note.shown_at, note.taken_at, note.reported_at, note.report_why
      from section_note note
      join person author on author.id = note.author_id
      join hand_out on hand_out.id = note.hand_out_id
      where note.hand_out_id = ${handOutId}
      order by note.said_at, note.id`,
    readAbout(call, handOutId),
  ]);
  const seen = rows.filter((row) => seesSaid(standing, stateOf(row, who.id)));
  const views = seen.map((row) => ({ row, view: viewOf(call, standing, row) }));
  const notes = views
    .filter(({ row }) => row.answersId === null)
    .map(({ row, view }) => ({
      ...view,
      answers: views
        .filter(({ row: answer }) => answer.answersId === row.id)
        .map(({ view: answer }) => answer),
    }));
  const teacher = standing !== "student";
  return {
    handOutId,
    notes,
    clips: await mayHear(
      call,
      notes.flatMap((n) => [n.clipId, ...n.answers.map((a) => a.clipId)]),
    ),
    maySay: may(standing, "class.say"),
    answers: teacher ? "at once" : about!.classAnswers,
    pieceId: about!.pieceId,
    mostSeconds: teacher ? OWN_SECONDS : about!.replySeconds,
  };
}

/** A teacher says something to all the students of the hand-out. */
export async function sayToClass(
  call: Call,
  handOutId: string,
  given: Given,
): Promise<SectionNotes> {
  await requireInClass(call, handOutId, "class.say");
  const clipId = await ownClip(call, given.clipId);
  await store(call, { handOutId, answersId: null, shown: true }, { body: given.body, clipId });
  return readSectionNotes(call, handOutId);
}

/** A student or a teacher answers a note, to the whole class. */
export async function answerToClass(
  call: Call,
  noteId: string,
  given: Given,
): Promise<SectionNotes> {
  const note = await requireSaid(call, noteId, "class.answer");
  if (note.row.answersId !== null)
    throw new Refused(
      "This note is not there any more, so it cannot be answered. What you wrote is still in the field.",
    );
  const [about] = await readAbout(call, note.handOutId);
  const becomes = answerIs(note.standing, about!.classAnswers);
  if (becomes === "refused")
    throw new Refused(
      "Answers to the class are not open here. Write in your own thread below instead: your teacher reads it.",
    );
  const clipId = note.standing === "student" ? given.clipId : await ownClip(call, given.clipId);
  if (note.standing === "student") await requirePieceClip(call, about!.pieceId ?? "", clipId);
  await store(
    call,
    { handOutId: note.handOutId, answersId: noteId, shown: becomes === "shown" },
    { body: given.body, clipId },
  );
  return readSectionNotes(call, note.handOutId);
}

/** A teacher lets the class see an answer, or hides it again. */
export async function showAnswer(
  call: Call,
  noteId: string,
  { shown }: { shown: boolean },
): Promise<SectionNotes> {
  const { row, handOutId } = await requireSaid(call, noteId, "class.moderate");
  if (row.answersId === null)
    throw new Refused("A note to the class is seen by the class; it can be taken away.");
  // Read by a teacher who lets it stand, a report is dealt with.
  await call.tx`
    update section_note
    set shown_at = ${shown ? call.now : null}, shown_by = ${shown ? call.who.id : null}, reported_at = null, reported_by = null
    where id = ${noteId}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: shown ? "let the class see an answer" : "hid an answer from the class",
    detail: { sectionNoteId: noteId },
  });
  return readSectionNotes(call, handOutId);
}

/** A student who sees an answer reports it to the teachers; nobody else learns who did. */
export async function reportAnswer(
  call: Call,
  noteId: string,
  { why }: { why: string },
): Promise<SectionNotes> {
  const { row, standing, handOutId } = await requireSaid(call, noteId, "class.see");
  if (row.answersId === null || !mayReport(standing, stateOf(row, call.who.id)))
    throw new Refused("This is with your teacher already.");
  await call.tx`
    update section_note
    set reported_at = ${call.now}, reported_by = ${call.who.id}, report_why = ${why}
    where id = ${noteId}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: "reported an answer to the class",
    detail: { sectionNoteId: noteId },
  });
  return readSectionNotes(call, handOutId);
}

/** Its author, or a teacher, takes it away. */
export async function takeAwaySaid(call: Call, noteId: string): Promise<SectionNotes> {
  const { row, standing, handOutId } = await requireSaid(call, noteId, "class.answer");
  if (!mayTakeAway(standing, stateOf(row, call.who.id))) throw new NotFound();
  await call.tx`update section_note set taken_at = ${call.now}, taken_by = ${call.who.id} where id = ${noteId}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: "took away what was said to the class",
    detail: { sectionNoteId: noteId },
  });
  return readSectionNotes(call, handOutId);
}

/** What one may act on: it is there for them. @throws NotFound */
async function requireSaid(
  call: Call,
  noteId: string,
  act: "class.see" | "class.answer" | "class.moderate",
): Promise<{ row: Row; standing: Standing; handOutId: string }> {
  const [row] = await call.tx<(Row & { handOutId: string })[]>`
    select id, hand_out_id, answers_id, author_id, '' as author, body, clip_id, said_at, shown_at, taken_at, reported_at, report_why
    from section_note
    where id = ${noteId}
    for update`;
  if (!row) throw new NotFound();
  const standing = await requireInClass(call, row.handOutId, act);
  if (!seesSaid(standing, stateOf(row, call.who.id))) throw new NotFound();
  return { row, standing, handOutId: row.handOutId };
}

async function store(
  call: Call,
  where: { handOutId: string; answersId: string | null; shown: boolean },
  { body, clipId }: Given,
): Promise<void> {
  if (body === "" && !clipId) throw new Invalid({ body: "Write or say something first." });
  const { handOutId, answersId, shown } = where;
  const id = call.newId();
  await call.tx`insert into section_note ${call.tx({ id, handOutId, answersId, authorId: call.who.id, body, clipId, saidAt: call.now, shownAt: shown ? call.now : null, shownBy: shown ? call.who.id : null })}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: answersId === null ? "said something to the class" : "answered to the class",
    detail: { sectionNoteId: id },
  });
}

function readAbout({ db, who }: ReadCall, handOutId: string) {
  return db<{ classAnswers: ClassAnswers; replySeconds: number; pieceId: string | null }[]>`
    select section.class_answers, section.reply_seconds, (select id from piece where hand_out_id = hand_out.id and student_id = ${who.id}) as piece_id
    from hand_out
    join section on section.id = hand_out.section_id
    where hand_out.id = ${handOutId}`;
}

const stateOf = (row: Row, whoId: string) => ({
  mine: row.authorId === whoId,
  shown: row.shownAt !== null,
  taken: row.takenAt !== null,
  reported: row.reportedAt !== null,
});

function shownAs({ taken, shown }: { taken: boolean; shown: boolean }): SaidView["state"] {
  if (taken) return "taken away";
  return shown ? "shown" : "waits";
}

function viewOf({ who, now }: ReadCall, standing: Standing, row: Row): SaidView {
  const said = stateOf(row, who.id);
  return {
    id: row.id,
    author: row.author,
    mine: said.mine,
    body: said.taken ? "" : row.body,
    clipId: said.taken ? null : row.clipId,
    when: sayTime(row.saidAt, now, who.zone),
    state: shownAs(said),
    mayTakeAway: mayTakeAway(standing, said),
    mayShow:
      row.answersId !== null &&
      !said.taken &&
      may(standing, "class.moderate") &&
      !(said.mine && said.shown),
    mayReport: row.answersId !== null && mayReport(standing, said),
    reported: isTeacher(standing) && said.reported && !said.taken ? row.reportWhy : null,
  };
}
