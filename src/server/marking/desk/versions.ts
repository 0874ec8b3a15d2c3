import { NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { VersionShown } from "@/core/views/deskViews";
import { requireOnPiece } from "../../access/standing";
import type { ReadCall } from "../../call";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { itemView, readItems } from "../../items/items";
import { readContent, readPiece, readVersions } from "../../life/queries";
import { comparedTexts } from "../../text/aligned";
import { answerSheets, readAsked } from "../../questions/answers";
import { judgementsOn } from "../judgements";
import { namesOut } from "../../names/names";

/** An earlier hand-in as it was, compared with the one on the Desk. */
export async function versionShown(
  call: ReadCall,
  pieceId: string,
  versionId: string,
): Promise<VersionShown> {
  const { db, who, now } = call;
  await requireOnPiece(call, pieceId, "feedback.see");
  const [piece, versions, asks] = await Promise.all([
    readPiece(db, pieceId),
    readVersions(db, pieceId),
    readAsked(db, pieceId),
  ]);
  const asked = versions.find((v) => v.id === versionId);
  if (!asked) throw new NotFound();
  const { version } = feedbackRound(piece, versions);
  const { doc, text, answers } = await readContent(db, versionId);
  const other = version && version.id !== versionId ? await readContent(db, version.id) : null;
  const items = (await readItems(db, pieceId, { version: versionId })).map(itemView);
  const judgements = await judgementsOn(db, piece, answers, asks.sets);
  return namesOut(db, pieceId, {
    id: versionId,
    round: asked.roundNumber,
    when: sayTime(asked.handedInAt, now, who.zone),
    doc,
    items,
    sheets: answerSheets(asks, answers, [], judgements),
    comparison: other && (await comparedTexts(db, text, other.text)),
  });
}
