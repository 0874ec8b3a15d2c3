import { itemOf } from "@/core/marks/place";
import { decideAskToReopen, decideMove, isWithStudent } from "@/core/pieces/life";
import { cameLate, isMissing } from "@/core/pieces/standing";
import { answeredMarks, openRequests, currentMarks } from "@/core/rounds/cameBack";
import { sayLatePolicy } from "@/core/scores/latePolicy";
import { sayRounds } from "@/core/rounds/roundsRule";
import { plainText } from "@/core/text/plainText";
import { EMPTY_DOC, type RichDoc } from "@/core/text/richDoc";
import { lateness, sayLateness } from "@/core/time/lateness";
import { sayTime } from "@/core/time/words";
import type { PieceView, MoonView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import { readCalendar } from "../calendar/calendar";
import { readRubric } from "../rubrics/readRubric";
import type { ReadCall } from "../call";
import { inWork, itemView, readItems, readItemsById } from "../items/items";
import { readRoom } from "../items/list";
import { partViews, readAsked, readTries } from "../questions/answers";
import { signedAnswers } from "../questions/signs";
import { readSectionNotes } from "../sectionNotes/sectionNotes";
import { clipViews, heardIn } from "../speech/clips";
import { listCheckpoints } from "./checkpoints";
import { readGiven } from "./given";
import { marksForWriter, readForWriter } from "../looks/forWriter";
import { readOwnLooks } from "../looks/lines";
import { cameBackView } from "./cameBackView";
import { composeWork } from "./work";
import {
  readContent,
  readMarkAnswers,
  readHandBacks,
  readPiece,
  readScoreFacts,
  roundsRuleOf,
  readTexts,
  readVersions,
  readWorkingCopy,
  type HandBackRow,
  type PieceRow,
  type VersionRow,
} from "../life/queries";
import { readMessages } from "../life/messages";
import { toldScoreChanges } from "../life/scoreChangesView";
import { followedMarks } from "../text/aligned";
import { receiptOf } from "./receipt";

/** A student's own piece: the task, the work, and what came back. Drafts of feedback are not read at all. */
export async function pieceView(call: ReadCall, pieceId: string): Promise<PieceView> {
  const takenOff = (await requireOnPiece(call, pieceId, "piece.see")) === "taken off";
  return studentsView(call, pieceId, { takenOff });
}

/** A hand-back that is only looked at before it is made, and where the piece would stand after it. */
export type Pretended = { state: PieceRow["state"]; handBack: HandBackRow };

/**
 * The same, for a call whose right to it was asked for: the student's, or a teacher's who looks at a draft as its
 * student will see it.
 */
export async function studentsView(
  call: ReadCall,
  pieceId: string,
  { takenOff, pretended }: { takenOff: boolean; pretended?: Pretended },
): Promise<PieceView> {
  const { db, who, now } = call;
  const [
    stored,
    about,
    copy,
    versions,
    handedBack,
    answers,
    messages,
    rounds,
    given,
    asked,
    tries,
    room,
    checkpoints,
    toClass,
    looks,
    said,
    scores,
  ] = await Promise.all([
    readPiece(db, pieceId),
    readAbout(call, pieceId),
    readWorkingCopy(db, pieceId),
    readVersions(db, pieceId),
    readHandBacks(db, pieceId),
    readMarkAnswers(db, pieceId),
    readMessages(call, pieceId),
    db<
      { number: number; dueAt: Date | null }[]
    >`select number, due_at from round where piece_id = ${pieceId} order by number`,
    readGiven(call, pieceId),
    readAsked(db, pieceId),
    readTries(db, pieceId),
    readRoom(call, pieceId),
    listCheckpoints(call, pieceId),
    takenOff ? NOTHING_SAID : readAboutClass(call, pieceId),
    takenOff || pretended ? NOTHING_ASKED : readOwnLooks(call, pieceId),
    pretended ? [] : readForWriter(db, pieceId),
    readScoreFacts(db, pieceId),
  ]);
  const piece = pretended ? { ...stored, state: pretended.state } : stored;
  const handBacks = pretended
    ? [...handedBack.filter((h) => h.round !== pretended.handBack.round), pretended.handBack]
    : handedBack;
  const latest = versions.at(-1);
  // What is looked at in advance stands on what was handed in.
  const inHand =
    pretended !== undefined || piece.state === "handed_in" || piece.state === "handed_back";
  // A piece whose task gives a text to write in begins as the student's own copy of it.
  const [items, content, texts, rubric, late] = await Promise.all([
    readItems(db, pieceId, inHand && latest ? { version: latest.id } : "work"),
    latest ? readContent(db, latest.id) : null,
    readTexts(
      db,
      handBacks.map((h) => h.content.versionId),
    ),
    readRubric(db, piece.rubricId),
    sayLate(call, piece),
  ]);
  const doc = (inHand ? content?.doc : copy?.doc) ?? given.beginsWith ?? EMPTY_DOC;
  const mine = { doc, answers: (inHand ? content?.answers : copy?.answers) ?? {} };
  // Marks can stand on the words of a document too, which follow those of the writing.
  const whole = inHand ? doc : composeWork(mine, items, asked.sets);
  const cameBackFacts = {
    ...{ handBacks, answers, texts, messages: messages.byMark },
    items: new Set(inWork(items, doc).map((i) => i.id)),
  };
  const { text } = plainText(whole);
  const places = await followedMarks(db, cameBackFacts, text);
  const all = answeredMarks(cameBackFacts, text, places);
  const offered = await marksForWriter(call, said, { text, items: cameBackFacts.items });
  const current = [...currentMarks(all), ...offered];
  const [marked, clips] = await Promise.all([
    readItemsById(
      db,
      pieceId,
      current.flatMap((m) => itemOf(m.place) ?? []),
    ),
    clipViews(
      call,
      heardIn(current, [...messages.whole, ...current.flatMap((m) => m.messages)], about.voice),
    ),
  ]);
  return {
    id: pieceId,
    ...about,
    expects: piece.expects,
    moon: moonOfPiece(piece, versions, now),
    round: piece.round,
    due: {
      words: sayTime(piece.due, now, who.zone),
      iso: piece.due.toISOString(),
      lateness: dueWords(piece, now, who.zone),
    },
    closes: piece.closesAt && sayTime(piece.closesAt, now, who.zone),
    points: piece.pointsPossible === null ? null : String(Number(piece.pointsPossible)),
    ...given.view,
    late,
    roundsRule:
      piece.roundsMost === null && piece.finalScore === "latest"
        ? null
        : sayRounds(roundsRuleOf(piece)),
    rubric: rubric && { name: rubric.name, rubric: rubric.content },
    takenOff,
    ...(takenOff ? NOTHING_TO_DO : movesOf(piece, now)),
    work: {
      ...mine,
      answers: signedAnswers(pieceId, asked.sets, mine.answers),
      revision: copy?.revision ?? 0,
      saved: copy && sayTime(copy.savedAt, now, who.zone),
    },
    parts: partViews(asked, pieceId, tries, {
      handedIn: content && piece.state !== "started" ? content.answers : null,
      // Right and wrong of answers is what their score is: it comes with it.
      handedBack: handBacks.length > 0 && !handBacks.at(-1)!.content.withheld,
      over: piece.state === "handed_back" && !handBacks.at(-1)?.content.withheld,
      now: mine.answers,
      judgements: handBacks.at(-1)?.content.judgements ?? [],
    }),
    items: items.map(itemView),
    room,
    checkpoints,
    receipts: versions.map((v) => receiptOf(v, who.zone)).reverse(),
    cameBack: handBacks.map((h) => cameBackView(h, now, who.zone)),
    marks: current,
    markedItems: marked.map(itemView),
    openRequests: openRequests(piece.state, all),
    scoreChanges: toldScoreChanges(scores, handBacks, now, who.zone),
    thread: messages.whole,
    threadClosed: piece.threadClosed,
    rounds: rounds.map(({ number, dueAt }) => ({
      number,
      words: dueAt ? `due ${sayTime(dueAt, now, who.zone)}` : "",
    })),
    zone: who.zone,
    clips: [...clips, ...toClass.clips],
    toClass,
    looks,
  };
}

type Moves = Pick<PieceView, "mayTakeBack" | "locked" | "takeBackRefused" | "mayAskToReopen">;

/** What the student can do with it now. */
function movesOf(piece: PieceRow, now: Date): Moves {
  const write = decideMove(piece, { kind: "write" }, "student", now);
  const back = decideMove(piece, { kind: "takeBack" }, "student", now);
  return {
    mayTakeBack: back.allowed,
    locked: write.allowed ? null : write.reason,
    takeBackRefused: piece.state === "handed_in" && !back.allowed ? back.reason : null,
    mayAskToReopen: decideAskToReopen(piece, now).allowed,
  };
}

const TAKEN_OFF =
  "Your teacher has taken this off your list: nothing more is to be handed in. What you did stays yours, to read and to fetch.";
const NOTHING_TO_DO: Moves = {
  mayTakeBack: false,
  locked: TAKEN_OFF,
  takeBackRefused: TAKEN_OFF,
  mayAskToReopen: false,
};
const NOTHING_ASKED: PieceView["looks"] = {
  ...{ handOutId: "", asked: [], classmates: null, display: null },
};
/** To the class nothing is said to who no longer belongs to it here. */
const NOTHING_SAID: PieceView["toClass"] = {
  ...{ handOutId: "", notes: [], clips: [], maySay: false, answers: "none", pieceId: null },
  mostSeconds: 0,
};

/** What lateness would cost this student, in words; null where it costs nothing. */
async function sayLate({ db, who }: ReadCall, piece: PieceRow): Promise<string | null> {
  const { latePolicy, excused, pointsPossible, due } = piece;
  if (latePolicy.kind === "flag" || excused || pointsPossible === null) return null;
  const { calendar } = await readCalendar(db, who.schoolId);
  return sayLatePolicy(latePolicy, due, pointsPossible, { calendar, zone: who.zone });
}

async function readAboutClass(call: ReadCall, pieceId: string) {
  const [piece] = await call.db<
    { handOutId: string }[]
  >`select hand_out_id from piece where id = ${pieceId}`;
  return readSectionNotes(call, piece!.handOutId);
}

/** The moon of a piece that is open, from all its versions; of those in lists see `life/standings`. */
export function moonOfPiece(piece: PieceRow, versions: readonly VersionRow[], now: Date): MoonView {
  const { state, round, excused, flag } = piece;
  const last = versions.at(-1);
  const newest = last ? { round: last.roundNumber, countedAt: last.countedAt } : null;
  const late = cameLate({ state, round, newest, flag }, last ?? piece);
  return { state, round, late, missing: isMissing(piece, now), excused };
}

function dueWords(piece: PieceRow, now: Date, zone: string): string | null {
  const awaited = isWithStudent(piece.state) && piece.expects === "work" && !piece.excused;
  return awaited && lateness(piece, now).late ? sayLateness(piece, now, zone) : null;
}

async function readAbout({ db, who, now }: ReadCall, pieceId: string) {
  const [row] = await db<
    {
      title: string;
      instructions: RichDoc;
      section: string;
      course: string;
      teacher: string;
      promisedAt: Date | null;
      voice: string | null;
      replySeconds: number;
      aloud: boolean;
    }[]
  >`
    select full_title(assignment.emoji, assignment.number, assignment.title) as title, coalesce(wording.instructions, assignment.instructions) as instructions, section.name as section, course.name as course, coalesce(owner.name, section.name) as teacher, hand_out.promised_at,
      assignment.clip_id as voice, section.reply_seconds, coalesce((select value = '"on"' from person_setting where person_id = piece.student_id and name = 'aloud'), enrolment.read_aloud, false) as aloud
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join assignment_version wording on wording.id = piece.version_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    left join enrolment on enrolment.section_id = section.id and enrolment.student_id = piece.student_id
    left join section_teacher on section_teacher.section_id = section.id and section_teacher.role = 'owner'
    left join person owner on owner.id = section_teacher.person_id
    where piece.id = ${pieceId}`;
  const { promisedAt, ...about } = row!;
  return { ...about, promised: promisedAt && sayTime(promisedAt, now, who.zone) };
}
