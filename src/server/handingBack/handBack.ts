import Big from "big.js";
import { Invalid, Refused } from "@/core/refusals";
import type { HandBackContent } from "@/core/rounds/cameBack";
import { saidOfRound, type AskedOfRound } from "@/core/rounds/asked";
import { contentOf, hasChanged, isEmptyContent } from "@/core/rounds/draft";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { refuseRound } from "@/core/rounds/roundsRule";
import { hasScore, withhold, withoutScore } from "@/core/handingBack/withhold";
import { NEVER_SHOWN } from "@/core/ledger/shows";
import { wallToInstant } from "@/core/time/zone";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { decide } from "../pieces/moves";
import {
  readContent,
  lockPiece,
  readHandBacks,
  readScores,
  readVersions,
  roundsRuleOf,
  storeMove,
  type HandBackRow,
  type PieceRow,
  type VersionRow,
} from "../life/queries";
import { askForScores, storeWithheld } from "./withheld";
import { readAsked } from "../questions/answers";
import { withScore } from "../marking/counted";
import { storeHandBack, storeScore, type Next } from "./storeHandBack";
import { judgementsOn } from "../marking/judgements";
import { beginFeedback, readDraft } from "../marking/queries";

export type GivenHandBack = {
  outcome: "final" | "revise";
  due: string | null;
  /** Whether a score is told with a round that only asks for revision; else teachers alone know it. */
  tellScore?: boolean;
  more?: number | null;
  parts?: string[];
};
/** How one piece goes back; the score may wait (`withhold`: until when, or until all are done). */
export type Goes = {
  outcome: "final" | "revise";
  due: Date | null;
  withhold?: { until: Date | null };
  /** It goes with others, unseen: with nothing said it stays. */
  mustSay?: boolean;
  tellScore?: boolean;
  /** What is said of the round that it opens. */ asked?: AskedOfRound;
};

/** Hands one piece back now, for good or to revise, as the teacher says. */
export async function handBack(
  call: Call,
  pieceId: string,
  given: GivenHandBack,
): Promise<{ state: string; round: number }> {
  await requireOnPiece(call, pieceId, "feedback.handBack");
  const due = given.outcome === "revise" ? readDue(given.due, call.who.zone) : null;
  const { outcome, tellScore, more = null, parts = [] } = given;
  const goes = { outcome, due, tellScore, asked: { more, parts } };
  const { state, round } = await sendBack(call, pieceId, goes);
  return { state, round };
}

/**
 * Hands a round back: what the draft says now is kept as it is (students read only that), the score goes into its
 * history, and the piece moves on. Who calls it has asked whether this person may.
 *
 * @throws Refused where the piece cannot move so, or nothing would be said
 */
export async function sendBack(
  call: Call,
  pieceId: string,
  { outcome, due: roundDue, withhold: later, mustSay, tellScore, asked }: Goes,
): Promise<{ state: string; round: number; handBackId: string }> {
  const piece = await lockPiece(call.tx, pieceId);
  const { round, version } = feedbackRound(piece, await readVersions(call.tx, pieceId));
  const to = decideBack(piece, round, roundDue, call.now);
  // Where nobody has begun anything there is no round yet that it could be kept with.
  await beginFeedback(call, pieceId, round);
  await fillNames(call, pieceId, round);
  const whole = await contentNow(call, piece, round, version);
  if (mustSay && isEmptyContent(whole) && !(await asksQuestions(call, pieceId)))
    throw new Refused("Nothing is written on it.");
  const silent = outcome === "revise" && !tellScore;
  const content = {
    ...told(whole, { later, silent }),
    ...(await askedWith(call, pieceId, outcome === "revise" ? asked : undefined)),
  };
  const next: Next = { outcome, round, roundDue };
  const id = await storeNext(call, pieceId, next, { content, scored: silent ? whole : content });
  if (content.withheld)
    await storeWithheld(call, id, silent ? withoutScore(whole) : whole, later!.until);
  const kind = outcome === "final" ? "handed back" : "handed back to revise";
  await storeMove(call, piece, to, { kind, detail: { handBackId: id } });
  await setRevisionRound(call, pieceId, round, roundDue);
  await askForScores(call, piece.handOutId);
  return { ...to, handBackId: id };
}

/** What is said of the round that opens, as it is kept: parts by the names they have now. */
async function askedWith(
  { tx }: Call,
  pieceId: string,
  asked: AskedOfRound | undefined,
): Promise<Pick<HandBackContent, "asked">> {
  if (!asked || (asked.more === null && asked.parts.length === 0)) return {};
  const said = saidOfRound(asked, (await readAsked(tx, pieceId)).parts);
  return said ? { asked: said } : {};
}

/** Where the piece goes by the rules of its life and of its rounds. @throws Refused */
function decideBack(piece: PieceRow, round: number, roundDue: Date | null, now: Date) {
  if (piece.shows === "never") throw new Refused(NEVER_SHOWN);
  const move = roundDue
    ? ({ kind: "handBackToRevise", roundDue } as const)
    : ({ kind: "handBack" } as const);
  const to = decide(piece, move, "teacher", now);
  const full = roundDue && refuseRound(roundsRuleOf(piece), round, roundDue);
  if (full) throw new Refused(full);
  return to;
}

