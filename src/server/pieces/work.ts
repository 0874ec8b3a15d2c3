import { createHash } from "node:crypto";
import { composeDoc, type Extra } from "@/core/text/compose";
import type { Answers } from "@/core/questions/question";
import { isGiven } from "@/core/questions/question";
import { Conflict, Refused } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import { isEmptyDoc } from "@/core/text/plainText";
import { picturesOf, readRichDoc, type RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { followText, inWork, readItems, type ItemRow } from "../items/items";
import { readAnswers, readAsked, type AskedSet } from "../questions/answers";
import { signedAnswers } from "../questions/signs";
import { decide } from "../life/decide";
import { lockPiece, readWorkingCopy, storeMove, writeWorkingCopy } from "../life/queries";

/** What a student sends of unfinished work: the writing and the answers; files go their own way. */
export type GivenWork = { doc: unknown; answers?: unknown };
export type Work = { doc: RichDoc; answers: Answers };

/** @throws Invalid */
export function readWork(
  { doc, answers }: GivenWork,
  sets: readonly AskedSet[],
  pieceId: string,
): Work {
  return {
    doc: readRichDoc(doc, "work"),
    answers: readAnswers(answers, sets, pieceId),
  };
}

/**
 * Keeps unfinished writing and answers. `revision` is the one they were based on (0: nothing saved yet).
 *
 * @throws Conflict with what stands on the server, when another tab or device has saved since
 */
export async function saveWork(
  call: Call,
  pieceId: string,
  given: GivenWork,
  revision: number,
): Promise<{ revision: number; saved: string }> {
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "write" }, "student", call.now);
  const { sets } = await readAsked(call.tx, pieceId);
  const next = await keepWork(call, pieceId, readWork(given, sets, pieceId), revision);
  if (to.state !== piece.state) await storeMove(call, piece, to, { kind: "began writing" });
  return { revision: next, saved: sayTime(call.now, call.now, call.who.zone) };
}

/** Stores the working copy as its next revision. @returns that revision */
export async function keepWork(
  call: Call,
  pieceId: string,
  work: Work,
  revision: number,
): Promise<number> {
  await requireOwnPictures(call, pieceId, work.doc);
  const next = (await baseRevision(call, pieceId, revision, work)) + 1;
  await writeWorkingCopy(call, pieceId, work, next);
  await followText(call, pieceId, work.doc);
  return next;
}

/**
 * The revision to go on from. A copy that was stored but whose answer was lost on the way comes a
 * second time on the old revision: the same work is no conflict.
 */
async function baseRevision(
  call: Call,
  pieceId: string,
  revision: number,
  work: Work,
): Promise<number> {
  const stored = await readWorkingCopy(call.tx, pieceId);
  const current = stored?.revision ?? 0;
  if (
    current === revision ||
    (stored && canonicalJson({ doc: stored.doc, answers: stored.answers }) === canonicalJson(work))
  )
    return current;
  throw new Conflict(
    "This piece was changed in another window or on another device. Both are kept: choose which to go on with.",
    {
      doc: stored?.doc,
      answers: signedAnswers(
        pieceId,
        (await readAsked(call.tx, pieceId)).sets,
        stored?.answers ?? {},
      ),
      revision: current,
      saved: stored ? sayTime(stored.savedAt, call.now, call.who.zone) : null,
    },
  );
}

/** Only pictures that were sent for this piece, or that stood in the text it began with, can be shown in it. */
async function requireOwnPictures({ tx }: Call, pieceId: string, doc: RichDoc): Promise<void> {
  const ids = [...new Set(picturesOf(doc))];
  if (ids.length === 0) return;
  const [found] = await tx<{ n: number }[]>`
    select count(distinct upload_id)::int as n
    from (
      select upload_id from piece_picture where piece_id = ${pieceId}
      union all
      select assignment_picture.upload_id
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment_picture on assignment_picture.assignment_id = hand_out.assignment_id
      where piece.id = ${pieceId}
    ) own
    where upload_id = any(${ids})`;
  if (found!.n < ids.length)
    throw new Refused(
      "A picture in this text was not sent for this piece. Take it out, and put it in again.",
    );
}

/** All of a piece at one moment: what a version or a checkpoint holds. */
export type Snapshot = Work & {
  items: ItemRow[];
  composed: RichDoc;
  sha256: Buffer;
  files: { name: string; size: number; sha256: string }[];
  empty: boolean;
};

export async function snapshot(
  db: Db,
  pieceId: string,
  work: Work,
  sets: readonly AskedSet[],
): Promise<Snapshot> {
  const items = inWork(await readItems(db, pieceId, "work"), work.doc);
  const files = items.map((item) => ({
    name: item.name,
    size: Number(item.size),
    sha256: item.sha256.toString("hex"),
  }));
  const answered = Object.keys(work.answers).length > 0;
  // Of writing alone the digest is that of the writing; of more, that of all of it together.
  const digested =
    files.length === 0 && !answered ? work.doc : { doc: work.doc, answers: work.answers, files };
  return {
    ...work,
    items,
    files,
    composed: composeWork(work, items, sets),
    sha256: createHash("sha256").update(canonicalJson(digested)).digest(),
    empty: isEmptyDoc(work.doc) && items.length === 0 && !answered,
  };
}

/** The words of the whole piece, for marks to stand on. */
export function composeWork(
  { doc, answers }: Work,
  items: readonly ItemRow[],
  sets: readonly AskedSet[],
): RichDoc {
  const free = sets.flatMap(({ partId, questions }): Extra[] =>
    questions.flatMap((question): Extra[] => {
      const answer = answers[partId]?.[question.id];
      if (question.kind !== "free text" || typeof answer !== "string" || !isGiven(answer))
        return [];
      return [
        {
          heading: question.text,
          doc: {
            type: "doc",
            content: answer
              .split("\n")
              .map((line) =>
                line.trim()
                  ? { type: "paragraph", content: [{ type: "text", text: line }] }
                  : { type: "paragraph" },
              ),
          },
        },
      ];
    }),
  );
  const documents = items.flatMap((item): Extra[] =>
    item.doc ? [{ heading: item.name, doc: item.doc }] : [],
  );
  return composeDoc(doc, [...free, ...documents]);
}
