import { zipSync, strToU8 } from "fflate";
import { writeManifest, writeQtiItem } from "@/core/formats/qti/writeQti";
import type { Question } from "@/core/questions/question";
import { NotFound, Refused } from "@/core/refusals";
import { requireKind } from "../access/standing";
import type { ReadCall } from "../call";
import { readInThread } from "../threads/threads";
import type { ReadQti } from "../reading/qtiFile";

/** A set as a QTI 3.0 content package (a ZIP with its manifest), to be taken elsewhere. */
export async function giveQti({ db, who }: ReadCall, setId: string): Promise<Response> {
  requireKind(who, "teacher");
  const [set] = await db<
    { name: string; questions: Question[] }[]
  >`select name, questions from question_set where id = ${setId} and owner_id = ${who.id}`;
  if (!set) throw new NotFound();
  const items = set.questions.map(writeQtiItem);
  const zip = zipSync({
    "imsmanifest.xml": strToU8(writeManifest(set.name, items)),
    ...Object.fromEntries(items.map((item) => [item.name, strToU8(item.xml)])),
  });
  return new Response(Buffer.from(zip), {
    headers: {
      "content-type": "application/zip",
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(`${set.name}.zip`)}`,
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
    },
  });
}

/** Reads a QTI package, or a single item, into questions to be looked at and kept. */
export async function readQti(
  call: ReadCall,
  { name, bytes }: { name: string; bytes: Buffer },
): Promise<ReadQti> {
  requireKind(call.who, "teacher");
  const read = await readInThread(call.who, "readQti", [name, bytes]);
  if ("fault" in read) throw new Refused(read.fault);
  return read;
}