/** Keeps it after what was handed back before in this round; a score that is another goes into its history. */
async function storeNext(
  call: Call,
  pieceId: string,
  next: Next,
  { content, scored }: { content: HandBackContent; scored: HandBackContent },
): Promise<string> {
  const { round } = next;
  const last = (await readHandBacks(call.tx, pieceId)).find((h) => h.round === round);
  requireSaysSomething(next, content, last);
  const id = await storeHandBack(call, pieceId, next, content);
  // A score that is not told counts all the same; one that comes later is kept when it comes.
  if (scored.points !== null && !(await hasScored(call, pieceId, round, scored.points)))
    await storeScore(call, { pieceId, round, handBackId: id }, scored);
  return id;
}

/** Whether the round has this very score already. */
async function hasScored(
  { tx }: Call,
  pieceId: string,
  round: number,
  points: string,
): Promise<boolean> {
  const before = (await readScores(tx, pieceId)).find((score) => score.round === round);
  return before !== undefined && new Big(points).eq(before.points);
}

/** What of it the student is told now. */
export function told(
  whole: HandBackContent,
  { later, silent }: { later: Goes["withhold"]; silent: boolean },
): HandBackContent {
  if (later && hasScore(whole)) return withhold(whole);
  return silent && whole.points !== null ? withoutScore(whole) : whole;
}

/** What is handed back now: the draft, with what judgements and lateness make of it. */
export async function contentNow(
  call: ReadCall,
  piece: PieceRow,
  round: number,
  version: VersionRow | null,
): Promise<HandBackContent> {
  const { draft } = await readDraft(call.db, piece.id, round);
  const judgements = version
    ? await judgementsOn(call.db, piece, (await readContent(call.db, version.id)).answers)
    : [];
  const content = contentOf({ ...draft, judgements }, version?.id ?? null, piece.pointsPossible);
  return withScore(call, piece, version, content);
}

/** Questions are scored by their key: what they are worth is said without a word of the teacher's. */
const asksQuestions = async ({ tx }: Call, pieceId: string): Promise<boolean> =>
  (await readAsked(tx, pieceId)).sets.length > 0;

function requireSaysSomething(
  { outcome, roundDue }: Next,
  content: HandBackContent,
  last: HandBackRow | undefined,
): void {
  if (!last) {
    if (outcome === "revise" && isEmptyContent(content))
      throw new Refused("Say what to revise first: a note, a mark or an overall word.");
    return;
  }
  const sameDue = last.nextDueAt?.getTime() === roundDue?.getTime();
  if (last.outcome === outcome && sameDue && !hasChanged(last.content, content))
    throw new Refused("Nothing has changed since this was handed back.");
}

/** Where names were hidden while the piece was read, its comments say `{name}`: filled now, when the name is known. */
async function fillNames({ tx, now }: Call, pieceId: string, round: number): Promise<void> {
  const [row] = await tx<
    { called: string }[]
  >`select person.called from piece join person on person.id = piece.student_id where piece.id = ${pieceId}`;
  await tx`
    update mark
    set body = replace(body, '{name}', ${row!.called}), revision = revision + 1, changed_at = ${now}
    where piece_id = ${pieceId} and round_number = ${round} and deleted_at is null and body like '%{name}%'`;
  await tx`
    update feedback
    set overall = replace(overall, '{name}', ${row!.called})
    where piece_id = ${pieceId} and round_number = ${round} and overall like '%{name}%'`;
}

function readDue(due: string | null, zone: string): Date {
  if (!due) throw new Invalid({ due: "Say when the revision is due." });
  return wallToInstant(due, zone).at;
}

/** The next round is there, with its due time, from the moment it is asked for; without one it is taken away again. */
async function setRevisionRound(
  { tx, now }: Call,
  pieceId: string,
  round: number,
  due: Date | null,
): Promise<void> {
  if (due) {
    await tx`
      insert into round (piece_id, number, opened_at, due_at)
      values (${pieceId}, ${round + 1}, ${now}, ${due})
      on conflict (piece_id, number) do update
      set due_at = excluded.due_at`;
  } else await tx`delete from round where piece_id = ${pieceId} and number = ${round + 1}`;
}

/**
 * Takes back what was handed back in this round; it is a draft again. The student has not begun to revise.
 *
 * @returns whether the student had looked at it before
 */
export async function takeFeedbackBack(
  call: Call,
  pieceId: string,
): Promise<{ state: string; wasRead: boolean }> {
  await requireOnPiece(call, pieceId, "feedback.handBack");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "takeBackFeedback" }, "teacher", call.now);
  const { round } = piece;
  const [seen] = await call.tx<{ wasRead: boolean }[]>`
    select coalesce(piece.seen_at >= max(hand_back.handed_back_at), false) as was_read
    from piece
    join hand_back on hand_back.piece_id = piece.id and hand_back.round_number = ${round}
      and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
    where piece.id = ${pieceId}
    group by piece.id`;
  await call.tx`
    insert into hand_back_withdrawn (hand_back_id, withdrawn_by, withdrawn_at)
    select id, ${call.who.id}, ${call.now}
    from hand_back
    where piece_id = ${pieceId} and round_number = ${round}
    on conflict (hand_back_id) do nothing`;
  await setRevisionRound(call, pieceId, round, null);
  const wasRead = seen?.wasRead ?? false;
  await storeMove(call, piece, to, { kind: "took feedback back", detail: { wasRead } });
  return { state: to.state, wasRead };
}
