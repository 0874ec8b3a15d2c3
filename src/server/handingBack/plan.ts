import { readiness, type Gap } from "@/core/handingBack/readiness";
import { sayGoesBack } from "@/core/handingBack/say";
import { USUAL_HOLD } from "@/core/handingBack/outcome";
import { decideMove } from "@/core/pieces/life";
import { Invalid, NotFound } from "@/core/refusals";
import { contentOf, hasChanged } from "@/core/rounds/draft";
import { unruledRequests } from "@/core/rounds/cameBack";
import type { Rubric } from "@/core/rubrics/rubric";
import { sayPart } from "@/core/handouts/parts";
import { isScored } from "@/core/scores/scales";
import { sayCount } from "@/core/text/sayCount";
import { dueInAWeek, lessonsOn, type Meeting } from "@/core/time/lessons";
import { schoolDayFrom } from "@/core/time/term";
import { sayTime } from "@/core/time/words";
import { addDays, dayOf, instantToWall } from "@/core/time/zone";
import type { BackLine, BackPlan } from "@/core/views/handBackViews";
import { requireKind, requireOnHandOut } from "../access/standing";
import { readCalendar, readMeetings, type SchoolDays } from "../calendar/calendar";
import type { ReadCall } from "../call";
import { moonOf } from "../life/standings";
import { readContent, readHandBacks, readPiece, readVersions } from "../life/queries";
import { understandScore } from "../marking/counted";
import { readSettings } from "../marking/desk/setting";
import { judgementsOn } from "../marking/judgements";
import { readDraft } from "../marking/queries";
import { readRubric } from "../rubrics/readRubric";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { readDrafts, readHandOuts, readUnread, type Draft } from "./planRows";
import { namedPieces } from "./batches";

/**
 * What there is to hand back of some hand-outs of one task: every draft that was not handed back, or was changed
 * since, with what is not ready about it.
 *
 * @throws NotFound when any of them is not theirs to hand back
 */
export async function handBackPlan(
  call: ReadCall,
  handOutIds: readonly string[],
): Promise<BackPlan> {
  const { db, who } = call;
  requireKind(who, "teacher");
  for (const id of handOutIds) await requireOnHandOut(db, who, id, "feedback.handBack");
  const [handOuts, drafts, unread, days, settings] = await Promise.all([
    readHandOuts(call, handOutIds[0]!),
    readDrafts(call, handOutIds),
    readUnread(call, handOutIds),
    readCalendar(db, who.schoolId),
    readSettings(call),
  ]);
  const first = handOuts.find((h) => h.id === handOutIds[0]);
  if (!first) throw new NotFound();
  const meetings = await readMeetings(db, [first.sectionId]);
  const rubric = await readRubric(db, first.rubricId);
  const lines = await Promise.all(
    drafts.map((draft) => lineOf(call, draft, rubric?.content ?? null)),
  );
  const times = suggestedTimes(call, meetings.get(first.sectionId) ?? [], days);
  return {
    title: first.title,
    handOuts: handOuts.map(({ id, section, drafts: count }) => ({
      id,
      section,
      chosen: handOutIds.includes(id),
      drafts: count,
    })),
    lines: await namedLines(
      call,
      lines.filter((line) => line !== null),
    ),
    unread,
    scoring: isScored(first.scoreKind) || rubric !== null,
    parts: first.parts.map((part) => ({ id: part.id, label: sayPart(part) })),
    mayRevise: first.expects === "work" && first.roundsMost !== 1,
    ...times,
    hold: settings["desk.hold"] ?? USUAL_HOLD,
  };
}

async function lineOf(
  call: ReadCall,
  draft: Draft,
  rubric: Rubric | null,
): Promise<(BackLine & { hidden: boolean }) | null> {
  const { now, who } = call;
  if (draft.touchedSince && !(await isChanged(call, draft.pieceId))) return null;
  const { outcome, nextDueAt } = draft;
  return {
    pieceId: draft.pieceId,
    student: draft.student,
    hidden: draft.hidden,
    handOutId: draft.handOutId,
    section: draft.section,
    moon: moonOf(draft, now),
    again: draft.touchedSince === true,
    holds: sayHolds(draft),
    score: draft.scoreTyped || null,
    outcome,
    due: nextDueAt && instantToWall(nextDueAt, who.zone),
    dueWords: nextDueAt && sayTime(nextDueAt, now, who.zone),
    gaps: gapsOf(draft, rubric, call),
    goes: draft.batchId
      ? { batchId: draft.batchId, words: sayGoesBack(draft.goesAt!, now, who.zone) }
      : null,
  };
}

