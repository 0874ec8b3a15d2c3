import { decideMove, isMissing } from "@/core/pieces/life";
import { answeredMarks, countOpenRequests, currentMarks } from "@/core/rounds/cameBack";
import { sayScore } from "@/core/scores/parseScore";
import { plainText } from "@/core/text/plainText";
import { EMPTY_DOC, type RichDoc } from "@/core/text/richDoc";
import { lateness, sayLateness } from "@/core/time/lateness";
import { sayTime } from "@/core/time/words";
import type { CameBackView, PieceView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { ReadCall } from "../call";
import { readAnswers, readHandBacks, readMessages, readPiece, readVersions, readWorkingCopy, type HandBackRow, type PieceRow, type VersionRow } from "./queries";
import { receiptOf } from "./receipt";

/** A student's own piece: the task, the work, and what came back. Drafts of feedback are not read at all. */
export async function pieceView(call: ReadCall, pieceId: string): Promise<PieceView> {
  const { db, who, now } = call;
  await requireOnPiece(call, pieceId, "piece.see");
  const [piece, about, copy, versions, handBacks, answers, messages, rounds] = await Promise.all([
    readPiece(db, pieceId),
    readAbout(call, pieceId),
    readWorkingCopy(db, pieceId),
    readVersions(db, pieceId),
    readHandBacks(db, pieceId),
    readAnswers(db, pieceId),
    readMessages(call, pieceId),
    db<{ number: number; dueAt: Date | null }[]>`select number, due_at from round where piece_id = ${pieceId} order by number`,
  ]);
  const latest = versions.at(-1);
  const inHand = piece.state === "handed_in" || piece.state === "handed_back";
  const doc = (inHand ? latest?.doc : copy?.doc) ?? EMPTY_DOC;
  const texts = new Map(versions.map((v) => [v.id, v.text]));
  const all = answeredMarks({ handBacks, answers, messages: messages.byMark, texts }, plainText(doc).text);
  const write = decideMove(piece, { kind: "write" }, "student", now);
  const back = decideMove(piece, { kind: "takeBack" }, "student", now);
  return {
    id: pieceId,
    ...about,
    expects: piece.expects,
    moon: { state: piece.state, round: piece.round, late: inRoundLate(piece, versions), missing: isMissing(piece, now), excused: piece.excused },
    round: piece.round,
    due: { words: sayTime(piece.due, now, who.zone), iso: piece.due.toISOString(), lateness: dueWords(piece, now, who.zone) },
    closes: piece.closesAt && sayTime(piece.closesAt, now, who.zone),
    points: piece.pointsPossible === null ? null : sayScore(piece.pointsPossible, piece.pointsPossible).split(" ")[0]!,
    mayTakeBack: back.allowed,
    locked: write.allowed ? null : write.reason,
    takeBackRefused: piece.state === "handed_in" && !back.allowed ? back.reason : null,
    work: { doc, revision: copy?.revision ?? 0, saved: copy && sayTime(copy.savedAt, now, who.zone) },
    receipts: versions.map((v) => receiptOf(v, who.zone)).reverse(),
    cameBack: handBacks.map((h) => cameBackView(h, now, who.zone)),
    marks: currentMarks(all),
    openRequests: piece.state === "handed_back" ? 0 : countOpenRequests(all),
    thread: messages.whole,
    rounds: rounds.map(({ number, dueAt }) => ({ number, words: dueAt ? `due ${sayTime(dueAt, now, who.zone)}` : "" })),
    zone: who.zone,
  };
}

export function inRoundLate(piece: Pick<PieceRow, "round" | "state">, versions: readonly VersionRow[]): boolean {
  const last = versions.at(-1);
  return last !== undefined && last.roundNumber === piece.round && lateness(last, last.handedInAt).late;
}

function dueWords(piece: PieceRow, now: Date, zone: string): string | null {
  const awaited = piece.state !== "handed_in" && piece.state !== "handed_back" && piece.expects === "writing";
  return awaited && lateness(piece, now).late ? sayLateness(piece, now, zone) : null;
}

export function cameBackView(handBack: HandBackRow, now: Date, zone: string): CameBackView {
  const { content } = handBack;
  return {
    round: handBack.round,
    outcome: handBack.outcome,
    overall: content.overall,
    score: content.points !== null && content.possible !== null ? sayScore(content.points, content.possible) : null,
    by: handBack.by,
    when: sayTime(handBack.handedBackAt, now, zone),
    nextDue: handBack.nextDueAt && sayTime(handBack.nextDueAt, now, zone),
  };
}

async function readAbout({ db, who, now }: ReadCall, pieceId: string) {
  const [row] = await db<{ title: string; instructions: RichDoc; section: string; course: string; teacher: string; promisedAt: Date | null }[]>`
    select assignment.title, assignment.instructions, section.name as section, course.name as course, owner.name as teacher, hand_out.promised_at
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    join section_teacher on section_teacher.section_id = section.id and section_teacher.role = 'owner'
    join person owner on owner.id = section_teacher.person_id
    where piece.id = ${pieceId}`;
  const { promisedAt, ...about } = row!;
  return { ...about, promised: promisedAt && sayTime(promisedAt, now, who.zone) };
}
