import type { InferType } from "yup";
import type { changedMarkBody, markBody } from "@/core/api/routes/pieces";
import type { ItemKind } from "@/core/items/kinds";
import { faultsOf } from "@/core/marks/mark";
import { itemOf, type Place } from "@/core/marks/place";
import { MARK_TABLE, wholeMark, type GivenMark, type Mark } from "@/core/marks/schema";
import { Conflict, Invalid, NotFound, Refused } from "@/core/refusals";
import type { DraftMark } from "@/core/views/deskViews";
import type { Call } from "../call";
import { mayUse } from "../access/sharing";
import type { Db } from "../db/connection";
import type { PieceRow } from "../life/queries";
import { copyClip, requirePieceClip } from "../speech/clips";
import { openDraftWith } from "./draft";
import { columnsOf, draftMark, readMark, readMarks } from "./markRows";
import { touchFeedback, touching } from "./queries";

/** Puts a mark on the work. Its id is the maker's, so asking twice makes one. */
export async function addMark(
  call: Call,
  pieceId: string,
  given: InferType<typeof markBody>,
): Promise<DraftMark> {
  const { piece, ...open } = await openForMarks(call, pieceId, given.versionId);
  const { versionId: _id, commentId, ...said } = given;
  const mark = fitting(open, wholeMark(readGiven(said) as GivenMark));
  await requirePieceClip(call, pieceId, mark.clipId);
  const fromBank =
    commentId === null ? null : await countUse(call, commentId, piece.handOutId, mark.quote);
  const clipId = mark.clipId ?? (fromBank && (await copyClip(call, fromBank, pieceId)));
  const { round, versionId } = open;
  await insertMarks(call, [{ ...mark, clipId }], { pieceId, round, versionId, commentId });
  return draftMark(await readMark(call.tx, pieceId, mark.id));
}

/**
 * Puts many marks on the work in a few statements, as they come from a file. One that cannot stand there is
 * left out and said.
 *
 * @returns how many were put, and of those left out their place in the list and why
 */
export async function addMarks(
  call: Call,
  pieceId: string,
  versionId: string,
  marks: readonly Mark[],
): Promise<{ added: number; faults: { at: number; why: string }[] }> {
  const { piece: _piece, ...open } = await openForMarks(call, pieceId, versionId);
  const faults: { at: number; why: string }[] = [];
  const fit: Mark[] = [];
  for (const [at, mark] of marks.entries()) {
    try {
      fit.push(fitting(open, wholeMark(readGiven(mark) as GivenMark)));
    } catch (error) {
      if (!(error instanceof Invalid) && !(error instanceof Refused)) throw error;
      faults.push({ at, why: error.message });
    }
  }
  for (let n = 0; n < fit.length; n += AT_ONCE)
    await insertMarks(call, fit.slice(n, n + AT_ONCE), { pieceId, round: open.round, versionId });
  return { added: fit.length, faults };
}

/** Rows of one statement: some thirty columns each, and a statement takes 65,000 values at most. */
const AT_ONCE = 500;

type Open = {
  round: number;
  versionId: string;
  text: string;
  /** The files of the version that is marked. */ items: ReadonlyMap<string, ItemKind>;
};

async function openForMarks(
  call: Call,
  pieceId: string,
  versionId: string,
): Promise<Open & { piece: PieceRow }> {
  const { open, found } = await openDraftWith(call, pieceId, (db) => readMarked(db, versionId));
  const { piece, round, version } = open;
  if (!version)
    throw new Refused("Nothing is handed in, so there are no words to mark. Use the overall note.");
  if (version.id !== versionId)
    throw new Refused(
      "The student has handed in a newer version. Open the piece again to mark that one; your earlier marks are kept.",
    );
  return { piece, round, versionId, ...found };
}

/** What marks stand on: the text of a version, and its files. One statement. */
async function readMarked(db: Db, versionId: string): Promise<Pick<Open, "text" | "items">> {
  const [row] = await db<{ text: string; items: Record<string, ItemKind> | null }[]>`
    select version.text, (
      select jsonb_object_agg(item.id, item.kind)
      from version_item
      join item on item.id = version_item.item_id
      where version_item.version_id = version.id
    ) as items
    from version_content version
    where version.id = ${versionId}`;
  return { text: row?.text ?? "", items: new Map(Object.entries(row?.items ?? {})) };
}

/** A mark on its words and files. @throws Invalid or Refused when it cannot stand there, or says nothing */
function fitting({ text, items }: Open, given: Mark): Mark {
  const mark = onItsWords(given, text);
  requireNoFault(mark, text.length);
  requireItem(items, mark.place);
  return mark;
}

type Whose = {
  pieceId: string;
  round: number;
  versionId: string;
  commentId?: string | null;
  againOf?: string | null;
};

/** Stores marks that are right, and whose draft it now is. One that is there already stays as it is. */
export async function insertMarks(
  call: Call,
  marks: readonly Mark[],
  { round, ...whose }: Whose,
): Promise<void> {
  const { tx, who, now } = call;
  const made = { createdBy: who.id, createdAt: now, changedAt: now };
  const rows = marks.map((mark) => ({
    ...columnsOf(tx, mark),
    ...whose,
    roundNumber: round,
    ...made,
  }));
  await tx`
    with touched as (${touching(call, whose.pieceId, round)})
    insert into mark ${tx(rows)}
    on conflict (id) do nothing`;
}

/** What came in, with what only the core can read. @throws Invalid with the sentence that says what cannot be read */
function readGiven(given: Record<string, unknown>): Partial<Mark> {
  const faults: Record<string, string> = {};
  const read = { ...given };
  for (const [field, rule] of MARK_TABLE) {
    if (!rule.read || given[field] === undefined) continue;
    read[field] = rule.read(given[field]);
    if (typeof read[field] === "string") faults[field] = read[field];
  }
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  return read as Partial<Mark>;
}

