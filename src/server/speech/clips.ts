import { createHash } from "node:crypto";
import type { HeardWord } from "@/core/speech/heard";
import { NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { ClipView, Shows } from "@/core/views/voiceViews";
import { may } from "@/core/access/access";
import { requireKind, requireOnPiece } from "../access/standing";
import type { Call, Person, ReadCall } from "../call";
import { isSaidOfShown } from "../access/shown";
import { hiddenNow } from "../names/names";
import { mayUse } from "../access/sharing";
import type { Db } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { Turns } from "../programs/turns";
import { lookAtVoice, type LookedVoice } from "./lookAtVoice";

/**
 * Voice clips: who may hear one, how it is kept, and what its player needs. A clip of a piece is for those of the
 * piece, and a teacher's is the student's only once it was handed back or sent. A clip without a piece belongs to who
 * made it; those who may use the comment, or were given the task, that names it may hear it.
 */
export type ClipRow = {
  id: string;
  pieceId: string | null;
  madeBy: string;
  sha256: Buffer;
  revision: number;
};

/** The longest a clip of a teacher's own may be, in seconds, and how much a slow stop may add. */
export const OWN_SECONDS = 120;
const SLACK = 5;

/** Keeps a recording of a piece: a teacher's feedback or a student's reply. Nobody else hears it until it is put on a mark or sent. */
export async function addPieceClip(
  call: Call,
  pieceId: string,
  voice: LookedVoice,
): Promise<ClipView> {
  const standing = await requireOnPiece(call, pieceId, "thread.write");
  const [limits] = await call.tx<{ voiceSeconds: number; replySeconds: number }[]>`
    select section.voice_seconds, section.reply_seconds
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join section on section.id = hand_out.section_id
    where piece.id = ${pieceId}`;
  return keepClip(
    call,
    pieceId,
    voice,
    standing === "student" ? limits!.replySeconds : limits!.voiceSeconds,
  );
}

/** Keeps a recording of a teacher's own, for the bank or beside instructions. */
export async function addOwnClip(call: Call, voice: LookedVoice): Promise<ClipView> {
  requireKind(call.who, "teacher");
  return keepClip(call, null, voice, OWN_SECONDS);
}

/** Looks into a recording for a piece, or for a teacher's own (null), before its transaction. */
export async function lookAtClip(
  call: ReadCall,
  pieceId: string | null,
  { bytes }: { bytes: Buffer },
): Promise<LookedVoice> {
  if (pieceId) await requireOnPiece(call, pieceId, "thread.write");
  else requireKind(call.who, "teacher");
  return LOOKING.take(call.who.id, () => lookAtVoice(bytes));
}

/** Voices do not stand behind files. */
const LOOKING = new Turns(2, 20);

async function keepClip(
  call: Call,
  pieceId: string | null,
  { bytes, seconds, mediaType }: LookedVoice,
  most: number,
): Promise<ClipView> {
  const { tx, who, now, newId } = call;
  if (seconds > most + SLACK)
    throw new Refused(
      `This recording is ${Math.round(seconds)} s long, and ${most} s is the most here. It is kept on this device: record it again, shorter.`,
    );
  const sha256 = createHash("sha256").update(bytes).digest();
  const id = newId();
  const [fresh] = await tx`
    insert into sound (sha256, media_type, raw, seconds, changed_at)
    values (${sha256}, ${mediaType}, ${bytes}, ${seconds}, ${now})
    on conflict (sha256) do nothing
    returning sha256`;
  await tx`insert into clip ${tx({ id, sha256, pieceId, madeBy: who.id, madeAt: now })}`;
  if (fresh)
    await enqueue(
      tx,
      {
        kind: "sound",
        key: sha256.toString("hex"),
        payload: { sha256: sha256.toString("hex"), clipId: id },
        ownerId: who.id,
      },
      now,
    );
  return (await clipViews(call, [id]))[0]!;
}

/** A clip that the one who asks may hear. @throws NotFound */
export async function requireClip(call: ReadCall, clipId: string): Promise<ClipRow> {
  const { db, who } = call;
  const [clip] = await db<
    ClipRow[]
  >`select id, piece_id, made_by, sha256, revision from clip where id = ${clipId}`;
  if (!clip) throw new NotFound();
  if (clip.madeBy !== who.id && (await isSaidToClass(call, clipId))) return clip;
  if (clip.madeBy !== who.id && (await isSaidOfShown(call, clipId))) return clip;
  if (clip.pieceId) await requireOnClipsPiece(call, clip, clip.pieceId);
  else if (clip.madeBy !== who.id && !(await isGiven(call, clipId))) throw new NotFound();
  return clip;
}

/** Whether it was said to a class that this person is in or teaches; a student hears what the class may see. Index: section_note_clip. */
async function isSaidToClass({ db, who, now }: ReadCall, clipId: string): Promise<boolean> {
  const [found] = await db<{ said: boolean }[]>`
    select exists (
      select
      from section_note note
      join hand_out on hand_out.id = note.hand_out_id
      where note.clip_id = ${clipId} and note.taken_at is null and (
        exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
        or (note.shown_at is not null and hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null
          and exists (select from piece where hand_out_id = hand_out.id and student_id = ${who.id} and removed_at is null))
      )
    ) as said`;
  return found!.said;
}

async function requireOnClipsPiece(call: ReadCall, clip: ClipRow, pieceId: string): Promise<void> {
  const standing = await requireOnPiece(call, pieceId, "thread.write");
  if (clip.madeBy === call.who.id) return;
  const [given] = await call.db<{ sent: boolean; back: boolean; byStudent: boolean }[]>`
    select
      exists (select from message where clip_id = ${clip.id}) as sent,
      exists (
        select
        from hand_back
        where piece_id = ${pieceId} and content->'marks' @> ${call.db.json([{ clipId: clip.id }])}
          and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      ) as back,
      (select student_id = ${clip.madeBy} from piece where id = ${pieceId}) as by_student`;
  // A student's recording that was not sent is the student's alone; a colleague's draft is open to the section's teachers.
  const open = may(standing, "feedback.see")
    ? given!.sent || !given!.byStudent
    : given!.sent || given!.back;
  if (!open) throw new NotFound();
}

/** Whether a comment or a task that this person may see names the clip. Indexes: comment_clip, assignment_clip. */
async function isGiven({ db, who, now }: ReadCall, clipId: string): Promise<boolean> {
  const [found] = await db<{ given: boolean }[]>`
    select
      (${who.kind === "teacher"} and exists (select from comment where comment.clip_id = ${clipId} and ${mayUse(db, who)}))
      or exists (
        select
        from assignment
        join hand_out on hand_out.assignment_id = assignment.id and hand_out.withdrawn_at is null
        where assignment.clip_id = ${clipId} and (
          exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
          or (hand_out.opens_at <= ${now} and exists (select from piece where hand_out_id = hand_out.id and student_id = ${who.id} and removed_at is null))
        )
      ) as given`;
  return found!.given;
}

/** Who spoke it; to a teacher who reads the piece without its name, its student has none. */
const nameOfMaker = (db: Db, who: Person) => db`
  case when ${who.kind === "teacher"} and maker.id = piece.student_id and exists (
    select from hand_out where hand_out.id = piece.hand_out_id and ${hiddenNow(db, db`piece.id`)}
  ) then 'the student' else maker.name end`;

type ViewRow = {
  id: string;
  pieceId: string | null;
  madeBy: string;
  by: string;
  seconds: number;
  state: "waiting" | "made" | "failed";
  peaks: number[] | null;
  heardState: "waiting" | "made" | "none";
  heardReason: string | null;
  heardPart: number;
  heard: HeardWord[] | null;
  words: HeardWord[] | null;
  checkedBy: string | null;
  shows: Shows;
  title: string;
  revision: number;
  iHeard: boolean;
  studentHeard: Date | null;
};

/** Clips for their players, by ids that the caller may show. Index: the key of clip. */
export async function clipViews(
  { db, who, now }: ReadCall,
  ids: readonly string[],
): Promise<ClipView[]> {
  if (ids.length === 0) return [];
  const rows = await db<ViewRow[]>`
    select
      clip.id, clip.piece_id, clip.made_by, ${nameOfMaker(db, who)} as by, clip.shows, clip.title, clip.words, clip.revision, checker.name as checked_by,
      sound.seconds, sound.state, sound.peaks, sound.heard_state, sound.heard_reason, sound.heard_part, sound.heard,
      exists (select from clip_heard where clip_id = clip.id and person_id = ${who.id}) as i_heard,
      (select heard_at from clip_heard where clip_id = clip.id and person_id = piece.student_id and piece.student_id <> clip.made_by) as student_heard
    from clip
    join sound on sound.sha256 = clip.sha256
    join person maker on maker.id = clip.made_by
    left join person checker on checker.id = clip.checked_by
    left join piece on piece.id = clip.piece_id
    where clip.id = any(${[...new Set(ids)]})`;
  return rows.map((row) => ({
    id: row.id,
    href: `/api/clips/${row.id}/sound${row.state === "made" ? "?as=levelled" : ""}`,
    seconds: row.seconds,
    state: ({ waiting: "being made", made: "ready", failed: "as it came" } as const)[row.state],
    peaks: row.peaks,
    by: row.by,
    mine: row.madeBy === who.id,
    shows: row.shows,
    title: row.title,
    transcript: {
      state: row.words
        ? "made"
        : ({ waiting: "being made", made: "made", none: "none" } as const)[row.heardState],
      why: row.heardReason,
      part: row.heardPart,
      by: row.checkedBy,
      words: row.words ?? row.heard ?? [],
    },
    heard: row.madeBy === who.id || row.iHeard,
    heardByStudent:
      who.kind === "teacher" && row.studentHeard ? sayTime(row.studentHeard, now, who.zone) : null,
    mayChange: row.madeBy === who.id || (who.kind === "teacher" && row.pieceId !== null),
    revision: row.revision,
  }));
}

export async function readClip(call: ReadCall, clipId: string): Promise<ClipView> {
  await requireClip(call, clipId);
  return (await clipViews(call, [clipId]))[0]!;
}

/** Those of the clips that the one who asks may hear, for a page that names them. */
export async function mayHear(
  call: ReadCall,
  ids: readonly (string | null | undefined)[],
): Promise<ClipView[]> {
  const open = await Promise.all(
    ids.map((id) =>
      id
        ? requireClip(call, id).then(
            () => id,
            () => null,
          )
        : null,
    ),
  );
  return clipViews(
    call,
    open.flatMap((id) => id ?? []),
  );
}

/** A clip that is about to be put on a mark or sent: of this piece. A teacher may also put one of the piece's other teachers. @throws NotFound */
export async function requirePieceClip(
  call: Call,
  pieceId: string,
  clipId: string | null | undefined,
): Promise<void> {
  if (!clipId) return;
  const clip = await requireClip(call, clipId);
  if (clip.pieceId !== pieceId || (clip.madeBy !== call.who.id && call.who.kind !== "teacher"))
    throw new NotFound();
}

/** The same sound for another use: for a piece (from the bank), or for the teacher's own (from a note into the bank). The sound itself is kept once. */
export async function copyClip(
  call: Call,
  clipId: string,
  pieceId: string | null,
): Promise<string> {
  await requireClip(call, clipId);
  const id = call.newId();
  await call.tx`
    insert into clip (id, sha256, piece_id, made_by, made_at, shows, title, words, checked_by)
    select ${id}, sha256, ${pieceId}, ${call.who.id}, ${call.now}, shows, title, words, checked_by
    from clip
    where id = ${clipId}`;
  return id;
}

/**
 * A clip as a teacher's own, to be named by a comment, a task or a word to the class: itself, or a copy where it belongs to
 * a piece or a colleague. A student's voice stays with its piece.
 */
export async function ownClip(
  call: Call,
  clipId: string | null | undefined,
): Promise<string | null> {
  if (!clipId) return null;
  const clip = await requireClip(call, clipId);
  const [maker] = await call.tx<
    { kind: string }[]
  >`select kind from person where id = ${clip.madeBy}`;
  if (maker!.kind !== "teacher") throw new NotFound();
  return clip.pieceId === null && clip.madeBy === call.who.id
    ? clip.id
    : copyClip(call, clipId, null);
}

/** The ids of the clips in marks, messages and instructions. */
export function heardIn(
  marks: readonly { clipId?: string | null }[],
  messages: readonly { clipId: string | null }[],
  voice: string | null,
): string[] {
  return [...marks, ...messages, { clipId: voice }].flatMap(({ clipId }) => clipId ?? []);
}

/** It was heard to its end. */
export async function noteHeard(call: Call, clipId: string): Promise<{ heard: true }> {
  await requireClip(call, clipId);
  await call.tx`insert into clip_heard ${call.tx({ clipId, personId: call.who.id, heardAt: call.now })} on conflict do nothing`;
  return { heard: true };
}

const DAY = 86_400_000;

/**
 * Takes away the voices that nothing holds any more: recorded and never used for a day, or on a mark that was deleted a
 * month ago and never handed back. With the last clip its sound goes too; and so do texts read aloud a season ago.
 */
export async function dropLooseClips(db: Db, now: Date): Promise<number> {
  const month = new Date(now.getTime() - 30 * DAY);
  // What was deleted so long ago lets go of its voice; the rows themselves stay.
  await db`
    update mark
    set clip_id = null, body = case when body = '' then '(a voice that was taken away)' else body end
    where clip_id is not null and deleted_at <= ${month}
      and not exists (select from hand_back where hand_back.piece_id = mark.piece_id and content->'marks' @> jsonb_build_array(jsonb_build_object('clipId', mark.clip_id)))`;
  await db`update comment set clip_id = null where clip_id is not null and deleted_at <= ${month}`;
  const gone = await db`
    delete from clip
    where made_at < ${new Date(now.getTime() - DAY)}
      and not exists (select from mark where mark.clip_id = clip.id)
      and not exists (select from message where message.clip_id = clip.id)
      and not exists (select from section_note where section_note.clip_id = clip.id)
      and not exists (select from look_mark where look_mark.clip_id = clip.id)
      and not exists (select from comment where comment.clip_id = clip.id)
      and not exists (select from assignment where assignment.clip_id = clip.id)
      and not exists (select from hand_out_draft where hand_out_draft.owner_id = clip.made_by and plan->'work'->>'clipId' = clip.id::text)
      and not exists (select from hand_back where hand_back.piece_id = clip.piece_id and content->'marks' @> jsonb_build_array(jsonb_build_object('clipId', clip.id)))
    returning id`;
  await db`delete from aloud where made_at < ${new Date(now.getTime() - 90 * DAY)}`;
  if (gone.length > 0)
    await db`delete from sound where not exists (select from clip where clip.sha256 = sound.sha256)`;
  return gone.length;
}
