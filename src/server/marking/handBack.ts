import { Invalid, Refused } from "@/core/refusals";
import { refuseRound } from "@/core/rounds/roundsRule";
import { wallToInstant } from "@/core/time/zone";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { judgementsFor } from "./judgements";
import { decide } from "../pieces/moves";
import { readAsked } from "../questions/answers";
import { lockPiece, readHandBacks, readVersions, roundsRuleOf, storeMove } from "../pieces/queries";
import { withScore } from "./counted";
import {
  contentOf,
  feedbackRound,
  hasChanged,
  isEmptyContent,
  readFeedback,
  readRulings,
} from "./queries";
import { readMarks } from "./markRows";

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
  const to = decide(
    piece,
    roundDue ? { kind: "handBackToRevise", roundDue } : { kind: "handBack" },
    "teacher",
    call.now,
  );
  const { round, version } = feedbackRound(piece, await readVersions(call.tx, pieceId));
  await fillNames(call, pieceId, round);
  const [feedback, marks, rulings, handBacks] = await Promise.all([
    readFeedback(call.tx, pieceId, round),
    readMarks(call.tx, pieceId, round),
    readRulings(call.tx, pieceId, round),
    readHandBacks(call.tx, pieceId),
  ]);
  if (roundDue) {
    const full = refuseRound(roundsRuleOf(piece), round, roundDue);
    if (full) throw new Refused(full);
  }
  const judgements = version
    ? await judgementsFor(
        call.tx,
        piece.handOutId,
        pieceId,
        (await readAsked(call.tx, pieceId)).sets,
        version.answers,
      )
    : [];
  const content = await withScore(
    call.tx,
    call.who,
    piece,
    version,
    contentOf(feedback, marks, rulings, version?.id ?? null, piece.pointsPossible, judgements),
  );
  const last = handBacks.find((h) => h.round === round);
  if (!last && given.outcome === "revise" && isEmptyContent(content))
    throw new Refused("Say what to revise first: a note, a mark or an overall word.");
  const sameDue = last?.nextDueAt?.getTime() === roundDue?.getTime();
  if (last && last.outcome === given.outcome && sameDue && !hasChanged(last, content))
    throw new Refused("Nothing has changed since this was handed back.");
  const id = await storeHandBack(call, pieceId, round, given.outcome, content, roundDue);
  if (content.points !== null && content.points !== last?.content.points) {
    await call.tx`
      insert into score (id, piece_id, round_number, hand_back_id, typed, points, possible, shown, raw_points, deduction, set_by, set_at)
      values (${call.newId()}, ${pieceId}, ${round}, ${id}, ${content.scoreTyped}, ${content.points}, ${content.possible}, ${content.shown ?? null}, ${content.raw ?? null}, ${content.deduction || null}, ${call.who.id}, ${call.now})`;
  }
  await storeMove(
    call,
    piece,
    to,
    given.outcome === "final" ? "handed back" : "handed back to revise",
    { handBackId: id },
  );
  await setRevisionRound(call, pieceId, round, roundDue);
  return to;
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
  round: number,
  outcome: "final" | "revise",
  content: object,
  nextDue: Date | null,
): Promise<string> {
  const id = newId();
  await tx`
    insert into hand_back (id, piece_id, round_number, number, outcome, content, next_due_at, handed_back_by, handed_back_at)
    select ${id}, ${pieceId}, ${round}, coalesce(max(number), 0) + 1, ${outcome}, ${tx.json(content as never)}, ${nextDue}, ${who.id}, ${now}
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
  await storeMove(call, piece, to, "took feedback back");
  return { state: to.state };
}
