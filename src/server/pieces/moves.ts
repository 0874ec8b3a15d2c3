import { createHash } from "node:crypto";
import { decideMove, type Actor, type Move } from "@/core/pieces/life";
import { Conflict, Refused } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import { countWords, isBlank, plainText } from "@/core/text/plainText";
import { readRichDoc, type RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { Receipt } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { storeSelfAssessment, type SaidOfIt } from "./given";
import { lockPiece, readVersions, readWorkingCopy, storeMove, writeWorkingCopy, type PieceRow } from "./queries";
import { receiptOf } from "./receipt";

/** Asks the core; throws its reason when it says no. */
export function decide(piece: PieceRow, move: Move, actor: Actor, now: Date): { state: PieceRow["state"]; round: number } {
  const outcome = decideMove(piece, move, actor, now);
  if (!outcome.allowed) throw new Refused(outcome.reason);
  return outcome;
}

/** The student looks at the piece: it counts as opened, and what came back as seen. */
export async function openPiece(call: Call, pieceId: string): Promise<{ seen: true }> {
  await requireOnPiece(call, pieceId, "piece.see");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "open" }, "student", call.now);
  if (to.state !== piece.state) await storeMove(call, piece, to, "opened");
  await call.tx`
    update piece
    set seen_at = ${call.now}, opened_at = coalesce(opened_at, ${call.now})
    where id = ${pieceId}`;
  return { seen: true };
}

/**
 * Keeps unfinished writing. `revision` is the one the writing was based on (0: nothing saved yet).
 *
 * @throws Conflict with what stands on the server, when another tab or device has saved since
 */
export async function saveWork(call: Call, pieceId: string, input: unknown, revision: number): Promise<{ revision: number; saved: string }> {
  await requireOnPiece(call, pieceId, "piece.write");
  const doc = readRichDoc(input);
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "write" }, "student", call.now);
  const next = (await baseRevision(call, pieceId, revision, doc)) + 1;
  await writeWorkingCopy(call, pieceId, doc, next);
  if (to.state !== piece.state) await storeMove(call, piece, to, "began writing");
  return { revision: next, saved: sayTime(call.now, call.now, call.who.zone) };
}

/**
 * The revision to go on from. A copy that was stored but whose answer was lost on the way comes a
 * second time on the old revision: the same text is no conflict.
 */
async function baseRevision(call: Call, pieceId: string, revision: number, doc: RichDoc): Promise<number> {
  const stored = await readWorkingCopy(call.tx, pieceId);
  const current = stored?.revision ?? 0;
  if (current === revision || (stored && canonicalJson(stored.doc) === canonicalJson(doc))) return current;
  throw new Conflict("This piece was changed in another window or on another device. Both are kept: choose which to go on with.", {
    doc: stored?.doc,
    revision: stored?.revision ?? 0,
    saved: stored ? sayTime(stored.savedAt, call.now, call.who.zone) : null,
  });
}

/** Hands in what is sent, as a new version; the moment the server stored it is the hand-in time. */
export async function handIn(call: Call, pieceId: string, input: unknown, revision: number, self: SaidOfIt | null = null): Promise<Receipt> {
  await requireOnPiece(call, pieceId, "piece.handIn");
  const doc = readRichDoc(input);
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "handIn", empty: isBlank(doc) }, "student", call.now);
  const base = await baseRevision(call, pieceId, revision, doc);
  await writeWorkingCopy(call, pieceId, doc, base + 1);
  await storeMove(call, piece, to, "handed in");
  await storeVersion(call, piece, to.round, doc);
  if (self) await storeSelfAssessment(call, pieceId, self);
  const versions = await readVersions(call.tx, pieceId);
  return receiptOf(versions.at(-1)!, call.who.zone);
}

async function storeVersion(call: Call, piece: PieceRow, round: number, doc: RichDoc): Promise<void> {
  const { tx, now } = call;
  const id = call.newId();
  const { text } = plainText(doc);
  const digest = createHash("sha256").update(canonicalJson(doc)).digest();
  await tx`
    insert into version (id, piece_id, round_number, number, doc, text, words, sha256, receipt, due_at, grace_minutes, handed_in_at)
    select
      ${id}, ${piece.id}, ${round}, coalesce(max(number), 0) + 1, ${tx.json(doc as never)}, ${text}, ${countWords(text)},
      ${digest}, ${receiptCode(id)}, ${piece.due}, ${piece.graceMinutes}, ${now}
    from version
    where piece_id = ${piece.id}`;
}

/** Eight signs without look-alikes (Crockford's base 32) of the version id's digest: 40 bits, and unique by constraint. */
function receiptCode(versionId: string): string {
  const signs = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
  const digest = createHash("sha256").update(`receipt ${versionId}`).digest();
  const code = [...digest.subarray(0, 8)].map((byte) => signs[byte % 32]).join("");
  return `${code.slice(0, 4)}-${code.slice(4)}`;
}

export async function takeBack(call: Call, pieceId: string): Promise<{ state: string }> {
  await requireOnPiece(call, pieceId, "piece.handIn");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "takeBack" }, "student", call.now);
  await storeMove(call, piece, to, "took back");
  return { state: to.state };
}
