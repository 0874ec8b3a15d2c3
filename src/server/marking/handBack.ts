import { Invalid, Refused } from "@/core/refusals";
import type { HandBackContent } from "@/core/rounds/cameBack";
import { contentOf, hasChanged, isEmptyContent } from "@/core/rounds/draft";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { refuseRound } from "@/core/rounds/roundsRule";
import { wallToInstant } from "@/core/time/zone";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { decide } from "../pieces/moves";
import {
  readContent,
  lockPiece,
  readHandBacks,
  readVersions,
  roundsRuleOf,
  storeMove,
  type HandBackRow,
  type PieceRow,
  type VersionRow,
} from "../life/queries";
import { withScore } from "./counted";
import { judgementsOn } from "./judgements";
import { readDraft } from "./queries";

export type GivenHandBack = { outcome: "final" | "revise"; due: string | null };

/**
 * Hands a round back, for good or to revise: what the draft says now is kept as it is (students read
 * only that), the score goes into its history, and the piece moves on, all in one transaction.
 */
export async function handBack(
  call: Call,
  pieceId: string,
  given: GivenHandBack,
): Promise<{ state: string; round: number }> {
  await requireOnPiece(call, pieceId, "feedback.handBack");
  const piece = await lockPiece(call.tx, pieceId);
  const roundDue = given.outcome === "revise" ? readDue(given.due, call.who.zone) : null;
  const move = roundDue
    ? ({ kind: "handBackToRevise", roundDue } as const)
    : ({ kind: "handBack" } as const);
  const to = decide(piece, move, "teacher", call.now);
  const { round, version } = feedbackRound(piece, await readVersions(call.tx, pieceId));
  const full = roundDue && refuseRound(roundsRuleOf(piece), round, roundDue);
  if (full) throw new Refused(full);
  await fillNames(call, pieceId, round);
  const content = await contentNow(call, piece, round, version);
  const last = (await readHandBacks(call.tx, pieceId)).find((h) => h.round === round);
  const next: Next = { outcome: given.outcome, round, roundDue };
  requireSaysSomething(next, content, last);
  const id = await storeHandBack(call, pieceId, next, content);
  if (content.points !== null && content.points !== last?.content.points)
    await storeScore(call, { pieceId, round, handBackId: id }, content);
  const kind = given.outcome === "final" ? "handed back" : "handed back to revise";
  await storeMove(call, piece, to, { kind, detail: { handBackId: id } });
  await setRevisionRound(call, pieceId, round, roundDue);
  return to;
}

type Next = { outcome: "final" | "revise"; round: number; roundDue: Date | null };

/** What is handed back now: the draft, with what judgements and lateness make of it. */
async function contentNow(
  call: Call,
  piece: PieceRow,
  round: number,
  version: VersionRow | null,
): Promise<HandBackContent> {
  const { draft } = await readDraft(call.tx, piece.id, round);
  const judgements = version
    ? await judgementsOn(call.tx, piece, (await readContent(call.tx, version.id)).answers)
    : [];
  const content = contentOf({ ...draft, judgements }, version?.id ?? null, piece.pointsPossible);
  return withScore(call, piece, version, content);
}

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

async function storeScore(
  { tx, who, now, newId }: Call,
  { round, ...whose }: { pieceId: string; round: number; handBackId: string },
  content: HandBackContent,
): Promise<void> {
  const score = {
    typed: content.scoreTyped,
    points: content.points,
    possible: content.possible,
    shown: content.shown ?? null,
    rawPoints: content.raw ?? null,
    deduction: content.deduction || null,
  };
  const made = { id: newId(), roundNumber: round, setBy: who.id, setAt: now };
  await tx`insert into score ${tx({ ...whose, ...score, ...made })}`;
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

async function storeHandBack(
  { tx, who, now, newId }: Call,
  pieceId: string,
  { round, outcome, roundDue }: Next,
  content: object,
): Promise<string> {
  const id = newId();
  await tx`
    insert into hand_back (id, piece_id, round_number, number, outcome, content, next_due_at, handed_back_by, handed_back_at)
    select ${id}, ${pieceId}, ${round}, coalesce(max(number), 0) + 1, ${outcome}, ${tx.json(content as never)}, ${roundDue}, ${who.id}, ${now}
    from hand_back
    where piece_id = ${pieceId}`;
  return id;
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

/** Takes back what was handed back in this round; it is a draft again. The student has not begun to revise. */
export async function takeFeedbackBack(call: Call, pieceId: string): Promise<{ state: string }> {
  await requireOnPiece(call, pieceId, "feedback.handBack");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "takeBackFeedback" }, "teacher", call.now);
  const { round } = piece;
  await call.tx`
    insert into hand_back_withdrawn (hand_back_id, withdrawn_by, withdrawn_at)
    select id, ${call.who.id}, ${call.now}
    from hand_back
    where piece_id = ${pieceId} and round_number = ${round}
    on conflict (hand_back_id) do nothing`;
  await setRevisionRound(call, pieceId, round, null);
  await storeMove(call, piece, to, { kind: "took feedback back" });
  return { state: to.state };
}
