import { toCollection, type Sources } from "@/core/formats/annotations";
import { readAnnotations, toMark } from "@/core/formats/readAnnotation";
import { isId } from "@/core/ids";
import { allItSays, type Mark } from "@/core/marks/schema";
import { Invalid, Refused } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { addMarks } from "./marks";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { readRubric } from "../rubrics/readRubric";
import { markOf, readMarks } from "./markRows";
import { itemView, readItems } from "../items/items";
import { readContent, readPiece, readVersions, type VersionRow } from "../life/queries";

async function isOfPiece({ db }: ReadCall, pieceId: string, clipId: string): Promise<boolean> {
  if (!isId(clipId)) return false;
  const [found] =
    await db`select 1 from clip join person on person.id = clip.made_by where clip.id = ${clipId} and clip.piece_id = ${pieceId} and person.kind = 'teacher'`;
  return found !== undefined;
}

/** Most annotations that are brought in at once. */
const MOST = 1000;

async function sourcesOf(call: ReadCall, pieceId: string, version: VersionRow): Promise<Sources> {
  const { text } = await readContent(call.db, version.id);
  const items = (await readItems(call.db, pieceId, { version: version.id })).map(itemView);
  return {
    text,
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
  const marks = (await readMarks(call.db, pieceId, round)).map(markOf);
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
  const known = new Set(
    (await readMarks(call.tx, pieceId, round)).map((m) => allItSays(markOf(m))),
  );
  const criteria = await criteriaOf(call, pieceId);
  const faults: string[] = [];
  const fresh: Mark[] = [];
  const numbers: number[] = [];
  for (const [n, annotation] of given.entries()) {
    const read = toMark(annotation, sources);
    if (typeof read === "string") {
      faults.push(`${n + 1}: ${read}`);
      continue;
    }
    const mark = { ...(await ofThisPiece(call, pieceId, read, criteria)), id: call.newId() };
    // What is there already is not put there twice: taking out and in again changes nothing.
    if (known.has(allItSays(mark))) continue;
    fresh.push(mark);
    numbers.push(n + 1);
  }
  const put = await addMarks(call, pieceId, version.id, fresh);
  faults.push(...put.faults.map(({ at, why }) => `${numbers[at]}: ${why}`));
  const { added } = put;
  return { added, faults };
}

/**
 * What an annotation names by an id is kept where it is this piece's: a voice stays with its piece, and one that
 * is not of it cannot be brought in by its name; a criterion is one of the hand-out's rubric.
 */
async function ofThisPiece(
  call: Call,
  pieceId: string,
  read: Omit<Mark, "id">,
  criteria: ReadonlySet<string>,
): Promise<Omit<Mark, "id">> {
  const criterionId =
    read.criterionId !== null && criteria.has(read.criterionId) ? read.criterionId : null;
  const voice = read.clipId !== null && (await isOfPiece(call, pieceId, read.clipId));
  if (voice || read.clipId === null) return { ...read, criterionId };
  const body = read.body === "" ? "(a voice that is not in this piece)" : read.body;
  return { ...read, criterionId, clipId: null, body };
}

async function criteriaOf(call: Call, pieceId: string): Promise<ReadonlySet<string>> {
  const rubric = await readRubric(call.tx, (await readPiece(call.tx, pieceId)).rubricId);
  return new Set(rubric?.content.criteria.map((c) => c.id));
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Invalid({ text: "This is not JSON. Nothing was changed." });
  }
}
