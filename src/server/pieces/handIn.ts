import { createHash } from "node:crypto";
import { pressedAt } from "@/core/pieces/pressed";
import { countWords, plainText } from "@/core/text/plainText";
import type { Receipt } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Tx } from "../db/connection";
import { readAsked } from "../questions/answers";
import { storeSelfAssessment, type SaidOfIt } from "./given";
import { decide } from "../life/decide";
import { lockPiece, readVersions, storeMove, type PieceRow } from "../life/queries";
import { receiptOf } from "./receipt";
import { keepWork, readWork, snapshot, type GivenWork, type Snapshot } from "./work";

export type GivenHandIn = GivenWork & {
  self?: SaidOfIt | null;
  /** What was changed since the last round, in the student's own words. */ changes?: string;
  /** When it was pressed by the device's clock, where it could not be sent then. */ pressedAt?:
    string | null;
};

/**
 * Hands in what is sent, with the files that are there, as a new version. The moment the server stored it is the
 * hand-in time; the device's own word is kept beside it and counts only when a teacher accepts it.
 */
export async function handIn(
  call: Call,
  pieceId: string,
  given: GivenHandIn,
  revision: number,
): Promise<Receipt> {
  const { tx, now } = call;
  await requireOnPiece(call, pieceId, "piece.handIn");
  const piece = await lockPiece(tx, pieceId);
  const { sets } = await readAsked(tx, pieceId);
  const work = readWork(given, sets, pieceId);
  const taken = await snapshot(tx, pieceId, work, sets);
  const to = decide(piece, { kind: "handIn", empty: taken.empty }, "student", now);
  await keepWork(call, pieceId, work, revision);
  await storeMove(call, piece, to, { kind: "handed in" });
  const pressed = pressedAt(given.pressedAt, piece.opensAt, now);
  const changes = given.changes ?? "";
  await storeVersion(call, piece, { round: to.round, pressed, changes }, taken);
  if (given.self) await storeSelfAssessment(call, pieceId, given.self);
  const versions = await readVersions(tx, pieceId);
  return receiptOf(versions.at(-1)!, call.who.zone);
}

async function storeVersion(
  call: Call,
  piece: PieceRow,
  { round, pressed, changes }: { round: number; pressed: Date | null; changes: string },
  taken: Snapshot,
): Promise<void> {
  const { tx, now } = call;
  const id = call.newId();
  const { text } = plainText(taken.composed);
  const same = await sameVersion(tx, piece.id, { ...taken, text });
  const [doc, answers] = same
    ? [null, null]
    : [tx.json(taken.composed as never), tx.json(taken.answers as never)];
  await tx`
    insert into version (id, piece_id, round_number, number, doc, text, words, sha256, receipt, due_at, grace_minutes, handed_in_at, answers, pressed_at, files, same_as, changes)
    select
      ${id}, ${piece.id}, ${round}, coalesce(max(number), 0) + 1, ${doc}, ${same ? null : text}, ${countWords(text)},
      ${taken.sha256}, ${receiptCode(id)}, ${piece.due}, ${piece.graceMinutes}, ${now}, ${answers}, ${pressed}, ${tx.json(taken.files)}, ${same}, ${changes}
    from version
    where piece_id = ${piece.id}`;
  if (taken.items.length > 0)
    await tx`insert into version_item ${tx(taken.items.map((item, n) => ({ versionId: id, itemId: item.id, position: n })))}`;
}

/** An earlier version of the piece that holds the same writing and answers, which then need not be kept twice. */
async function sameVersion(
  tx: Tx,
  pieceId: string,
  { composed, answers, text }: Snapshot & { text: string },
): Promise<string | null> {
  const [row] = await tx<{ id: string }[]>`
    select id
    from version
    where piece_id = ${pieceId} and same_as is null and text = ${text}
      and doc = ${tx.json(composed as never)} and answers = ${tx.json(answers as never)}
    limit 1`;
  return row?.id ?? null;
}

/** Eight signs without look-alikes (Crockford's base 32) of the version id's digest: 40 bits, and unique by constraint. */
function receiptCode(versionId: string): string {
  const signs = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
  const digest = createHash("sha256").update(`receipt ${versionId}`).digest();
  const code = [...digest.subarray(0, 8)].map((byte) => signs[byte % 32]).join("");
  return `${code.slice(0, 4)}-${code.slice(4)}`;
}
