import { may } from "@/core/access/access";
import { sayPart } from "@/core/handouts/parts";
import { sayCount } from "@/core/text/sayCount";
import { scoreChangesView } from "../../life/scoreChangesView";
import { sayNote } from "@/core/text/noteText";
import { countWords, plainText } from "@/core/text/plainText";
import type { PieceFlag } from "@/core/pieces/flags";
import { lateness, sayLateness } from "@/core/time/lateness";
import { sayExactly, sayTime } from "@/core/time/words";
import type { DeskPiece } from "@/core/views/deskViews";
import { requireOnPiece } from "../../access/standing";
import type { ReadCall } from "../../call";
import { EMPTY_DOC } from "@/core/text/richDoc";
import { inWork, itemView } from "../../items/items";
import { moonOfPiece } from "../../pieces/pieceView";
import { type VersionRow, type WorkingCopy } from "../../life/queries";
import { answerSheets } from "../../questions/answers";
import { readTelling, withoutNames } from "../../names/names";
import { readStamp } from "./here";

import { feedbackOf } from "./feedbackOf";
import { load, readBeside, type Beside, type Loaded } from "./load";

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
    threadClosed: loaded.piece.threadClosed,
    scoreChanges: scoreChangesView(loaded.scoreFacts, {
      ...{ now: call.now, zone: call.who.zone, teacher: true },
    }),
    typedScores: loaded.typedScores,
    markTalk: markTalk(loaded, beside),
    stamp,
    mayHandBack: may(access, "feedback.handBack"),
  };
  return loaded.hide
    ? withoutNames(shown, await readTelling(call.db, pieceId, loaded.hidden))
    : shown;
}

/** What was said about marks that came back, but for those that stand in the margin with it already. */
function markTalk({ handBacks, messages }: Loaded, { earlier }: Beside): DeskPiece["markTalk"] {
  const inMargin = new Set(earlier.map((mark) => mark.id));
  return handBacks
    .flatMap((handBack) => handBack.content.marks)
    .filter((mark) => messages.byMark.has(mark.id) && !inMargin.has(mark.id))
    .map((mark) => ({
      markId: mark.id,
      quote: mark.quote ?? "",
      said: sayNote(mark.body ?? ""),
      messages: messages.byMark.get(mark.id)!,
    }));
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

/** The writing that files can stand in: of the hand-in, else of the work that goes on. */
const docOf = ({ content, copy }: Loaded) => content?.doc ?? copy?.doc ?? EMPTY_DOC;

function workOf({ who, now }: ReadCall, loaded: Loaded, beside: Beside) {
  const { piece, about, versions, version, copy, asked, answers, judgements, hide } = loaded;
  const views = inWork(beside.items, docOf(loaded)).map(itemView);
  return {
    due: sayTime(piece.due, now, who.zone),
    handedIn: version && handedInView(version, { now, zone: who.zone, hide, flag: piece.flag }),
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
    changes: version?.changes ?? "",
    comparison: beside.comparison,
  };
}

const written = ({ version, content }: Loaded) =>
  version && content
    ? { versionId: version.id, words: version.words, doc: content.doc }
    : { versionId: null, words: 0, doc: null };

function handedInView(
  version: VersionRow,
  { now, zone, hide, flag }: { now: Date; zone: string; hide: boolean; flag: PieceFlag | null },
): DeskPiece["handedIn"] {
  return {
    words: sayTime(version.handedInAt, now, zone),
    lateness: sayLateness(version, version.countedAt, zone),
    late: flag !== "on time" && lateness(version, version.countedAt).late,
    pressed: version.pressedAt && {
      exactly: sayExactly(version.pressedAt, zone),
      counts: version.claimAccepted,
    },
    // A receipt's code can be looked up, and says whose it is.
    code: hide ? null : version.receipt,
  };
}

function sayUnfinished({ doc, savedAt }: WorkingCopy, now: Date, zone: string): string {
  const words = sayCount(countWords(plainText(doc).text), "word");
  return `${words} so far, last saved ${sayTime(savedAt, now, zone)}`;
}