/** Whether the draft says something else than what was handed back; worked out only for those touched since. */
async function isChanged({ db }: ReadCall, pieceId: string): Promise<boolean> {
  const [piece, versions, handBacks] = await Promise.all([
    readPiece(db, pieceId),
    readVersions(db, pieceId),
    readHandBacks(db, pieceId),
  ]);
  const { round, version } = feedbackRound(piece, versions);
  const { draft } = await readDraft(db, pieceId, round);
  const judgements = version
    ? await judgementsOn(db, piece, (await readContent(db, version.id)).answers)
    : [];
  const content = contentOf({ ...draft, judgements }, version?.id ?? null, piece.pointsPossible);
  return hasChanged(handBacks.find((h) => h.round === round)?.content, content);
}

/** @example "3 notes, 2 of them requests · a word on the whole" */
function sayHolds({ marks, requests, voices, files, overall, ruled }: Draft): string {
  return [
    marks > 0 ? sayCount(marks, "mark") : "",
    requests > 0 ? sayCount(requests, "request") : "",
    voices > 0 ? sayCount(voices, "voice note") : "",
    files > 0 ? sayCount(files, "file") : "",
    ruled.length > 0 ? `${ruled.length} ruled on` : "",
    overall.trim() ? "a word on the whole" : "",
  ]
    .filter(Boolean)
    .join(", ");
}

function gapsOf(draft: Draft, rubric: Rubric | null, { now }: ReadCall): Gap[] {
  const { overall, scoreTyped, marks, ruled, picks, round } = draft;
  const criteria = rubric?.criteria ?? [];
  const chosen = Object.keys(picks).length;
  const said = overall.trim() !== "" || scoreTyped !== "";
  return readiness({
    says: said || marks + ruled.length + chosen + draft.files > 0 || draft.asksQuestions,
    scored: draft.points !== null,
    scoring: isScored(draft.scoreKind) && !draft.asksQuestions,
    scoreFault: scoreFaultOf(draft),
    levels: { missing: criteria.filter((c) => !picks[c.id]).length, of: criteria.length },
    unruled: unruledRequests(
      (draft.handBacks ?? [])
        .filter((h) => h.round < round)
        .map(({ content, requests }) => ({ rulings: content.rulings, requests })),
      draft.answers ?? [],
      ruled,
    ),
    silentVoices: draft.silent,
    hidden: draft.hidden,
    refused: refusedOf(draft, now),
  });
}

function scoreFaultOf(draft: Draft): string | null {
  try {
    understandScore(draft.scoreTyped, draft);
    return null;
  } catch (error) {
    if (error instanceof Invalid) return `score ${draft.scoreTyped}: ${error.message}`;
    throw error;
  }
}

/** The life of a piece says whether it can be handed back at all. */
function refusedOf({ state, expects }: Draft, now: Date): string | null {
  const facts = { state, expects, opensAt: now } as Parameters<typeof decideMove>[0];
  const decided = decideMove(facts, { kind: "handBack" }, "teacher", now);
  return decided.allowed ? null : decided.reason;
}

/** A revision is due when the section meets about a week on; "at a time" begins with the end of its day. */
function suggestedTimes(
  { now, who }: ReadCall,
  meetings: readonly Meeting[],
  { calendar, dayEnds }: SchoolDays,
): Pick<BackPlan, "suggestedDue" | "suggestedAt"> {
  const today = dayOf(now, who.zone);
  const wall = instantToWall(now, who.zone);
  const ends = [...lessonsOn(today, meetings, calendar).map((l) => l.ends), `${today}T${dayEnds}`];
  const tomorrow = schoolDayFrom(addDays(today, 1), calendar);
  return {
    suggestedDue: dueInAWeek(today, meetings, calendar),
    suggestedAt: ends.find((end) => end > wall) ?? `${tomorrow}T${dayEnds}`,
  };
}

/** Under the names they go by just now, and without the order of the alphabet where names are hidden. */
async function namedLines(
  { db }: ReadCall,
  lines: readonly (BackLine & { hidden: boolean })[],
): Promise<BackLine[]> {
  const named = await namedPieces(db, lines);
  const some = named.some((line) => line.hidden);
  const sorted = some
    ? [...named].sort((a, b) => a.student.localeCompare(b.student, "en", { numeric: true }))
    : named;
  return sorted.map(({ hidden, ...line }) => {
    void hidden;
    return line;
  });
}