/** On the text the words are those of the version; of a page the browser read them from the file. */
function onItsWords(mark: Mark, text: string): Mark {
  if (mark.place.on !== "text") return { ...mark, start: 0, end: 0 };
  return { ...mark, quote: text.slice(mark.start, mark.end) };
}

/** @throws Invalid when the mark cannot stand there, or says nothing */
function requireNoFault(mark: Mark, textLength: number): void {
  const faults = faultsOf(mark, textLength);
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
}

/** The kinds of file that have a kind of place; null: no file is asked for. */
const FITS: Record<Place["on"], readonly ItemKind[] | null> = {
  text: null,
  whole: null,
  page: ["pdf", "document"],
  picture: ["photo", "picture"],
  time: ["sound", "film"],
};

/** A mark stands on a file of the version that is marked, and on a kind of place that the file has. */
function requireItem(items: Open["items"], place: Place): void {
  const itemId = itemOf(place);
  if (itemId === null) return;
  const kind = items.get(itemId);
  if (!kind)
    throw new Refused(
      "This file is not in what was handed in last. Open the piece again; your marks are kept.",
    );
  if (FITS[place.on]?.includes(kind) === false)
    throw new Invalid({ place: "A mark of this kind cannot stand on this file." });
  if (place.on === "time" && place.area && kind !== "film")
    throw new Invalid({ place: "Only a film has a picture to mark." });
}

/** Only a comment that one may use can be used: one's own, or one shared with one. @returns the voice clip it carries */
async function countUse(
  { tx, who, now }: Call,
  commentId: string,
  handOutId: string,
  words: string,
): Promise<string | null> {
  const [used] = await tx<{ clipId: string | null }[]>`
    update comment
    set used_count = used_count + 1, last_used_at = ${now}
    where id = ${commentId} and ${mayUse(tx, who)}
    returning clip_id`;
  if (!used) throw new NotFound();
  await tx`
    insert into comment_use (comment_id, person_id, assignment_id, on_words, at)
    select ${commentId}, ${who.id}, assignment_id, ${words.slice(0, 200)}, ${now}
    from hand_out
    where id = ${handOutId}`;
  return used.clipId;
}

/** Changes what a mark says or where it stands; what is not named stays. A deleted one comes back with it. */
export async function changeMark(
  call: Call,
  { pieceId, markId }: { pieceId: string; markId: string },
  given: InferType<typeof changedMarkBody>,
  revision: number,
): Promise<DraftMark> {
  const { open, found: row } = await openDraftWith(call, pieceId, (db) =>
    readMark(db, pieceId, markId),
  );
  const { round, version } = open;
  requireThisRound(row.round, round);
  const before = draftMark(row);
  if (row.revision !== revision)
    throw new Conflict("This mark was changed since you opened it.", before);
  const named = Object.entries(readGiven(given)).filter(([, value]) => value !== undefined);
  const wanted = wholeMark({ ...before, ...Object.fromEntries(named) });
  if ((wanted.place.on === "text") !== (before.place.on === "text"))
    throw new Invalid({ place: "A mark on words stays on words." });
  const after = await placedAnew(call, before, wanted, version ? row.versionId : null);
  if (after.clipId !== before.clipId) await requirePieceClip(call, pieceId, after.clipId);
  await call.tx`
    with touched as (${touching(call, pieceId, round)})
    update mark
    set ${call.tx(columnsOf(call.tx, after))},
        revision = revision + 1, changed_at = ${call.now}, deleted_at = null
    where id = ${markId}`;
  return draftMark(await readMark(call.tx, pieceId, markId));
}

/** A changed mark where it stands now. Its words are read anew only when it is moved: what it was made on may be gone. */
async function placedAnew(
  call: Call,
  before: DraftMark,
  wanted: Mark,
  versionId: string | null,
): Promise<Mark> {
  const stays = wanted.start === before.start && wanted.end === before.end;
  const onText = wanted.place.on === "text";
  const kept = onText && stays ? { ...wanted, quote: before.quote } : wanted;
  // One that stays on its words needs nothing of the text.
  if (!versionId || (stays && onText)) {
    requireNoFault(kept, Infinity);
    return kept;
  }
  const { text, items } = await readMarked(call.tx, versionId);
  const after = stays ? kept : onItsWords(wanted, text);
  requireNoFault(after, text.length);
  requireItem(items, after.place);
  return after;
}

/** Takes a mark out of the draft; what was handed back with it stays in the history. */
export async function deleteMark(
  call: Call,
  pieceId: string,
  markId: string,
): Promise<{ deleted: true }> {
  const { open, found: mark } = await openDraftWith(call, pieceId, (db) =>
    readMark(db, pieceId, markId),
  );
  const { round } = open;
  requireThisRound(mark.round, round);
  await call.tx`delete from ruling where again_mark = ${markId} and round_number = ${round}`;
  await call.tx`
    update mark
    set deleted_at = ${call.now}, changed_at = ${call.now}, revision = revision + 1
    where id = ${markId} and deleted_at is null`;
  await touchFeedback(call, pieceId, round);
  return { deleted: true };
}

function requireThisRound(markRound: number, round: number): void {
  if (markRound !== round)
    throw new Refused(
      "This mark belongs to an earlier round, which is handed back and stays as it was.",
    );
}

export const readDraftMarks = async ({ tx }: Call, pieceId: string, round: number) =>
  (await readMarks(tx, pieceId, round)).map(draftMark);
