import { askedAgain } from "@/core/rounds/askedAgain";
import { answeredMarks } from "@/core/rounds/cameBack";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { NotFound, Refused } from "@/core/refusals";
import type { DraftMark, EarlierMark } from "@/core/views/deskViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import {
  readMarkAnswers,
  readHandBacks,
  readContent,
  readPiece,
  readTexts,
  readVersions,
  type HandBackRow,
  type VersionRow,
} from "../life/queries";
import { readMessages } from "../life/messages";
import { namesOut } from "../names/names";
import { followedMarks } from "../text/aligned";
import { openDraft } from "./draft";
import { insertMarks, readDraftMarks } from "./marks";
import { itemsOf, readRulings, touchFeedback } from "./queries";

/** `likely`: asked again on the words that are offered in place of those that are gone. */
export type GivenRuling = { ruling: "settled" | "again" | null; likely?: boolean };

/**
 * A teacher's word on a request of an earlier round: settled, asked again, or neither. It is part of
 * the draft: the student sees it when the round is handed back. Asking again puts the same request on
 * its words as they now stand, where it can be changed like any mark.
 */
export async function rule(
  call: Call,
  pieceId: string,
  markId: string,
  { ruling, likely = false }: GivenRuling,
): Promise<{ earlier: EarlierMark[]; marks: DraftMark[] }> {
  const { round, version } = await openDraft(call, pieceId);
  const { tx, now } = call;
  const earlier = await earlierMarks(call, pieceId, { round, version });
  const mark = earlier.find((m) => m.id === markId && m.nature === "request");
  if (!mark) throw new NotFound();
  const [old] = await tx<{ againMark: string | null }[]>`
    delete from ruling
    where mark_id = ${markId} and round_number = ${round}
    returning again_mark`;
  if (old?.againMark)
    await tx`update mark set deleted_at = ${now}, revision = revision + 1 where id = ${old.againMark}`;
  let againMark: string | null = null;
  if (ruling === "again")
    againMark = await askAgain(call, mark, { pieceId, round, version, likely });
  if (ruling !== null) {
    await tx`
      insert into ruling (mark_id, piece_id, round_number, ruling, again_mark)
      values (${markId}, ${pieceId}, ${round}, ${ruling}, ${againMark})`;
  }
  await touchFeedback(call, pieceId, round);
  return namesOut(tx, pieceId, {
    // Where they stand is as it was found above: a ruling moves none of them.
    earlier: earlier.map((m) => (m === mark ? { ...m, ruling } : m)),
    marks: await readDraftMarks(call, pieceId, round),
  });
}

type Again = { pieceId: string; round: number; version: VersionRow | null; likely: boolean };

/** The request as a mark of this round. @returns its id */
async function askAgain(
  call: Call,
  mark: EarlierMark,
  { pieceId, round, version, likely }: Again,
): Promise<string> {
  if (!version) throw new Refused("Nothing is handed in for this round yet.");
  const id = call.newId();
  const { text } = await readContent(call.tx, version.id);
  const offered = likely && mark.at === null ? mark.lost?.likely : null;
  const again = askedAgain({ ...mark, at: offered ?? mark.at }, id, text);
  await insertMarks(call, [again], { pieceId, round, versionId: version.id, againOf: mark.id });
  return id;
}

/** Follows the marks before the ruling's transaction, which then finds their places kept. */
export async function prepareRuling(call: ReadCall, pieceId: string): Promise<void> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const [piece, versions] = await Promise.all([
    readPiece(call.db, pieceId),
    readVersions(call.db, pieceId),
  ]);
  await earlierMarks(call, pieceId, feedbackRound(piece, versions));
}

/** Marks handed back in rounds before `round`, placed on the text of `version`, with this draft's rulings. */
export async function earlierMarks(
  call: ReadCall,
  pieceId: string,
  { round, version }: { round: number; version: VersionRow | null },
  known?: { handBacks: HandBackRow[] },
): Promise<EarlierMark[]> {
  if (round === 1 || !version) return [];
  const [handBacks, answers, messages, rulings] = await Promise.all([
    known?.handBacks ?? readHandBacks(call.db, pieceId),
    readMarkAnswers(call.db, pieceId),
    readMessages(call, pieceId),
    readRulings(call.db, pieceId, round),
  ]);
  const before = handBacks.filter((h) => h.round < round);
  const [texts, itemIds] = await Promise.all([
    readTexts(call.db, [version.id, ...before.map((h) => h.content.versionId)]),
    itemsOf(call.db, version.id),
  ]);
  const text = texts.get(version.id)!;
  const said = new Map(rulings.map((r) => [r.markId, r.ruling]));
  const items = new Set(itemIds);
  const cameBack = { handBacks: before, answers, messages: messages.byMark, texts, items };
  const places = await followedMarks(call.db, cameBack, text);
  const marks = answeredMarks(cameBack, text, places);
  // Of older rounds only what is still open between the two concerns this one.
  const last = Math.max(0, ...marks.map((m) => m.round));
  return marks
    .filter((m) => m.round === last || m.request === "open" || m.request === "done")
    .map((m) => ({ ...m, ruling: said.get(m.id) ?? null }));
}
