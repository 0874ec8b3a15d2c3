import { faultInShorthand } from "@/core/comments/lookup";
import { Conflict, Invalid, NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { CommentView } from "@/core/views/views";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";

type Given = { text: string; shorthand: string; nature: "remark" | "request"; favourite: number | null };
type Row = Omit<CommentView, "lastUsed"> & { lastUsedAt: Date | null };

/** The teacher's own bank, favourites first, then the most used. Index: comment_shorthand (owner first). */
export async function readBank({ db, who, now }: ReadCall): Promise<CommentView[]> {
  requireKind(who, "teacher");
  const rows = await db<Row[]>`
    select id, text, shorthand, nature, favourite, used_count, last_used_at, revision
    from comment
    where owner_id = ${who.id} and deleted_at is null
    order by favourite nulls last, used_count desc, text`;
  return rows.map((row) => view(row, now, who.zone));
}

function view({ lastUsedAt, ...row }: Row, now: Date, zone: string): CommentView {
  return { ...row, lastUsed: lastUsedAt && sayTime(lastUsedAt, now, zone) };
}

export async function addComment(call: Call, given: Given): Promise<CommentView> {
  const { tx, who, now, newId } = call;
  requireKind(who, "teacher");
  const id = newId();
  await makeRoom(call, given, id);
  await tx`
    insert into comment (id, owner_id, text, shorthand, nature, favourite, created_at)
    values (${id}, ${who.id}, ${given.text}, ${given.shorthand || null}, ${given.nature}, ${given.favourite}, ${now})`;
  return one(call, id);
}

export async function changeComment(call: Call, commentId: string, given: Given, revision: number): Promise<CommentView> {
  const { tx } = call;
  requireKind(call.who, "teacher");
  const stored = await one(call, commentId);
  if (stored.revision !== revision) throw new Conflict("This comment was changed in another window. Both are kept: choose which to go on with.", stored);
  await makeRoom(call, given, commentId);
  await tx`
    update comment
    set text = ${given.text}, shorthand = ${given.shorthand || null}, nature = ${given.nature}, favourite = ${given.favourite}, revision = revision + 1
    where id = ${commentId}`;
  return one(call, commentId);
}

export async function deleteComment(call: Call, commentId: string): Promise<{ deleted: true }> {
  requireKind(call.who, "teacher");
  await one(call, commentId);
  await call.tx`update comment set deleted_at = ${call.now} where id = ${commentId}`;
  return { deleted: true };
}

/** A shorthand must be free; a favourite's key is taken over from the comment that had it. */
async function makeRoom({ tx, who }: Call, given: Given, id: string): Promise<void> {
  const fault = faultInShorthand(given.shorthand);
  if (fault) throw new Invalid({ shorthand: fault });
  const [taken] = await tx<{ text: string }[]>`
    select text
    from comment
    where owner_id = ${who.id} and lower(shorthand) = ${given.shorthand.toLowerCase()} and id <> ${id} and deleted_at is null`;
  if (taken) throw new Invalid({ shorthand: `The shorthand “${given.shorthand}” belongs to another comment: “${taken.text.slice(0, 60)}”.` });
  if (given.favourite !== null) {
    await tx`
      update comment
      set favourite = null, revision = revision + 1
      where owner_id = ${who.id} and favourite = ${given.favourite} and id <> ${id} and deleted_at is null`;
  }
}

async function one({ tx, who, now }: Call, id: string): Promise<CommentView> {
  const [row] = await tx<Row[]>`
    select id, text, shorthand, nature, favourite, used_count, last_used_at, revision
    from comment
    where id = ${id} and owner_id = ${who.id} and deleted_at is null`;
  if (!row) throw new NotFound();
  return view(row, now, who.zone);
}
