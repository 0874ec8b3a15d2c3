import { shorten } from "@/core/text/shorten";
import { faultInShorthand } from "@/core/comments/lookup";
import { fillPlaceholders } from "@/core/comments/placeholders";
import {
  COMMENT_TABLE,
  wholeComment,
  type BankComment,
  type GivenComment,
  type Share,
} from "@/core/comments/schema";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { CommentUses, CommentView } from "@/core/views/views";
import { requireKind, requireOnHandOut } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { ownClip } from "../speech/clips";
import { mayUse } from "../access/sharing";

type Row = Omit<CommentView, "lastUsed"> & { lastUsedAt: Date | null };

/** A comment's fields; its key is the owner's alone. */
const columns = (db: Db, who: { id: string }) => db`
  comment.id, comment.used_count, comment.last_used_at, comment.revision,
  comment.owner_id = ${who.id} as mine, owner.name as owner
  ${COMMENT_TABLE.map(([name]) =>
    name === "favourite"
      ? db`, case when comment.owner_id = ${who.id} then comment.favourite end as favourite`
      : db`, ${db(`comment.${name}`)}`,
  )}`;

/** The comments a teacher may use, favourites first, then the most used. Indexes: comment_shorthand (owner first), comment_shared. */
export async function readBank({ db, who, now }: ReadCall): Promise<CommentView[]> {
  requireKind(who, "teacher");
  const rows = await db<Row[]>`
    select ${columns(db, who)}
    from comment
    join person owner on owner.id = comment.owner_id
    where ${mayUse(db, who)}
    order by comment.owner_id <> ${who.id}, comment.favourite nulls last, comment.used_count desc, comment.text`;
  return rows.map((row) => view(row, now, who.zone));
}

function view({ lastUsedAt, ...row }: Row, now: Date, zone: string): CommentView {
  return { ...row, lastUsed: lastUsedAt && sayTime(lastUsedAt, now, zone) };
}

/** How this teacher used comments: on this hand-out's assignment, on which words, how long ago. Index: comment_use_person. */
export async function readUses(
  { db, who, now }: ReadCall,
  handOutId: string,
): Promise<CommentUses> {
  requireKind(who, "teacher");
  await requireOnHandOut(db, who, handOutId, "handOut.see");
  const rows = await db<{ commentId: string; here: number; words: string[]; lastAt: Date }[]>`
    select comment_id, count(*) filter (where assignment_id = (select assignment_id from hand_out where id = ${handOutId}))::int as here,
      (array_agg(on_words order by at desc))[1:12] as words, max(at) as last_at
    from comment_use
    where person_id = ${who.id}
    group by comment_id`;
  return Object.fromEntries(
    rows.map(({ commentId, here, words, lastAt }) => [
      commentId,
      { here, on: words, days: Math.max(0, (now.getTime() - lastAt.getTime()) / 86_400_000) },
    ]),
  );
}

export async function addComment(call: Call, given: GivenComment): Promise<CommentView> {
  const { tx, who, now, newId } = call;
  requireKind(who, "teacher");
  const id = newId();
  await makeRoom(call, given, id);
  const comment = wholeComment(given);
  const share = await readShare(call, comment);
  const row = { ...comment, ...share, clipId: await ownClip(call, given.clipId) };
  await tx`insert into comment ${tx({ ...row, id, ownerId: who.id, createdAt: now })}`;
  return one(call, id);
}

/** A comment is shared with a course only by someone who teaches a section of it. */
async function readShare(
  { tx, who }: Call,
  { share, courseId }: BankComment,
): Promise<{ share: Share; courseId: string | null }> {
  if (share !== "course") return { share, courseId: null };
  if (!courseId) throw new Invalid({ share: "Say with which course." });
  const [teaches] = await tx`
    select section.id
    from section
    join section_teacher on section_teacher.section_id = section.id
    where section.course_id = ${courseId} and section_teacher.person_id = ${who.id}
    limit 1`;
  if (!teaches) throw new NotFound();
  return { share, courseId };
}

/**
 * Changes a comment. With `drafts`, notes made with it that still say it unchanged, in feedback that was never
 * handed back, are changed too; what was handed back stays as it was said.
 */
