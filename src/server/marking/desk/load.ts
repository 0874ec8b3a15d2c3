import { feedbackRound } from "@/core/rounds/feedbackRound";
import { readCalendar, readMeetings } from "../../calendar/calendar";
import type { ReadCall } from "../../call";
import { readItems } from "../../items/items";
import { listCheckpoints } from "../../pieces/checkpoints";
import { readCopies, readSelfAssessment } from "../../pieces/given";
import {
  readContent,
  readHandBacks,
  readPiece,
  readScores,
  readScoreFacts,
  readVersions,
  readWorkingCopy,
} from "../../life/queries";
import { readMessages } from "../../life/messages";
import { readAsked, readTries } from "../../questions/answers";
import { clipViews, heardIn } from "../../speech/clips";
import { comparedWith } from "../../text/aligned";
import { readGoing } from "../../life/goingBack";
import { typedScoresView } from "../../life/typedScoresView";
import { readRubric } from "../../rubrics/readRubric";
import { judgementsOn } from "../judgements";
import { isHidden, readHidden, shownName } from "../../names/names";
import { readDraft } from "../queries";
import { earlierMarks } from "../rulings";
import { readAbout } from "./about";
import { readAside } from "./aside";

/** What the Desk shows of a piece is worked out from what is read here, in two turns. */
export type Loaded = Awaited<ReturnType<typeof load>>;

/** The piece, its hand-ins and hand-backs, and the draft of the round that feedback is about. */
export async function load(call: ReadCall, pieceId: string) {
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
  const [draft, going, meetings, content, copy, asked, ...scored] = await Promise.all([
    readDraft(db, pieceId, round),
    readGoing(db, pieceId),
    readMeetings(db, [piece.sectionId]),
    version ? readContent(db, version.id) : null,
    version ? null : readWorkingCopy(db, pieceId),
    readAsked(db, pieceId),
    readScores(db, pieceId),
    readScoreFacts(db, pieceId),
    typedScoresView(call, pieceId),
  ]);
  const [scores, scoreFacts, typedScores] = scored;
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
    ...{ scores, scoreFacts, typedScores },
    ...{ asked, answers, judgements, student, hidden, hide: isHidden(hidden) },
  };
}

export type Beside = Awaited<ReturnType<typeof readBeside>>;

/** What is shown with it: earlier marks, files, the rubric, voices, and what lies at the side. */
export async function readBeside(call: ReadCall, loaded: Loaded) {
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
  const messages = [...loaded.messages.whole, ...[...loaded.messages.byMark.values()].flat()];
  const heard = heardIn([...loaded.draft.rows, ...earlier], messages, about.voice);
  const clips = await clipViews(call, heard);
  return {
    ...{ earlier, rubric, copies, self, tries, checkpoints, items, aside, clips },
    comparison,
  };
}
