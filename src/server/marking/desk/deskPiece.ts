import { Invalid } from "@/core/refusals";
import { may } from "@/core/access/access";
import { isMissing } from "@/core/pieces/life";
import { compareTexts } from "@/core/text/compare";
import { countWords, plainText } from "@/core/text/plainText";
import { lateness, sayLateness } from "@/core/time/lateness";
import type { Place } from "@/core/scores/latePolicy";
import { schoolDayFrom } from "@/core/time/term";
import { sayExactly, sayTime } from "@/core/time/words";
import { addDays, dayOf } from "@/core/time/zone";
import type { RichDoc } from "@/core/text/richDoc";
import type { DeskPiece, PieceFlag } from "@/core/views/views";
import { requireOnPiece } from "../../access/standing";
import { readCalendar } from "../../calendar/calendar";
import type { ReadCall } from "../../call";
import { cameBackView, inRoundLate } from "../../pieces/pieceView";
import { sayPart } from "@/core/handouts/parts";
import { itemView, readItems } from "../../items/items";
import { listCheckpoints } from "../../pieces/checkpoints";
import { answerSheets, readAsked, readTries } from "../../questions/answers";
import { readCopies, readSelfAssessment } from "../../pieces/given";
import {
  readHandBacks,
  readMessages,
  readPiece,
  readVersions,
  readWorkingCopy,
  type PieceRow,
  type VersionRow,
} from "../../pieces/queries";
import { readStamp } from "./here";
import { judgementsFor } from "../judgements";
import { hideFileNames, isHidden, readHidden, shownName } from "../names";
import { readAside } from "./aside";
import { clipViews, heardIn } from "../../speech/clips";
import { countedScore, readRubric, understandScore } from "../counted";
import { contentOf, feedbackRound, hasChanged, readFeedback, readRulings } from "../queries";
import { draftMark, readMarks } from "../markRows";
import { earlierMarks } from "../rulings";