export async function changeComment(
  call: Call,
  commentId: string,
  given: GivenComment & { drafts?: boolean },
  revision: number,
): Promise<CommentView & { draftsChanged: number }> {
  const { tx } = call;
  requireKind(call.who, "teacher");
  const before = await one(call, commentId, true);
  if (before.revision !== revision)
    throw new Conflict(
      "This comment was changed in another window. Both are kept: choose which to go on with.",
      before,
    );
  await makeRoom(call, given, commentId);
  const comment = wholeComment(given);
  const share = await readShare(call, comment);
  const drafts = given.drafts ? await draftsWith(call, commentId, before.text) : [];
  const { clipId: _voice, ...said } = comment;
  const voice = given.clipId === undefined ? {} : { clipId: await ownClip(call, given.clipId) };
  await tx`
    update comment
    set ${tx({ ...said, ...share, ...voice })}, revision = revision + 1
    where id = ${commentId}`;
  for (const draft of drafts) {
    const body = draft.body.replace(fillPlaceholders(before.text, draft), () =>
      fillPlaceholders(given.text, draft),
    );
    await tx`update mark set body = ${body}, revision = revision + 1, changed_at = ${call.now} where id = ${draft.id}`;
  }
  return { ...(await one(call, commentId)), draftsChanged: drafts.length };
}

/** How many drafts say this comment unchanged. */
export async function countDrafts(call: ReadCall, commentId: string): Promise<{ drafts: number }> {
  requireKind(call.who, "teacher");
  const comment = await one(call, commentId, true);
  return { drafts: (await draftsWith(call, commentId, comment.text)).length };
}

type DraftWith = { id: string; body: string; name: string; title: string };

/** Notes of drafts that nobody has handed back, made with this comment by its owner, that still hold its words. Index: mark_comment. */
async function draftsWith(
  { db, who }: ReadCall,
  commentId: string,
  text: string,
): Promise<DraftWith[]> {
  const rows = await db<DraftWith[]>`
    select mark.id, mark.body, student.called as name, assignment.title
    from mark
    join piece on piece.id = mark.piece_id
    join person student on student.id = piece.student_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
    where mark.comment_id = ${commentId} and mark.created_by = ${who.id} and mark.deleted_at is null
      and not exists (select from hand_back where hand_back.piece_id = mark.piece_id and hand_back.round_number = mark.round_number)`;
  return rows.filter((row) => row.body.includes(fillPlaceholders(text, row)));
}

export async function deleteComment(call: Call, commentId: string): Promise<{ deleted: true }> {
  requireKind(call.who, "teacher");
  await one(call, commentId, true);
  await call.tx`update comment set deleted_at = ${call.now} where id = ${commentId}`;
  return { deleted: true };
}

/** A shorthand must be free; a favourite's key is taken over from the comment that had it. */
async function makeRoom({ tx, who }: Call, given: GivenComment, id: string): Promise<void> {
  const shorthand = given.shorthand ?? "";
  const fault = faultInShorthand(shorthand);
  if (fault) throw new Invalid({ shorthand: fault });
  const [taken] = await tx<{ text: string }[]>`
    select text
    from comment
    where owner_id = ${who.id} and lower(shorthand) = ${shorthand.toLowerCase()} and id <> ${id} and deleted_at is null`;
  if (taken)
    throw new Invalid({
      shorthand: `The shorthand “${shorthand}” belongs to another comment: “${shorten(taken.text, 60)}”.`,
    });
  if (given.favourite) {
    await tx`
      update comment
      set favourite = null, revision = revision + 1
      where owner_id = ${who.id} and favourite = ${given.favourite} and id <> ${id} and deleted_at is null`;
  }
}

/** One comment one may use; with `own`, only if it is one's own. @throws NotFound */
async function one({ db, who, now }: ReadCall, id: string, own = false): Promise<CommentView> {
  const [row] = await db<Row[]>`
    select ${columns(db, who)}
    from comment
    join person owner on owner.id = comment.owner_id
    where comment.id = ${id} and ${mayUse(db, who)} and (comment.owner_id = ${who.id} or not ${own})`;
  if (!row) throw new NotFound();
  return view(row, now, who.zone);
}
