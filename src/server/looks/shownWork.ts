import { isTeacher, may, type Standing } from "@/core/access/access";
import { isOpen, UNNAMED } from "@/core/looks/shown";
import { NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { RichDoc } from "@/core/text/richDoc";
import type { ShownView } from "@/core/views/lookViews";
import type { Call, ReadCall } from "../call";
import { itemView, readItems } from "../items/items";
import { namesOut, readTelling, withoutNames } from "../names/names";
import { mayHear, OWN_SECONDS } from "../speech/clips";
import { findDisplay, isDisplayRowOpen } from "./displays";
import { readShownMarks, seenBy, shownMarks } from "./marks";
import { readVersionShown, sayOfShown, type GivenShownMark } from "./say";
import { requireOnDisplayed, requireOnLook } from "../access/shown";

/** Work as it is shown to others: what they may read of it, and say. */
type About = {
  handOutId: string;
  title: string;
  section: string;
  writer: string;
  mine: string | null;
  replySeconds: number;
};

async function readAbout({ db, who }: ReadCall, pieceId: string): Promise<About> {
  const [row] = await db<About[]>`
    select piece.hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section,
      shown_name(student) as writer, section.reply_seconds,
      (select id from piece mine where mine.hand_out_id = piece.hand_out_id and mine.student_id = ${who.id}) as mine
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    join person student on student.id = piece.student_id
    where piece.id = ${pieceId}`;
  return row!;
}

/** Without its writer's name and what their files are called, for classmates to whom names are not shown. */
async function asItMayBeRead(
  call: ReadCall,
  view: ShownView,
  standing: Standing,
): Promise<ShownView> {
  if (isTeacher(standing)) return namesOut(call.db, view.pieceId, view);
  if (view.named || view.own) return view;
  const hidden = { anonymous: true, handedBack: false, number: 0 };
  const telling = await readTelling(call.db, view.pieceId, hidden);
  return withoutNames(view, { ...telling, as: UNNAMED });
}

type Source = {
  doc: RichDoc;
  text: string;
  of: { version: string } | { checkpoint: string };
  /** Which of the marks said of the piece belong here. */ belongs: (mark: {
    lookId: string | null;
    versionId: string | null;
  }) => boolean;
};

type Parts = Pick<
  ShownView,
  | "kind"
  | "lookId"
  | "reader"
  | "until"
  | "open"
  | "question"
  | "asked"
  | "readFirst"
  | "named"
  | "mayOffer"
  | "done"
  | "mayEnd"
>;

async function compose(
  call: ReadCall,
  pieceId: string,
  { standing, source, parts }: { standing: Standing; source: Source; parts: Parts },
): Promise<ShownView> {
  const { db, who, now } = call;
  const [about, items, rows] = await Promise.all([
    readAbout(call, pieceId),
    readItems(db, pieceId, source.of),
    readShownMarks(db, pieceId),
  ]);
  const seen = seenBy(rows.filter(source.belongs), standing, who);
  const looking = { standing, who, now, text: source.text };
  const marks = await shownMarks(db, seen, { ...looking, items: new Set(items.map((i) => i.id)) });
  const clips = await mayHear(
    call,
    marks.map((m) => m.clipId),
  );
  const { mine, replySeconds, ...rest } = about;
  const teacher = isTeacher(standing);
  return asItMayBeRead(
    call,
    {
      ...{ pieceId, ...rest, ...parts, doc: source.doc, marks, clips },
      items: items.map(itemView),
      own: standing === "student",
      maySay: may(standing, "shown.say") && parts.open,
      voiceOf: teacher ? null : mine,
      mostSeconds: teacher ? OWN_SECONDS : replySeconds,
    },
    standing,
  );
}

/** The newest hand-in of a piece. */
async function newestVersion({ db }: ReadCall, pieceId: string): Promise<string> {
  const [row] = await db<{ id: string }[]>`
    select id from version where piece_id = ${pieceId} order by number desc limit 1`;
  if (!row) throw new NotFound();
  return row.id;
}

/** A piece on display, as the one who asks may read it. */
export async function readDisplayedPiece(call: ReadCall, pieceId: string): Promise<ShownView> {
  const standing = await requireOnDisplayed(call, pieceId, "shown.see");
  const versionId = await newestVersion(call, pieceId);
  const [{ handOutId }, content] = await Promise.all([
    readAbout(call, pieceId),
    readVersionShown(call.db, versionId),
  ]);
  const display = (await findDisplay(call, handOutId))!;
  const { named, readFirst } = display;
  return compose(call, pieceId, {
    standing,
    source: {
      ...{ doc: content.doc, text: content.text, of: { version: versionId } },
      belongs: (mark) => mark.versionId !== null,
    },
    parts: {
      ...{ kind: "display", lookId: null, reader: null, question: null, asked: null },
      ...{ named, readFirst, mayOffer: false, done: false, mayEnd: false },
      until: sayTime(display.closesAt, call.now, call.who.zone),
      open: isDisplayRowOpen(display, call.now),
    },
  });
}

/** Someone says something of a piece on display. */
export async function sayOnDisplay(
  call: Call,
  pieceId: string,
  given: GivenShownMark,
): Promise<ShownView> {
  const standing = await requireOnDisplayed(call, pieceId, "shown.say");
  const { handOutId } = await readAbout(call, pieceId);
  const display = (await findDisplay(call, handOutId))!;
  if (!isDisplayRowOpen(display, call.now)) throw new Refused(CLOSED);
  const versionId = await newestVersion(call, pieceId);
  const { text, items } = await readVersionShown(call.db, versionId);
  const { readFirst } = display;
  await sayOfShown(
    call,
    { pieceId, handOutId, lookId: null, versionId, text, items, readFirst, standing },
    given,
  );
  return readDisplayedPiece(call, pieceId);
}

const CLOSED = "This is closed since. What you wrote was not sent; it is still in the field.";

type LookRow = {
  pieceId: string;
  checkpointId: string;
  readerId: string | null;
  reader: string | null;
  question: string;
  startAt: number | null;
  endAt: number | null;
  named: boolean;
  askedAt: Date;
  endsAt: Date;
  doneAt: Date | null;
  closedAt: Date | null;
  doc: RichDoc;
  text: string;
  readFirst: boolean;
};

async function findLook({ db }: ReadCall, lookId: string): Promise<LookRow> {
  const [row] = await db<LookRow[]>`
    select look.*, reader.name as reader, checkpoint.doc, checkpoint.text, coalesce(look_rule.read_first, false) as read_first
    from look
    join checkpoint on checkpoint.id = look.checkpoint_id
    join piece on piece.id = look.piece_id
    left join look_rule on look_rule.hand_out_id = piece.hand_out_id
    left join person reader on reader.id = look.reader_id
    where look.id = ${lookId}`;
  return row!;
}

/** A look as the one who asks may read it: the reader while it is open, its writer and the teachers always. */
export async function readLook(call: ReadCall, lookId: string): Promise<ShownView> {
  const standing = await requireOnLook(call, lookId, "shown.see");
  const { now, who } = call;
  const look = await findLook(call, lookId);
  const open = isOpen({ endsAt: look.endsAt, endedAt: look.closedAt }, now);
  const readerName = !look.named && standing === "student" ? UNNAMED : look.reader;
  return compose(call, look.pieceId, {
    standing,
    source: {
      ...{ doc: look.doc, text: look.text, of: { checkpoint: look.checkpointId } },
      belongs: (mark) => mark.lookId === lookId,
    },
    parts: {
      ...{ kind: "look", lookId, readFirst: look.readFirst && look.readerId !== null },
      ...{ named: look.named, mayOffer: true, done: look.doneAt !== null, open },
      reader: look.readerId === null ? null : readerName,
      until: sayTime(look.endsAt, now, who.zone),
      question: {
        words: look.question,
        at: look.startAt === null ? null : { start: look.startAt, end: look.endAt! },
        quote: look.startAt === null ? "" : look.text.slice(look.startAt, look.endAt!),
      },
      asked: sayTime(look.askedAt, now, who.zone),
      mayEnd: open && standing !== "reader",
    },
  });
}

/** The reader, or a teacher, says something in a look. */
export async function sayInLook(
  call: Call,
  lookId: string,
  given: GivenShownMark,
): Promise<ShownView> {
  const standing = await requireOnLook(call, lookId, "shown.say");
  const look = await findLook(call, lookId);
  if (!isOpen({ endsAt: look.endsAt, endedAt: look.closedAt }, call.now)) throw new Refused(CLOSED);
  const [{ handOutId }, items] = await Promise.all([
    readAbout(call, look.pieceId),
    readItems(call.db, look.pieceId, { checkpoint: look.checkpointId }),
  ]);
  await sayOfShown(
    call,
    {
      ...{ pieceId: look.pieceId, handOutId, lookId, versionId: null, text: look.text, standing },
      ...{ items: items.map((i) => i.id), readFirst: look.readFirst },
    },
    given,
  );
  return readLook(call, lookId);
}