/** A piece as the section's teachers have it on the Desk: the work, the draft, and what went before. */
export async function deskPiece(call: ReadCall, pieceId: string): Promise<DeskPiece> {
  const { db, who, now } = call;
  const standing = await requireOnPiece(call, pieceId, "feedback.see");
  const [piece, hidden, about, versions, handBacks, messages, { calendar }] = await Promise.all([
    readPiece(db, pieceId),
    readHidden(db, pieceId),
    readAbout(call, pieceId),
    readVersions(db, pieceId),
    readHandBacks(db, pieceId),
    readMessages(call, pieceId),
    readCalendar(db, who.schoolId),
  ]);
  const { round, version } = feedbackRound(piece, versions);
  const hide = isHidden(hidden);
  const [
    feedback,
    marks,
    rulings,
    earlier,
    copy,
    rubric,
    copies,
    self,
    asked,
    tries,
    checkpoints,
    items,
    aside,
    { stamp },
  ] = await Promise.all([
    readFeedback(db, pieceId, round),
    readMarks(db, pieceId, round),
    readRulings(db, pieceId, round),
    earlierMarks(call, pieceId, round, version, { handBacks, versions }),
    version ? null : readWorkingCopy(db, pieceId),
    readRubric(db, piece.rubricId),
    readCopies(call, pieceId),
    version ? readSelfAssessment(db, version.id) : null,
    readAsked(db, pieceId),
    readTries(db, pieceId),
    listCheckpoints(call, pieceId),
    version
      ? readItems(db, pieceId, { version: version.id })
      : about.openBefore
        ? readItems(db, pieceId, "work")
        : [],
    readAside(call, piece, versions, hide),
    readStamp(db, pieceId, who.id),
  ]);
  const student = shownName(about.student, hidden);
  // Those handed in, or unfinished ones where the student knows that they may be read.
  const answers = version?.answers ?? (about.openBefore ? copy?.answers : null) ?? null;
  const judgements = answers
    ? await judgementsFor(db, piece.handOutId, pieceId, asked.sets, answers)
    : [];
  const previous = versions.filter((v) => v.roundNumber < round).at(-1);
  const last = handBacks.find((h) => h.round === round);
  const content = contentOf(
    feedback,
    marks,
    rulings,
    version?.id ?? null,
    piece.pointsPossible,
    judgements,
  );
  const views = items.map(itemView);
  const clips = await clipViews(
    call,
    heardIn(
      [...marks, ...earlier],
      [...messages.whole, ...earlier.flatMap((m) => m.messages)],
      about.voice,
    ),
  );
  return {
    id: pieceId,
    student,
    // Left for the hand-back to fill where the name is hidden: a comment says {name} until then.
    called: hide ? "" : about.called,
    studentId: hide ? null : piece.studentId,
    handOutId: piece.handOutId,
    anonymous: hide,
    flag: about.flag,
    ...aside,
    task: { instructions: about.instructions, voice: about.voice, materials: aside.task.materials },
    stamp,
    scoreReason: feedback?.scoreReason ?? "",
    title: about.title,
    section: about.section,
    sectionId: piece.sectionId,
    moon: {
      state: piece.state,
      round: piece.round,
      late: inRoundLate(piece, versions),
      missing: isMissing(piece, now),
      excused: piece.excused,
    },
    round,
    points: piece.pointsPossible === null ? null : String(Number(piece.pointsPossible)),
    due: sayTime(piece.due, now, who.zone),
    handedIn: version && {
      words: sayTime(version.handedInAt, now, who.zone),
      lateness: sayLateness(version, version.countedAt, who.zone),
      late: lateness(version, version.countedAt).late,
      pressed: version.pressedAt && {
        exactly: sayExactly(version.pressedAt, who.zone),
        counts: version.claimAccepted,
      },
      code: version.receipt,
    },
    versionId: version?.id ?? null,
    versionCount: versions.length,
    words: version?.words ?? 0,
    doc: version?.doc ?? null,
    unfinishedDoc: copy && about.openBefore ? copy.doc : null,
    items: hide ? hideFileNames(views) : views,
    parts: asked.parts.map((p) => ({ id: p.id, label: sayPart(p), kind: p.kind })),
    sheets: answers ? answerSheets(asked, answers, tries, judgements) : [],
    checkpoints,
    copies,
    self,
    rubric: rubric && { name: rubric.name, rubric: rubric.content },
    picks: feedback?.picks ?? {},
    scoreHint: SCORE_HINTS[piece.scoreKind] ?? null,
    lastRound: piece.roundsMost !== null && round >= piece.roundsMost,
    unfinished: copy
      ? sayUnfinished(countWords(plainText(copy.doc).text), sayTime(copy.savedAt, now, who.zone))
      : null,
    overall: feedback?.overall ?? "",
    scoreTyped: feedback?.scoreTyped ?? "",
    scoreWords: sayScoreNow(piece, version, feedback?.scoreTyped ?? "", {
      calendar,
      zone: who.zone,
    }),
    revision: feedback?.revision ?? 0,
    marks: marks.map(draftMark),
    clips: hide ? clips.map((c) => (c.by === about.student ? { ...c, by: student } : c)) : clips,
    voiceSeconds: about.voiceSeconds,
    earlier,
    comparison: previous && version ? compareTexts(previous.text, version.text) : null,
    thread: hide
      ? messages.whole.map((m) => (m.author === about.student ? { ...m, author: student } : m))
      : messages.whole,
    handedBack: last
      ? {
          ...cameBackView(last, now, who.zone),
          seen:
            about.seenAt && about.seenAt >= last.handedBackAt
              ? sayTime(about.seenAt, now, who.zone)
              : null,
          changedSince: hasChanged(last, content),
        }
      : null,
    mayHandBack: may(standing, "feedback.handBack"),
    // A week from today, or the first school day after that.
    suggestedDue: `${schoolDayFrom(addDays(dayOf(now, who.zone), 7), calendar)}T16:00`,
    lastBy: feedback && feedback.changedBy !== who.id ? feedback.changedByName : null,
  };
}

const SCORE_HINTS: Record<string, string> = {
  points: "8, 8/10, 85%",
  percent: "85",
  letters: "B+, 85%",
  levels: "secure, 80%",
  completion: "c or inc",
};

/** The score in words, with what lateness takes off; a score that no longer fits the kind of score says so. */
function sayScoreNow(
  piece: PieceRow,
  version: VersionRow | null,
  typed: string,
  place: Place,
): string | null {
  if (typed === "") return null;
  try {
    const { points, words, shown } = understandScore(typed, piece);
    const { deduction } = countedScore(piece, version, points!, shown!, place);
    return deduction ? `${words} · ${deduction}` : words;
  } catch (error) {
    if (error instanceof Invalid) return error.message;
    throw error;
  }
}

function sayUnfinished(words: number, saved: string): string {
  return `${words} ${words === 1 ? "word" : "words"} so far, last saved ${saved}`;
}

type About = {
  student: string;
  called: string;
  title: string;
  section: string;
  seenAt: Date | null;
  openBefore: boolean;
  flag: PieceFlag | null;
  instructions: RichDoc;
  voice: string | null;
  voiceSeconds: number;
};

async function readAbout({ db }: ReadCall, pieceId: string) {
  const [row] = await db<About[]>`
    select student.name as student, student.called, assignment.title, section.name as section, piece.seen_at, piece.flag, assignment.clip_id as voice, section.voice_seconds,
      coalesce(wording.instructions, assignment.instructions) as instructions,
      assignment.open_before or exists (select from material where material.assignment_id = assignment.id and material.use = 'copy') as open_before
    from piece
    join person student on student.id = piece.student_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join assignment_version wording on wording.id = piece.version_id
    join section on section.id = hand_out.section_id
    where piece.id = ${pieceId}`;
  return row!;
}
