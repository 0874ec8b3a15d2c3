import type { ItemKind } from "@/core/items/kinds";
import { faultsOf, type MarkKind, type Nature } from "@/core/marks/mark";
import { itemOf, readPlace, readStrokes, type Place, type Stroke } from "@/core/marks/place";
import { carryPicks, type Picks } from "@/core/rubrics/rubric";
import { Conflict, Invalid, NotFound, Refused } from "@/core/refusals";
import type { DraftMark } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { mayUse } from "../comments/sharing";
import { copyClip, requirePieceClip } from "../speech/clips";
import {
  lockPiece,
  readVersions,
  recordEvent,
  type PieceRow,
  type VersionRow,
} from "../pieces/queries";
import { readRubric, understandScore } from "./counted";
import {
  beginFeedback,
  draftMark,
  feedbackRound,
  readFeedback,
  readMark,
  readMarks,
  touchFeedback,
} from "./queries";

/** Where a draft is about to be changed: the piece (locked), the round, and the version the marks stand on. */
export async function openDraft(
  call: Call,
  pieceId: string,
): Promise<{ piece: PieceRow; round: number; version: VersionRow | null }> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const piece = await lockPiece(call.tx, pieceId);
  const { round, version } = feedbackRound(piece, await readVersions(call.tx, pieceId));
  const known = await readFeedback(call.tx, pieceId, round);
  if (!known) {
    await beginFeedback(call, pieceId, round);
    await recordEvent(call, {
      handOutId: piece.handOutId,
      pieceId,
      kind: "began feedback",
      detail: { round },
    });
  }
  return { piece, round, version };
}

/**
 * Keeps the overall note and the score as typed.
 *
 * @throws Conflict with theirs when a co-teacher changed them since `revision`
 * @throws Invalid when the score cannot be understood; the rest of the draft is kept as it was
 */
export async function saveFeedback(
  call: Call,
  pieceId: string,
  given: { overall: string; score: string; picks: Picks; reason?: string },
  revision: number,
): Promise<{ revision: number; scoreWords: string | null }> {
  const { piece, round } = await openDraft(call, pieceId);
  const stored = (await readFeedback(call.tx, pieceId, round))!;
  if (stored.revision !== revision) {
    throw new Conflict(
      `${stored.changedByName} changed this note since you opened it. Both are kept: choose which to go on with.`,
      {
        overall: stored.overall,
        score: stored.scoreTyped,
        picks: stored.picks,
        reason: stored.scoreReason,
        revision: stored.revision,
      },
    );
  }
  await requirePicks(call, piece, given.picks);
  const { points, words } = understandScore(given.score, piece);
  await call.tx`
    update feedback
    set overall = ${given.overall}, score_typed = ${given.score}, points = ${points}, picks = ${call.tx.json(given.picks as never)}, score_reason = ${given.reason ?? stored.scoreReason}, revision = revision + 1,
        changed_by = ${call.who.id}, changed_at = ${call.now}
    where piece_id = ${pieceId} and round_number = ${round}`;
  return { revision: revision + 1, scoreWords: words };
}

/** Levels can be chosen from the hand-out's own rubric only, and points within the level. */
async function requirePicks({ tx }: Call, piece: PieceRow, picks: Picks): Promise<void> {
  if (Object.keys(picks).length === 0) return;
  const rubric = await readRubric(tx, piece.rubricId);
  const { lost } = carryPicks(picks, rubric?.content ?? { criteria: [] });
  if (lost > 0)
    throw new Refused(
      "The rubric of this work has changed since you opened this piece. Load it again; your notes are kept.",
    );
}

/** What a mark says and where it stands; what is left out is nothing (in a new mark) or stays (in a change). */
type GivenMore = {
  place?: unknown;
  strokes?: unknown;
  sentence?: string;
  quote?: string;
  criterionId?: string | null;
  points?: string | null;
  clipId?: string | null;
};
type GivenMark = GivenMore & {
  id: string;
  kind: MarkKind;
  nature: Nature;
  start: number;
  end: number;
  body: string;
  replacement: string;
  versionId: string;
  commentId: string | null;
};

/** Puts a mark on the work. Its id is the maker's, so asking twice makes one. */
export async function addMark(call: Call, pieceId: string, given: GivenMark): Promise<DraftMark> {
  const { piece, round, version } = await openDraft(call, pieceId);
  if (!version)
    throw new Refused("Nothing is handed in, so there are no words to mark. Use the overall note.");
  if (version.id !== given.versionId)
    throw new Refused(
      "The student has handed in a newer version. Open the piece again to mark that one; your earlier marks are kept.",
    );
  const { tx, who, now } = call;
  const { place, strokes } = readMore(given);
  const faults = faultsOf({ ...given, place, strokes }, version.text.length);
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  await requireItem(call, version.id, place);
  await requirePieceClip(call, pieceId, given.clipId);
  const onText = place.on === "text";
  // Of words on a page the text is the page's own, which the browser read from the file.
  const quote = onText ? version.text.slice(given.start, given.end) : (given.quote ?? "");
  const fromBank =
    given.commentId === null ? null : await countUse(call, given.commentId, piece.handOutId, quote);
  const clipId = given.clipId ?? (fromBank && (await copyClip(call, fromBank, pieceId)));
  await tx`
    insert into mark (id, piece_id, round_number, version_id, kind, nature, start_at, end_at, quote, body, replacement, place, strokes, sentence, criterion_id, points, clip_id, comment_id, created_by, created_at, changed_at)
    values (${given.id}, ${pieceId}, ${round}, ${version.id}, ${given.kind}, ${given.nature}, ${onText ? given.start : 0}, ${onText ? given.end : 0}, ${quote},
            ${given.body}, ${given.replacement}, ${onText ? null : tx.json(place as never)}, ${tx.json(strokes as never)}, ${given.sentence ?? ""}, ${given.criterionId ?? null}, ${given.points ?? null},
            ${clipId}, ${given.commentId}, ${who.id}, ${now}, ${now})
    on conflict (id) do nothing`;
  await touchFeedback(call, pieceId, round);
  return draftMark(await readMark(tx, pieceId, given.id));
}

