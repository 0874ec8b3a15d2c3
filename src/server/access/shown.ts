import type { Act, Standing } from "@/core/access/access";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";
import { require, standingOfTeacher } from "./standing";

/**
 * Who sees whose work, until when: the one place. A classmate sees what a display or a look of theirs shows, and
 * nothing else of that piece; when it ends, nothing.
 */

/** The piece of the one who asks, for the same hand-out: they are of this class and have this work. */
const mineBeside = ({ db, who }: ReadCall) =>
  db`mine.hand_out_id = piece.hand_out_id and mine.student_id = ${who.id} and mine.removed_at is null and mine.left_at is null`;

const isGoing = ({ db, now }: ReadCall) =>
  db`piece.removed_at is null and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now}`;

/** Handed in, and not taken back to be changed: what a display can show. Needs `piece` beside it. */
export const isInHand = (db: Db, piece = db`piece`) =>
  db`(${piece}.state not in ('not_opened', 'started') and exists (select from version where version.piece_id = ${piece}.id))`;

/** Whether a display shows this piece at all. Needs `piece` and `display` beside it. */
export const isChosen = (db: Db) =>
  db`(display.shows = 'all' or exists (select from display_piece chosen where chosen.hand_out_id = display.hand_out_id and chosen.piece_id = piece.id))`;

/** A display is open just now. Needs `display` beside it. */
export const isDisplayOpen = ({ db, now }: ReadCall) =>
  db`(display.closed_at is null and display.closes_at > ${now})`;

/** Whether a classmate sees a piece in a display just now. Needs `piece` and `hand_out` beside it. */
export const isDisplayedTo = (call: ReadCall) => {
  const { db, who } = call;
  return db`(piece.student_id <> ${who.id} and ${isGoing(call)} and piece.left_at is null and ${isInHand(db)} and exists (
    select
    from display
    join piece mine on ${mineBeside(call)}
    where display.hand_out_id = piece.hand_out_id and ${isDisplayOpen(call)} and ${isChosen(db)}
      and (not display.only_handed_in or ${isInHand(db, db`mine`)})
  ))`;
};

/** Whether this look can be read by the one who asks just now. Needs `look`, `piece` and `hand_out` beside it. */
export const isLookFor = (call: ReadCall) => {
  const { db, who, now } = call;
  return db`(
    look.reader_id = ${who.id} and look.closed_at is null and look.ends_at > ${now} and ${isGoing(call)}
    and exists (select from piece mine where ${mineBeside(call)})
  )`;
};

type Facts = {
  role: string | null;
  mayHandBack: boolean;
  own: boolean;
  reads: boolean;
  sameSchool: boolean;
};

function standingOf(kind: string, facts: Facts | undefined): Standing {
  if (!facts?.sameSchool) return "none";
  if (kind === "teacher") return standingOfTeacher(facts);
  if (kind !== "student") return "none";
  if (facts.own) return "student";
  return facts.reads ? "reader" : "none";
}

const ABOUT_TEACHER = ({ db, who, now }: ReadCall) => db`
  teacher.role, coalesce(teacher.may_hand_back, false) as may_hand_back, course.school_id = ${who.schoolId} as same_school,
  piece.student_id = ${who.id} and hand_out.opens_at <= ${now} as own`;
const AROUND = ({ db, who }: ReadCall) => db`
  join hand_out on hand_out.id = piece.hand_out_id
  join section on section.id = hand_out.section_id
  join course on course.id = section.course_id
  left join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}`;

/** What someone is to a piece in a display. @throws NotFound where the act is not theirs */
export async function requireOnDisplayed(
  call: ReadCall,
  pieceId: string,
  act: Act,
): Promise<Standing> {
  const [facts] = await call.db<Facts[]>`
    select ${ABOUT_TEACHER(call)}, ${isDisplayedTo(call)} as reads
    from piece
    ${AROUND(call)}
    where piece.id = ${pieceId} and exists (select from display where display.hand_out_id = piece.hand_out_id)`;
  return require(standingOf(call.who.kind, facts), act);
}

/** What someone is to a look. @throws NotFound where the act is not theirs */
export async function requireOnLook(call: ReadCall, lookId: string, act: Act): Promise<Standing> {
  const [facts] = await call.db<Facts[]>`
    select ${ABOUT_TEACHER(call)}, ${isLookFor(call)} as reads
    from look
    join piece on piece.id = look.piece_id
    ${AROUND(call)}
    where look.id = ${lookId}`;
  return require(standingOf(call.who.kind, facts), act);
}

/**
 * Whether a file of another's is shown to the one who asks: it is of the checkpoint of a look they read, or of the
 * newest hand-in of a piece on display.
 */
export async function isItemShown(call: ReadCall, itemId: string): Promise<boolean> {
  const { db } = call;
  const [found] = await db<{ shown: boolean }[]>`
    select exists (
      select
      from item
      join piece on piece.id = item.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      where item.id = ${itemId} and (
        exists (
          select
          from look
          join checkpoint_item held on held.checkpoint_id = look.checkpoint_id and held.item_id = item.id
          where look.piece_id = piece.id and ${isLookFor(call)}
        )
        or (${isDisplayedTo(call)} and exists (
          select
          from version_item held
          where held.item_id = item.id and held.version_id = (select id from version where piece_id = piece.id order by number desc limit 1)
        ))
      )
    ) as shown`;
  return found!.shown;
}

/** Whether a picture that stands in another's writing, as it is shown, may be seen by the one who asks. Needs `upload` beside it. */
export const isPictureShown = (call: ReadCall) => {
  const { db } = call;
  return db`exists (
    select
    from piece_picture
    join piece on piece.id = piece_picture.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    where piece_picture.upload_id = upload.id and (
      (${isDisplayedTo(call)} and position(upload.id::text in (
        select doc::text from version_content where piece_id = piece.id order by number desc limit 1
      )) > 0)
      or exists (
        select
        from look
        join checkpoint on checkpoint.id = look.checkpoint_id
        where look.piece_id = piece.id and ${isLookFor(call)} and position(upload.id::text in checkpoint.doc::text) > 0
      )
    )
  )`;
};

/**
 * Whether a voice was said of work that was shown, to someone who may hear it: teachers, its writer, and those to
 * whom the same is shown. Index: look_mark_clip.
 */
export async function isSaidOfShown(call: ReadCall, clipId: string): Promise<boolean> {
  const { db, who } = call;
  const [found] = await db<{ said: boolean }[]>`
    select exists (
      select
      from look_mark said
      join piece on piece.id = said.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      where said.clip_id = ${clipId} and said.taken_at is null and (
        exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
        or (said.shown_at is not null and (
          piece.student_id = ${who.id}
          or (said.look_id is null and ${isDisplayedTo(call)})
          or exists (select from look where look.id = said.look_id and ${isLookFor(call)})
        ))
      )
    ) as said`;
  return found!.said;
}
