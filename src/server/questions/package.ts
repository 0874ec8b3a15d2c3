import { unzipSync, zipSync, strFromU8, strToU8 } from "fflate";
import { readQtiItem } from "@/core/formats/qti/readQti";
import { writeManifest, writeQtiItem } from "@/core/formats/qti/writeQti";
import type { Question } from "@/core/questions/question";
import { NotFound, Refused } from "@/core/refusals";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";

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

const MOST_FILES = 400;
const MOST_XML = 500_000;

/**
 * Reads a QTI package, or a single item, into questions to be looked at and kept. What cannot be read is named
 * with its file and why; the rest is there.
 */
export function readQti(
  call: Call,
  file: { name: string; bytes: Buffer },
): { questions: Question[]; problems: { where: string; words: string }[] } {
  requireKind(call.who, "teacher");
  const texts =
    file.bytes.subarray(0, 2).toString("latin1") === "PK"
      ? xmlFiles(file.bytes)
      : [{ name: file.name, xml: file.bytes.toString("utf8") }];
  const questions: Question[] = [];
  const problems: { where: string; words: string }[] = [];
  for (const { name, xml } of texts) {
    const read = readQtiItem(xml, call.newId);
    if (read.ok) questions.push(read.question);
    else problems.push({ where: name, words: read.why });
  }
  return { questions, problems };
}

function xmlFiles(bytes: Buffer): { name: string; xml: string }[] {
  let count = 0;
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) =>
        /\.xml$/i.test(name) &&
        !/(^|\/)imsmanifest\.xml$/i.test(name) &&
        originalSize <= MOST_XML &&
        (count += 1) <= MOST_FILES,
    });
    const found = Object.entries(files).map(([name, data]) => ({ name, xml: strFromU8(data) }));
    if (found.length === 0)
      throw new Refused("There are no items in this package. Nothing was changed.");
    return found;
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused(
      "This package cannot be opened: it is damaged or cut off. Nothing was changed.",
    );
  }
}