/** @throws Invalid with the sentence that says what cannot be read */
function readMore(given: GivenMore): { place: Place; strokes: Stroke[] } {
  const place = readPlace(given.place);
  const strokes = readStrokes(given.strokes);
  if (typeof place === "string") throw new Invalid({ place });
  if (typeof strokes === "string") throw new Invalid({ strokes });
  return { place, strokes };
}

/** A mark stands on a file of the version that is marked, and on a kind of place that the file has. */
async function requireItem({ tx }: Call, versionId: string, place: Place): Promise<void> {
  const itemId = itemOf(place);
  if (itemId === null) return;
  const [item] = await tx<{ kind: ItemKind }[]>`
    select item.kind
    from version_item
    join item on item.id = version_item.item_id
    where version_item.version_id = ${versionId} and item.id = ${itemId}`;
  if (!item)
    throw new Refused(
      "This file is not in what was handed in last. Open the piece again; your marks are kept.",
    );
  const fits: Record<Place["on"], readonly ItemKind[] | null> = {
    text: null,
    whole: null,
    page: ["pdf", "document"],
    picture: ["photo", "picture"],
    time: ["sound", "film"],
  };
  if (fits[place.on] && !fits[place.on]!.includes(item.kind))
    throw new Invalid({ place: "A mark of this kind cannot stand on this file." });
  if (place.on === "time" && place.area && item.kind !== "film")
    throw new Invalid({ place: "Only a film has a picture to mark." });
}

/** Only a comment that one may use can be used: one's own, or one shared with one. @returns the voice clip it carries */
async function countUse(
  call: Call,
  commentId: string,
  handOutId: string,
  words: string,
): Promise<string | null> {
  const { tx, who, now } = call;
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

/** Changes a mark's words or nature; a deleted one comes back with it. */
export async function changeMark(
  call: Call,
  pieceId: string,
  markId: string,
  given: GivenMore & {
    nature: Nature;
    body: string;
    replacement: string;
    start?: number;
    end?: number;
  },
  revision: number,
): Promise<DraftMark> {
  const { round, version } = await openDraft(call, pieceId);
  const mark = await readMark(call.tx, pieceId, markId);
  requireThisRound(mark.round, round);
  if (mark.revision !== revision)
    throw new Conflict("This mark was changed since you opened it.", draftMark(mark));
  const before = draftMark(mark);
  const { place, strokes } = readMore({
    place: given.place ?? before.place,
    strokes: given.strokes ?? before.strokes,
  });
  if ((place.on === "text") !== (before.place.on === "text"))
    throw new Invalid({ place: "A mark on words stays on words." });
  const after = {
    ...before,
    ...given,
    place,
    strokes,
    sentence: given.sentence ?? before.sentence,
    start: given.start ?? before.start,
    end: given.end ?? before.end,
    quote: given.quote ?? before.quote,
    criterionId: given.criterionId === undefined ? before.criterionId : given.criterionId,
    points: given.points === undefined ? before.points : given.points,
    clipId: given.clipId === undefined ? before.clipId : given.clipId,
  };
  const faults = faultsOf(after, version?.text.length ?? 0);
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  await requireItem(call, mark.versionId, place);
  if (after.clipId !== before.clipId) await requirePieceClip(call, pieceId, after.clipId);
  // Words of the text are read from the version itself, and only when the mark is moved: what it was made on may be gone.
  const moved = place.on === "text" && (after.start !== before.start || after.end !== before.end);
  const quote = moved
    ? version!.text.slice(after.start, after.end)
    : place.on === "text"
      ? before.quote
      : after.quote;
  await call.tx`
    update mark
    set start_at = ${after.start}, end_at = ${after.end}, quote = ${quote}, nature = ${after.nature}, body = ${after.body}, replacement = ${after.replacement}, place = ${place.on === "text" ? null : call.tx.json(place as never)},
        strokes = ${call.tx.json(strokes as never)}, sentence = ${after.sentence}, criterion_id = ${after.criterionId}, points = ${after.points}, clip_id = ${after.clipId},
        revision = revision + 1, changed_at = ${call.now}, deleted_at = null
    where id = ${markId}`;
  await touchFeedback(call, pieceId, round);
  return draftMark(await readMark(call.tx, pieceId, markId));
}

/** Takes a mark out of the draft; what was handed back with it stays in the history. */
export async function deleteMark(
  call: Call,
  pieceId: string,
  markId: string,
): Promise<{ deleted: true }> {
  const { round } = await openDraft(call, pieceId);
  const mark = await readMark(call.tx, pieceId, markId);
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

export async function readDraftMarks(
  call: Call,
  pieceId: string,
  round: number,
): Promise<DraftMark[]> {
  return (await readMarks(call.tx, pieceId, round)).map(draftMark);
}
