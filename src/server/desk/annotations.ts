import { readAnnotations, toCollection, toMark, type Sources } from "@/core/formats/annotations";
import { ON_TEXT, type Place } from "@/core/marks/place";
import { Invalid, Refused } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import type { WholeMark } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { addMark } from "../feedback/draft";
import { draftMark, feedbackRound, readMarks } from "../feedback/queries";
import { itemView, readItems } from "../items/items";
import { readPiece, readVersions, type VersionRow } from "../pieces/queries";

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

async function isOfPiece({ db }: ReadCall, pieceId: string, clipId: string): Promise<boolean> {
  if (!UUID.test(clipId)) return false;
  const [found] =
    await db`select 1 from clip join person on person.id = clip.made_by where clip.id = ${clipId} and clip.piece_id = ${pieceId} and person.kind = 'teacher'`;
  return found !== undefined;
}

/** Most annotations that are brought in at once. */
const MOST = 1000;

async function sourcesOf(call: ReadCall, pieceId: string, version: VersionRow): Promise<Sources> {
  const items = (await readItems(call.db, pieceId, { version: version.id })).map(itemView);
  return {
    text: version.text,
    textIri: `urn:uuid:${version.id}`,
    items: items.map((i) => ({
      id: i.id,
      iri: `urn:uuid:${i.id}`,
      type: i.view?.as ?? "other",
      width: i.width,
      height: i.height,
    })),
  };
}

/** The draft's marks as an AnnotationCollection (JSON-LD, W3C Web Annotation Data Model). */
export async function annotationsOut(call: ReadCall, pieceId: string): Promise<Response> {
  await requireOnPiece(call, pieceId, "feedback.see");
  const { round, version } = feedbackRound(
    await readPiece(call.db, pieceId),
    await readVersions(call.db, pieceId),
  );
  if (!version) throw new Refused("Nothing is handed in, so there are no marks to take out.");
  const marks = (await readMarks(call.db, pieceId, round)).map(draftMark);
  const collection = toCollection(
    marks,
    await sourcesOf(call, pieceId, version),
    `Marks on round ${round}`,
  );
  return new Response(`${JSON.stringify(collection, null, 2)}\n`, {
    headers: {
      "content-type": 'application/ld+json; profile="http://www.w3.org/ns/anno.jsonld"',
      "content-disposition": `attachment; filename="marks-round-${round}.jsonld"`,
      "cache-control": "no-store",
    },
  });
}

/** Brings marks in: each annotation that is about this piece becomes a mark of the draft; the others are named with why. */
export async function annotationsIn(
  call: Call,
  pieceId: string,
  { text }: { text: string },
): Promise<{ added: number; faults: string[] }> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const { round, version } = feedbackRound(
    await readPiece(call.tx, pieceId),
    await readVersions(call.tx, pieceId),
  );
  if (!version) throw new Refused("Nothing is handed in, so there is nothing to put marks on.");
  const given = readAnnotations(parse(text));
  if (!given)
    throw new Invalid({ text: "There are no web annotations in this file. Nothing was changed." });
  if (given.length > MOST)
    throw new Invalid({
      text: `This file has ${given.length} annotations; ${MOST} at a time are taken. Nothing was changed.`,
    });
  const sources = await sourcesOf(call, pieceId, version);
  const fingerprint = (
    m: Pick<WholeMark, "start" | "end" | "kind" | "body" | "replacement"> & {
      clipId?: string | null;
    },
    place: Place,
  ) => canonicalJson([m.start, m.end, m.kind, m.body, m.replacement, m.clipId ?? null, place]);
  const known = new Set(
    (await readMarks(call.tx, pieceId, round)).map((m) => fingerprint(m, m.place ?? ON_TEXT)),
  );
  const faults: string[] = [];
  let added = 0;
  for (const [n, annotation] of given.entries()) {
    const read = toMark(annotation, sources);
    if (typeof read === "string") {
      faults.push(`${n + 1}: ${read}`);
      continue;
    }
    // A voice stays with its piece: one that is not of this piece cannot be brought in by its name.
    const voice = read.clipId ? await isOfPiece(call, pieceId, read.clipId) : false;
    const mark = {
      ...read,
      clipId: voice ? read.clipId : null,
      body:
        read.body === "" && read.clipId && !voice
          ? "(a voice that is not in this piece)"
          : read.body,
    };
    // What is there already is not put there twice: taking out and in again changes nothing.
    if (known.has(fingerprint(mark, mark.place ?? ON_TEXT))) continue;
    try {
      await addMark(call, pieceId, {
        ...mark,
        id: call.newId(),
        versionId: version.id,
        commentId: null,
      });
      added += 1;
    } catch (error) {
      if (!(error instanceof Invalid) && !(error instanceof Refused)) throw error;
      faults.push(`${n + 1}: ${error.message}`);
    }
  }
  return { added, faults };
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Invalid({ text: "This is not JSON. Nothing was changed." });
  }
}
