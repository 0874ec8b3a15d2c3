import { answeredMarks, countOpenRequests } from "@/core/rounds/cameBack";
import { sayScore } from "@/core/scores/parseScore";
import type { RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { HandOutSheet, SheetLine } from "@/core/views/views";
import { sayState } from "@/core/views/states";
import { requireOnHandOut } from "../access/standing";
import type { ReadCall } from "../call";
import { lateWords, moonOf, whatCameBack, type CameBackColumns, type StandingRow } from "./standings";

type Line = StandingRow & CameBackColumns & { student: string };

/** A hand-out's sheet: one line per student, and what happened. */
export async function handOutSheet(call: ReadCall, handOutId: string): Promise<HandOutSheet> {
  const { db, who, now } = call;
  await requireOnHandOut(db, who, handOutId, "handOut.see");
  const [about, lines, history] = await Promise.all([readAbout(call, handOutId), readLines(call, handOutId), readHistory(call, handOutId)]);
  return { ...about, lines: lines.map((line) => lineOf(line, now, who.zone)), history };
}

async function readAbout({ db, who, now }: ReadCall, handOutId: string) {
  const [row] = await db<{ id: string; title: string; section: string; sectionId: string; course: string; instructions: RichDoc; opensAt: Date; dueAt: Date; closesAt: Date | null; promisedAt: Date | null; graceMinutes: number; pointsPossible: string | null; expects: "writing" | "nothing" }[]>`
    select
      hand_out.id, assignment.title, section.name as section, section.id as section_id, course.name as course, assignment.instructions,
      hand_out.opens_at, hand_out.due_at, hand_out.closes_at, hand_out.promised_at, hand_out.grace_minutes, assignment.points_possible, assignment.expects
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    where hand_out.id = ${handOutId}`;
  const { opensAt, dueAt, closesAt, promisedAt, graceMinutes, pointsPossible, ...about } = row!;
  const words = (at: Date) => sayTime(at, now, who.zone);
  return { ...about, opens: words(opensAt), due: words(dueAt), closes: closesAt && words(closesAt), promised: promisedAt && words(promisedAt), grace: graceMinutes, points: pointsPossible === null ? null : String(Number(pointsPossible)) };
}

function readLines({ db }: ReadCall, handOutId: string): Promise<Line[]> {
  return db<Line[]>`
    select
      standing.*, student.name as student,
      ${whatCameBack(db)}
    from piece_standing standing
    join person student on student.id = standing.student_id
    where standing.hand_out_id = ${handOutId}
    order by student.sort_name, standing.id`;
}

function lineOf(line: Line, now: Date, zone: string): SheetLine {
  const moon = moonOf(line, now);
  const handBacks = line.handBacks ?? [];
  const last = handBacks.at(-1);
  const marks = answeredMarks({ handBacks, answers: line.answers ?? [], messages: new Map(), texts: new Map() }, "");
  const scored = [...handBacks].reverse().find((h) => h.content.points !== null)?.content;
  return {
    pieceId: line.id,
    student: line.student,
    moon,
    state: sayState(moon),
    handedIn: line.handedInAt && sayTime(line.handedInAt, now, zone),
    lateness: lateWords(line, zone),
    openRequests: countOpenRequests(marks),
    settledRequests: marks.filter((m) => m.request === "settled").length,
    score: scored ? sayScore(scored.points!, scored.possible!) : null,
    seen: last && line.seenAt && line.seenAt >= new Date(last.at) ? sayTime(line.seenAt, now, zone) : null,
  };
}

/** The newest lines of the record, in words. Index: event_hand_out. */
async function readHistory({ db, who, now }: ReadCall, handOutId: string) {
  const rows = await db<{ at: Date; actor: string; kind: string; student: string | null }[]>`
    select event.at, actor.name as actor, event.kind, student.name as student
    from event
    join person actor on actor.id = event.actor_id
    left join piece on piece.id = event.piece_id
    left join person student on student.id = piece.student_id
    where event.hand_out_id = ${handOutId}
    order by event.id desc
    limit 40`;
  return rows.map((row) => ({ when: sayTime(row.at, now, who.zone), who: row.actor, what: row.student && row.student !== row.actor ? `${row.kind} (${row.student})` : row.kind }));
}
