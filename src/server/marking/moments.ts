import { wholeMark, type MarkKind } from "@/core/marks/schema";
import { readVtt, toVtt, type Cue } from "@/core/speech/vtt";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { sayNote } from "@/core/text/noteText";
import { may } from "@/core/access/access";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { addMarks } from "./marks";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { markOf, readMarks } from "./markRows";
import { readHandBacks, readPiece, readVersions } from "../life/queries";

/** A note on a moment is shown for so long in a file of cues, which all have an end. */
const MOMENT = 4;

/** What stands for a mark that says nothing in words. */
const WORDLESS: Partial<Record<MarkKind, string>> = {
  ink: "(drawn on the picture)",
  note: "(a voice note)",
};

/**
 * The notes on moments of a recording as WebVTT: for teachers those of their draft, for the student those that came
 * back. Drawings and voices are named, since the format holds text alone.
 */
export async function momentsOut(call: ReadCall, itemId: string): Promise<Response> {
  const { pieceId, kind } = await itemOf(call, itemId);
  const standing = await requireOnPiece(call, pieceId, "thread.write");
  const versions = await readVersions(call.db, pieceId);
  const { round } = feedbackRound(await readPiece(call.db, pieceId), versions);
  const marks = may(standing, "feedback.see")
    ? (await readMarks(call.db, pieceId, round)).map(markOf)
    : (await readHandBacks(call.db, pieceId)).flatMap((h) => h.content.marks.map(wholeMark));
  const cues = marks.flatMap((mark): Cue[] => {
    const { place } = mark;
    if (place?.on !== "time" || place.itemId !== itemId) return [];
    return [
      {
        id: mark.id,
        from: place.from,
        to: place.to ?? place.from + MOMENT,
        text: sayNote(mark.body) || (WORDLESS[mark.kind] ?? mark.kind),
      },
    ];
  });
  return new Response(toVtt(cues, `Notes on this ${kind}`), {
    headers: {
      "content-type": "text/vtt; charset=utf-8",
      "content-disposition": 'attachment; filename="notes.vtt"',
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
    },
  });
}

/** Notes from a WebVTT file, as notes of the draft over its cues; what is there already is not put there twice. */
export async function momentsIn(
  call: Call,
  itemId: string,
  vtt: string,
): Promise<{ added: number; faults: string[] }> {
  const { pieceId } = await itemOf(call, itemId);
  await requireOnPiece(call, pieceId, "feedback.draft");
  const { cues, faults } = readVtt(vtt);
  const said = faults.map((f) => `Line ${f.line}: ${f.why}`);
  if (cues.length === 0)
    throw new Refused(
      [said[0] ?? "There is nothing in this WebVTT file.", "Nothing was changed."].join(" "),
    );
  if (cues.length > 500)
    throw new Refused(
      `This file has ${cues.length} cues; 500 at a time are taken. Nothing was changed.`,
    );
  const versions = await readVersions(call.tx, pieceId);
  const { round, version } = feedbackRound(await readPiece(call.tx, pieceId), versions);
  if (!version) throw new Refused("Nothing is handed in, so there is nothing to put notes on.");
  const key = (from: number, body: string) => `${from.toFixed(1)} ${body}`;
  const known = new Set(
    (await readMarks(call.tx, pieceId, round)).flatMap((m) =>
      m.place?.on === "time" && m.place.itemId === itemId
        ? [key(m.place.from, sayNote(m.body))]
        : [],
    ),
  );
  const fresh = cues.filter((cue) => cue.text !== "" && !known.has(key(cue.from, cue.text)));
  const marks = fresh.map(({ from, to, text }) =>
    wholeMark({
      ...{ id: call.newId(), kind: "note", nature: "remark", start: 0, end: 0, replacement: "" },
      body: text.slice(0, 4000),
      place: { on: "time", itemId, from, to: Math.abs(to - from - MOMENT) < 0.01 ? null : to },
    }),
  );
  const { added, faults: left } = await addMarks(call, pieceId, version.id, marks);
  if (added === 0 && left[0]) throw new Invalid({ vtt: left[0].why });
  return { added, faults: said };
}

async function itemOf(
  { db }: ReadCall,
  itemId: string,
): Promise<{ pieceId: string; kind: string }> {
  const [item] = await db<
    { pieceId: string; kind: string }[]
  >`select piece_id, kind from item where id = ${itemId}`;
  if (!item) throw new NotFound();
  return item;
}
