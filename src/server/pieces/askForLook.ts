import { isOpen, leastAsked } from "@/core/looks/shown";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import type { PieceLooks } from "@/core/views/lookViews";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { recordEvent } from "../life/queries";
import { findRule, readMayBeAsked } from "../looks/findRule";
import { readOwnLooks } from "../looks/lines";
import { drawAgain, drawFrom } from "../looks/rules";
import { sendMessage } from "./answers";
import { sendCheckpoint } from "./checkpoints";
import type { GivenWork } from "./work";

export type GivenLook = GivenWork & {
  of: "teacher" | "classmate";
  readerId: string | null;
  question: string;
  start: number | null;
  end: number | null;
};
const TEACHER_DAYS = 28;
const THE_TEACHER = (now: Date) => ({
  readerId: null,
  named: true,
  endsAt: new Date(now.getTime() + TEACHER_DAYS * 86_400_000),
});
const MOST_OPEN = 10;

/** A student asks: what there is so far is shown as a checkpoint, with a question at its words or about the whole. */
export async function askForLook(
  call: Call,
  pieceId: string,
  given: GivenLook,
  revision: number,
): Promise<{ looks: PieceLooks; number: number; revision: number; when: string }> {
  const { tx, now } = call;
  await requireOnPiece(call, pieceId, "look.ask");
  const [piece] = await tx<
    { handOutId: string }[]
  >`select hand_out_id from piece where id = ${pieceId} for update`;
  const { handOutId } = piece!;
  const to = given.of === "classmate" ? await readerFor(call, handOutId, given.readerId) : null;
  await requireFew(tx, pieceId);
  const sent = await sendCheckpoint(call, pieceId, given, revision);
  const [checkpoint] = await tx<
    { id: string; length: number }[]
  >`select id, length(text) as length from checkpoint where piece_id = ${pieceId} and number = ${sent.number}`;
  const at = rangeOf(given, checkpoint!.length);
  const id = call.newId();
  const { question } = given;
  await tx`insert into look ${tx({ id, pieceId, checkpointId: checkpoint!.id, question, ...at, ...(to ?? THE_TEACHER(now)), askedAt: now })}`;
  // To the teacher it is a question like any other: it waits among them until it is answered.
  if (!to)
    await sendMessage(call, pieceId, {
      ...{ body: given.question, markId: null, checkpoint: sent.number },
    });
  await recordEvent(call, {
    ...{ handOutId, pieceId, kind: "asked for a look", detail: { lookId: id, of: given.of } },
  });
  return { ...sent, looks: await readOwnLooks(call, pieceId) };
}

/** The words it is about, as columns; a range that is none, or lies outside, is about the whole. */
function rangeOf({ start, end }: GivenLook, length: number) {
  const isRange = start !== null && end !== null && start < end && end <= length;
  return isRange ? { startAt: start, endAt: end } : { startAt: null, endAt: null };
}

async function requireFew(db: Db, pieceId: string): Promise<void> {
  const [open] = await db<
    { n: number }[]
  >`select count(*)::int as n from look where piece_id = ${pieceId} and closed_at is null and done_at is null`;
  if (open!.n >= MOST_OPEN)
    throw new Refused(
      `${MOST_OPEN} looks are still open for this piece. End one of them first. What you wrote is still there.`,
    );
}

type Reader = { readerId: string; named: boolean; endsAt: Date };

/** Who reads: whom the student names, or whom the program says. @throws where classmates cannot be asked, or not this one */
async function readerFor(call: Call, handOutId: string, wanted: string | null): Promise<Reader> {
  const { tx, who, now } = call;
  const rule = await findRule(tx, { handOutId }, true);
  if (!rule || !isOpen(rule, now))
    throw new Refused("Classmates cannot be asked here just now. You can ask your teacher.");
  const { named, endsAt } = rule;
  if (rule.readers === "pairs") {
    const readerId = (await drawAgain(call, handOutId)).get(who.id);
    if (!readerId) throw new Refused("There is nobody else who has this work.");
    return { readerId, named, endsAt };
  }
  const people = await readMayBeAsked(tx, { handOutId, whoId: who.id, readers: rule.readers });
  if (named) {
    if (!wanted) throw new Invalid({ readerId: "Choose whom to ask." });
    if (!people.some((p) => p.studentId === wanted)) throw new NotFound();
    return { readerId: wanted, named, endsAt };
  }
  const readerId = leastAsked(new Map(people.map((p) => [p.studentId, p.load])), drawFrom(call));
  if (!readerId) throw new Refused("There is nobody who could be asked.");
  return { readerId, named, endsAt };
}
