import { itemOf } from "@/core/marks/place";
import { NotFound } from "@/core/refusals";
import { answeredMarks, type CameBack } from "@/core/rounds/cameBack";
import { EMPTY_DOC } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { RoundView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { ReadCall } from "../call";
import { itemView, readItems } from "../items/items";
import { readContent, readHandBacks, readMarkAnswers, readVersions } from "../life/queries";
import { readMessages } from "../life/messages";
import { namesOut } from "../names/names";
import { clipViews, heardIn } from "../speech/clips";
import { cameBackView } from "./cameBackView";

/**
 * One round as it came back: all that was said, with its marks on the version they were made on and what became of
 * each. For its student and for the section's teachers alike; of drafts it knows nothing.
 *
 * @throws NotFound when nothing came back in that round
 */
export async function roundView(
  call: ReadCall,
  pieceId: string,
  number: number,
): Promise<RoundView> {
  const { db, who, now } = call;
  await requireOnPiece(call, pieceId, who.kind === "student" ? "piece.see" : "feedback.see");
  const [handBacks, answers, messages, versions] = await Promise.all([
    readHandBacks(db, pieceId),
    readMarkAnswers(db, pieceId),
    readMessages(call, pieceId),
    readVersions(db, pieceId),
  ]);
  const back = handBacks.find((h) => h.round === number);
  if (!back) throw new NotFound();
  const version = versions.find((v) => v.id === back.content.versionId) ?? null;
  const [content, items] = version
    ? await Promise.all([
        readContent(db, version.id),
        readItems(db, pieceId, { version: version.id }),
      ])
    : [null, []];
  const text = content?.text ?? "";
  const facts: CameBack = {
    ...{ handBacks, answers, messages: messages.byMark },
    texts: new Map(version ? [[version.id, text]] : []),
    items: new Set(items.map((item) => item.id)),
  };
  const marks = answeredMarks(facts, text).filter((mark) => mark.round === number);
  const heard = marks.flatMap((mark) => mark.messages);
  return namesOut(db, pieceId, {
    round: number,
    back: cameBackView(back, now, who.zone),
    handedIn: version && sayTime(version.handedInAt, now, who.zone),
    doc: content?.doc ?? EMPTY_DOC,
    items: items.map(itemView),
    markedItems: [...new Set(marks.flatMap((mark) => itemOf(mark.place) ?? []))],
    marks,
    clips: await clipViews(call, heardIn(marks, heard, null)),
  });
}
