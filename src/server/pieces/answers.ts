import { countRequests } from "@/core/rounds/cameBack";
import { isEdit } from "@/core/marks/mark";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { MessageView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { requirePieceClip } from "../speech/clips";
import { decide } from "../life/decide";
import {
  lockPiece,
  readMarkAnswers,
  readHandBacks,
  recordEvent,
  type HandBackRow,
  type PieceRow,
} from "../life/queries";
import { ownFiles } from "./messageFiles";
import { decideOnOffered } from "../looks/forWriter";

type Given = { request: "open" | "done" | null; decision: "accepted" | "declined" | null };

/**
 * The student ticks a request (or unticks it), or accepts or declines an edit (or goes back on it).
 * Only marks that were handed back can be answered, and only while the piece is out for revision.
 */
export async function answerMark(
  call: Call,
  pieceId: string,
  markId: string,
  given: Given,
): Promise<{ openRequests: number }> {
  await requireOnPiece(call, pieceId, "piece.answer");
  const piece = await lockPiece(call.tx, pieceId);
  const handBacks = await readHandBacks(call.tx, pieceId);
  const mark = handBacks.flatMap((h) => h.content.marks).find((m) => m.id === markId);
  if (!mark) return answerOffered(call, piece, handBacks, { markId, ...given });
  if (piece.state !== "to_revise" && piece.state !== "reworking")
    throw new Refused("This can be answered while the piece is with you for revision.");
  if (given.request !== null && mark.nature !== "request")
    throw new Refused("This note asks for nothing, so there is nothing to tick.");
  if (given.decision !== null && !isEdit(mark))
    throw new Refused("Only an edit can be accepted or declined.");
  await call.tx`
    insert into answer (mark_id, piece_id, request, decision, answered_at)
    values (${markId}, ${pieceId}, ${given.request}, ${given.decision}, ${call.now})
    on conflict (mark_id) do update
    set request = excluded.request, decision = excluded.decision, answered_at = excluded.answered_at`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "answered a mark",
    detail: { markId, ...given },
  });
  return openNow(call, piece, handBacks);
}

async function openNow(
  call: Call,
  piece: PieceRow,
  handBacks: readonly HandBackRow[],
): Promise<{ openRequests: number }> {
  const asked = handBacks.map(({ content }) => ({
    rulings: content.rulings,
    requests: content.marks.filter((m) => m.nature === "request").map((m) => m.id),
  }));
  const answers = await readMarkAnswers(call.tx, piece.id);
  return { openRequests: countRequests(piece.state, asked, answers).open };
}

/** An edit that someone offered in a look: it can be decided on while the work can be written. */
async function answerOffered(
  call: Call,
  piece: PieceRow,
  handBacks: readonly HandBackRow[],
  { markId, request, decision }: Given & { markId: string },
): Promise<{ openRequests: number }> {
  const pieceId = piece.id;
  if (!(await decideOnOffered(call, { pieceId, markId, decision }))) throw new NotFound();
  if (request !== null)
    throw new Refused("This note asks for nothing, so there is nothing to tick.");
  decide(piece, { kind: "write" }, "student", call.now);
  await recordEvent(call, {
    ...{ handOutId: piece.handOutId, pieceId, kind: "decided on an offered edit" },
    detail: { lookMarkId: markId, decision },
  });
  return openNow(call, piece, handBacks);
}

/** A word from either side, about the piece or about one mark that the other side can see. */
export async function sendMessage(
  call: Call,
  pieceId: string,
  given: {
    body: string;
    markId: string | null;
    checkpoint?: number | null;
    clipId?: string | null;
    files?: readonly string[];
  },
): Promise<MessageView> {
  const standing = await requireOnPiece(call, pieceId, "thread.write");
  const piece = await lockPiece(call.tx, pieceId);
  if (standing === "student" && piece.threadClosed)
    throw new Refused(
      "Your teacher has closed this conversation. What you wrote is still in the field; say it in class, or wait until it is opened again.",
    );
  if (given.markId !== null && !(await isVisibleMark(call.tx, pieceId, given.markId))) {
    if (standing === "student") throw new NotFound();
    throw new Refused(
      "The student does not see this mark yet. Hand it back first, or write to the whole piece.",
    );
  }
  const about = given.checkpoint ?? null;
  const [checkpoint] =
    about === null
      ? []
      : await call.tx<
          { id: string }[]
        >`select id from checkpoint where piece_id = ${pieceId} and number = ${about}`;
  if (about !== null && !checkpoint) throw new NotFound();
  const files = await ownFiles(call, given.files ?? []);
  if (given.body === "" && !given.clipId && files.length === 0)
    throw new Invalid({ body: "Write or say something first." });
  await requirePieceClip(call, pieceId, given.clipId);
  const clipId = given.clipId ?? null;
  const id = call.newId();
  await call.tx`
    insert into message (id, piece_id, mark_id, checkpoint_id, author_id, body, clip_id, with_files, sent_at)
    values (${id}, ${pieceId}, ${given.markId}, ${checkpoint?.id ?? null}, ${call.who.id}, ${given.body}, ${clipId}, ${files.length > 0}, ${call.now})`;
  for (const file of files)
    await call.tx`insert into message_file (message_id, upload_id) values (${id}, ${file.id})`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "wrote in the thread",
    detail: { messageId: id },
  });
  return {
    id,
    author: call.who.name,
    mine: true,
    body: given.body,
    clipId,
    files: files.map(({ id: fileId, name, size }) => ({ id: fileId, name, size })),
    checkpoint: about,
    when: sayTime(call.now, call.now, call.who.zone),
  };
}

async function isVisibleMark(db: Db, pieceId: string, markId: string): Promise<boolean> {
  const handBacks = await readHandBacks(db, pieceId);
  return handBacks.some((h) => h.content.marks.some((m) => m.id === markId));
}
