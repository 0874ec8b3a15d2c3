import { countWords, plainText } from "@/core/text/plainText";
import type { Comparison } from "@/core/text/compare";
import { NotFound, Refused } from "@/core/refusals";
import type { RichDoc } from "@/core/text/richDoc";
import type { Answers } from "@/core/questions/question";
import { sayTime } from "@/core/time/words";
import type { CheckpointLine, CheckpointView } from "@/core/views/workViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { itemView, readItems } from "../items/items";
import { answerSheets, readAsked } from "../questions/answers";
import { decide } from "../life/decide";
import { lockPiece, storeMove } from "../life/queries";
import { namesOut } from "../names/names";
import { comparedTexts } from "../text/aligned";
import { keepWork, readWork, snapshot, type GivenWork } from "./work";

/** Shows the teacher a copy of unfinished work. It is no hand-in: nothing closes, and the student goes on. */
export async function sendCheckpoint(
  call: Call,
  pieceId: string,
  given: GivenWork,
  revision: number,
): Promise<{ number: number; revision: number; when: string }> {
  const { tx, now, who } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(tx, pieceId);
  const to = decide(piece, { kind: "write" }, "student", now);
  const { sets } = await readAsked(tx, pieceId);
  const work = readWork(given, sets, pieceId);
  const taken = await snapshot(tx, pieceId, work, sets);
  if (taken.empty) throw new Refused("There is nothing in this piece yet to show.");
  const next = await keepWork(call, pieceId, work, revision);
  await storeMove(call, piece, to, { kind: "sent a checkpoint" });
  const { text } = plainText(taken.composed);
  const id = call.newId();
  await tx`
    insert into round (piece_id, number, opened_at)
    values (${pieceId}, 1, ${now})
    on conflict (piece_id, number) do nothing`;
  const [row] = await tx<{ number: number }[]>`
    insert into checkpoint (id, piece_id, round_number, number, doc, text, words, answers, sent_at)
    select ${id}, ${pieceId}, ${to.round}, coalesce(max(number), 0) + 1, ${tx.json(taken.composed as never)}, ${text}, ${countWords(text)}, ${tx.json(taken.answers as never)}, ${now}
    from checkpoint
    where piece_id = ${pieceId}
    returning number`;
  if (taken.items.length > 0)
    await tx`insert into checkpoint_item ${tx(taken.items.map((item, n) => ({ checkpointId: id, itemId: item.id, position: n })))}`;
  return { number: row!.number, revision: next, when: sayTime(now, now, who.zone) };
}

type Row = {
  id: string;
  number: number;
  roundNumber: number;
  words: number;
  sentAt: Date;
  doc: RichDoc;
  text: string;
  answers: Answers;
};

const readRows = (db: Db, pieceId: string) =>
  db<
    Row[]
  >`select id, number, round_number, words, sent_at, doc, text, answers from checkpoint where piece_id = ${pieceId} order by number`;

/** The row of checkpoints, without their contents: for both sides. */
export async function listCheckpoints(
  { db, who, now }: ReadCall,
  pieceId: string,
): Promise<CheckpointLine[]> {
  const rows = await db<(Row & { look: CheckpointLine["look"] })[]>`
    select id, number, round_number, words, sent_at,
      (select jsonb_build_object('id', look.id, 'question', look.question) from look where checkpoint_id = checkpoint.id order by asked_at limit 1) as look
    from checkpoint
    where piece_id = ${pieceId}
    order by number`;
  return rows.map((r) => ({
    look: r.look,
    id: r.id,
    number: r.number,
    round: r.roundNumber,
    when: sayTime(r.sentAt, now, who.zone),
    words: r.words,
  }));
}

/** One checkpoint as the teachers look at it, with what has changed since another (or since the one before). */
export async function readCheckpoint(
  call: ReadCall,
  pieceId: string,
  number: number,
  since: number | null,
): Promise<CheckpointView & { comparison: Comparison | null; since: number | null }> {
  const { db, who, now } = call;
  await requireOnPiece(call, pieceId, "feedback.see");
  const rows = await readRows(db, pieceId);
  const row = rows.find((r) => r.number === number);
  if (!row) throw new NotFound();
  const other =
    since === null
      ? rows.filter((r) => r.number < number).at(-1)
      : rows.find((r) => r.number === since);
  const [items, asked] = await Promise.all([
    readItems(db, pieceId, { checkpoint: row.id }),
    readAsked(db, pieceId),
  ]);
  return namesOut(db, pieceId, {
    id: row.id,
    number: row.number,
    round: row.roundNumber,
    words: row.words,
    doc: row.doc,
    text: row.text,
    when: sayTime(row.sentAt, now, who.zone),
    items: items.map(itemView),
    sheets: answerSheets(asked, row.answers, []),
    comparison: other ? await comparedTexts(db, other.text, row.text) : null,
    since: other?.number ?? null,
  });
}
