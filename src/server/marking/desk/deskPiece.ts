import { may } from "@/core/access/access";
import { sayPart } from "@/core/handouts/parts";
import { Invalid } from "@/core/refusals";
import { contentOf, hasChanged } from "@/core/rounds/draft";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { countedScore } from "@/core/scores/countedScore";
import type { SchoolTime } from "@/core/scores/latePolicy";
import { sayCount } from "@/core/text/sayCount";
import { countWords, plainText } from "@/core/text/plainText";
import { lateness, sayLateness } from "@/core/time/lateness";
import { dueInAWeek } from "@/core/time/lessons";
import { sayFeedback, sayGoesBack } from "@/core/handingBack/say";
import { sayExactly, sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { DeskPiece } from "@/core/views/deskViews";
import { requireOnPiece } from "../../access/standing";
import { readCalendar, readMeetings } from "../../calendar/calendar";
import type { ReadCall } from "../../call";
import { itemView, readItems } from "../../items/items";
import { listCheckpoints } from "../../pieces/checkpoints";
import { readCopies, readSelfAssessment } from "../../pieces/given";
import { cameBackView } from "../../pieces/cameBackView";
import { moonOfPiece } from "../../pieces/pieceView";
import {
  readContent,
  readHandBacks,
  readMessages,
  readPiece,
  readVersions,
  readWorkingCopy,
  type PieceRow,
  type VersionRow,
  type WorkingCopy,
} from "../../life/queries";
import { answerSheets, readAsked, readTries } from "../../questions/answers";
import { clipViews, heardIn } from "../../speech/clips";
import { comparedWith } from "../../text/aligned";
import { countingOf, understandScore } from "../counted";
import { readGoing } from "../../life/goingBack";
import { readRubric } from "../../rubrics/readRubric";
import { judgementsOn } from "../judgements";
import { draftMark } from "../markRows";
import { isHidden, readHidden, readTelling, shownName, withoutNames } from "../../names/names";
import { readDraft } from "../queries";
import { earlierMarks } from "../rulings";
import { readAbout } from "./about";
import { readAside } from "./aside";
import { readStamp } from "./here";

/** A piece as the section's teachers have it on the Desk: the work, the draft, and what went before. */
export async function deskPiece(call: ReadCall, pieceId: string): Promise<DeskPiece> {
  const access = await requireOnPiece(call, pieceId, "feedback.see");
  // Never after the rest: what changes while that is read has another stamp, and is fetched at the next sign of life.
  const [{ stamp }, loaded] = await Promise.all([
    readStamp(call.db, pieceId, call.who.id),
    load(call, pieceId),
  ]);
  const beside = await readBeside(call, loaded);
  const shown: DeskPiece = {
    ...whose(call, loaded),
    ...workOf(call, loaded, beside),
    ...feedbackOf(call, loaded, beside),
    ...beside.aside,
    task: {
      instructions: loaded.about.instructions,
      voice: loaded.about.voice,
      materials: beside.aside.task.materials,
    },
    thread: loaded.messages.whole,
    stamp,
    mayHandBack: may(access, "feedback.handBack"),
  };
  return loaded.hide
    ? withoutNames(shown, await readTelling(call.db, pieceId, loaded.hidden))
    : shown;
}

type Loaded = Awaited<ReturnType<typeof load>>;

/** The piece, its hand-ins and hand-backs, and the draft of the round that feedback is about. */
async function load(call: ReadCall, pieceId: string) {
  const { db, who } = call;
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
  const [draft, going, meetings, content, copy, asked] = await Promise.all([
    readDraft(db, pieceId, round),
    readGoing(db, pieceId),
    readMeetings(db, [piece.sectionId]),
    version ? readContent(db, version.id) : null,
    version ? null : readWorkingCopy(db, pieceId),
    readAsked(db, pieceId),
  ]);
  // Those handed in, or unfinished ones where the student knows that they may be read.
  const readable = about.openBefore ? copy : null;
  const answers = content?.answers ?? readable?.answers ?? null;
  const judgements = answers ? await judgementsOn(db, piece, answers, asked.sets) : [];
  const student = shownName(about.student, hidden);
  return {
    ...{ piece, about, versions, handBacks, messages, calendar },
    ...{ round, version, content, draft, copy },
    ...{ going: going.waiting, scoreComes: going.scoreComes },
    meetings: meetings.get(piece.sectionId) ?? [],
    ...{ asked, answers, judgements, student, hidden, hide: isHidden(hidden) },
  };
}

type Beside = Awaited<ReturnType<typeof readBeside>>;

/** What is shown with it: earlier marks, files, the rubric, voices, and what lies at the side. */
async function readBeside(call: ReadCall, loaded: Loaded) {
  const { db } = call;
  const { piece, about, versions, handBacks, round, version, content, hide } = loaded;
  const given = version ? ({ version: version.id } as const) : "work";
  const previous = versions.filter((v) => v.roundNumber < round).at(-1);
  const [earlier, rubric, copies, self, tries, checkpoints, items, aside, comparison] =
    await Promise.all([
      earlierMarks(call, piece.id, { round, version }, { handBacks }),
      readRubric(db, piece.rubricId),
      readCopies(call, piece.id),
      version ? readSelfAssessment(db, version.id) : null,
      readTries(db, piece.id),
      listCheckpoints(call, piece.id),
      version || about.openBefore ? readItems(db, piece.id, given) : [],
      readAside(call, piece, versions, hide),
      previous && content ? comparedWith(db, previous.id, content.text) : null,
    ]);
  const messages = [...loaded.messages.whole, ...earlier.flatMap((m) => m.messages)];
  const heard = heardIn([...loaded.draft.rows, ...earlier], messages, about.voice);
  const clips = await clipViews(call, heard);
  return {
    ...{ earlier, rubric, copies, self, tries, checkpoints, items, aside, clips },
    comparison,
  };
}

function whose({ now }: ReadCall, { piece, about, versions, student, hide, round }: Loaded) {
  return {
    id: piece.id,
    student,
    // Left for the hand-back to fill where the name is hidden: a comment says {name} until then.
    called: hide ? "" : about.called,
    studentId: hide ? null : piece.studentId,
    handOutId: piece.handOutId,
    anonymous: hide,
    flag: about.flag,
    title: about.title,
    section: about.section,
    sectionId: piece.sectionId,
    round,
    moon: moonOfPiece(piece, versions, now),
  };
}

function workOf({ who, now }: ReadCall, loaded: Loaded, beside: Beside) {
  const { piece, about, versions, version, copy, asked, answers, judgements, hide } = loaded;
  const views = beside.items.map(itemView);
  return {
    due: sayTime(piece.due, now, who.zone),
    handedIn: version && handedInView(version, { now, zone: who.zone, hide }),
    ...written(loaded),
    versionCount: versions.length,
    unfinishedDoc: about.openBefore ? (copy?.doc ?? null) : null,
    unfinished: copy && sayUnfinished(copy, now, who.zone),
    items: views,
    parts: asked.parts.map((p) => ({ id: p.id, label: sayPart(p), kind: p.kind })),
    sheets: answers ? answerSheets(asked, answers, beside.tries, judgements) : [],
    checkpoints: beside.checkpoints,
    copies: beside.copies,
    self: beside.self,
    comparison: beside.comparison,
  };
}

const written = ({ version, content }: Loaded) =>
  version && content
    ? { versionId: version.id, words: version.words, doc: content.doc }
    : { versionId: null, words: 0, doc: null };

function handedInView(
  version: VersionRow,
  { now, zone, hide }: { now: Date; zone: string; hide: boolean },
): DeskPiece["handedIn"] {
  return {
    words: sayTime(version.handedInAt, now, zone),
    lateness: sayLateness(version, version.countedAt, zone),
    late: lateness(version, version.countedAt).late,
    pressed: version.pressedAt && {
      exactly: sayExactly(version.pressedAt, zone),
      counts: version.claimAccepted,
    },
    // A receipt's code can be looked up, and says whose it is.
    code: hide ? null : version.receipt,
  };
}

function feedbackOf({ who, now }: ReadCall, loaded: Loaded, { rubric, earlier, clips }: Beside) {
  const { piece, about, round, draft, calendar, going } = loaded;
  const { feedback } = draft;
  const handedBack = handedBackView(loaded, now, who.zone);
  const changedByOther = feedback !== null && feedback.changedBy !== who.id;
  return {
    points: plainPoints(piece),
    rubric: rubric && { name: rubric.name, rubric: rubric.content },
    ...draftedOf(loaded),
    scoreHint: SCORE_HINTS[piece.scoreKind] ?? null,
    scoreOf: piece.scoreKind === "points" ? plainPoints(piece) : null,
    scoreWords: sayScoreNow(loaded, { calendar, zone: who.zone }),
    lastBy: changedByOther ? feedback.changedByName : null,
    lastRound: piece.roundsMost !== null && round >= piece.roundsMost,
    marks: draft.rows.map(draftMark),
    earlier,
    clips,
    voiceSeconds: about.voiceSeconds,
    handedBack,
    suggestedDue: dueInAWeek(dayOf(now, who.zone), loaded.meetings, calendar),
    goes: going && { batchId: going.batchId, words: sayGoesBack(going.goesAt, now, who.zone) },
    standing: standingOf(loaded, handedBack, now, who.zone),
  };
}

/** What the draft of the round holds; of a round nobody has begun, nothing. */
const draftedOf = ({ draft: { draft, feedback } }: Loaded) => ({
  picks: draft.picks,
  overall: draft.overall,
  scoreTyped: draft.scoreTyped,
  scoreReason: feedback?.scoreReason ?? "",
  revision: feedback?.revision ?? 0,
  outcome: feedback?.outcome ?? null,
});

/** Where its feedback is, as on the sheet and in lists. */
function standingOf(
  { draft, round, handBacks, about, going, scoreComes }: Loaded,
  handedBack: DeskPiece["handedBack"],
  now: Date,
  zone: string,
): string {
  const last = handBacks.find((h) => h.round === round);
  const facts = {
    drafted: draft.feedback !== null || draft.rows.length > 0,
    goesAt: going?.goesAt ?? null,
    handedBackAt: last?.handedBackAt ?? null,
    seenAt: about.seenAt,
    changedSince: handedBack?.changedSince ?? false,
    scoreComes,
  };
  return sayFeedback(facts, now, zone);
}

const plainPoints = ({ pointsPossible }: PieceRow): string | null =>
  pointsPossible === null ? null : String(Number(pointsPossible));

function handedBackView(loaded: Loaded, now: Date, zone: string): DeskPiece["handedBack"] {
  const { piece, about, round, version, draft, judgements } = loaded;
  const last = loaded.handBacks.find((h) => h.round === round);
  if (!last) return null;
  const held = { ...draft.draft, judgements };
  const content = contentOf(held, version?.id ?? null, piece.pointsPossible);
  const seen = about.seenAt && about.seenAt >= last.handedBackAt ? about.seenAt : null;
  return {
    ...cameBackView(last, now, zone),
    seen: seen && sayTime(seen, now, zone),
    changedSince: hasChanged(last.content, content),
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
function sayScoreNow({ piece, version, draft }: Loaded, school: SchoolTime): string | null {
  const { scoreTyped } = draft.draft;
  if (scoreTyped === "") return null;
  try {
    const { points, words, shown } = understandScore(scoreTyped, piece);
    const earned = { points: points!, shown: shown! };
    const { deduction } = countedScore(countingOf(piece), version, earned, school);
    return deduction ? `${words} · ${deduction}` : words;
  } catch (error) {
    if (error instanceof Invalid) return error.message;
    throw error;
  }
}

function sayUnfinished({ doc, savedAt }: WorkingCopy, now: Date, zone: string): string {
  const words = sayCount(countWords(plainText(doc).text), "word");
  return `${words} so far, last saved ${sayTime(savedAt, now, zone)}`;
}
