import { unzipSync, strFromU8 } from "fflate";
import { readQtiItem } from "@/core/formats/qti/readQti";
import type { Question } from "@/core/questions/question";

const MOST_FILES = 400;
const MOST_XML = 500_000;
const MOST_ALL = 20_000_000;

/** What a file of questions holds: those that can be read, and why the others cannot. */
export type ReadQti = {
  questions: Question[];
  problems: { where: string; words: string }[];
};

/**
 * Reads a QTI package, or a single item. What cannot be read is named with its file and why; the rest is
 * there. A file that cannot be opened at all is a fault as a whole.
 */
export function readQtiFile(
  file: string,
  bytes: Buffer,
  newId: () => string,
): ReadQti | { fault: string } {
  const texts = readTexts(file, bytes);
  if ("fault" in texts) return texts;
  const questions: Question[] = [];
  const problems: ReadQti["problems"] = [];
  for (const { name, xml } of texts.found) {
    const read = readQtiItem(xml, newId);
    if (read.ok) questions.push(read.question);
    else problems.push({ where: name, words: read.why });
  }
  return { questions, problems };
}

type Texts = { found: { name: string; xml: string }[] } | { fault: string };

function readTexts(name: string, bytes: Buffer): Texts {
  if (bytes.subarray(0, 2).toString("latin1") === "PK") return xmlFiles(bytes);
  return bytes.length > MOST_XML
    ? { fault: "This is larger than any question. Nothing was changed." }
    : { found: [{ name, xml: bytes.toString("utf8") }] };
}

function xmlFiles(bytes: Buffer): Texts {
  let [count, total] = [0, 0];
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) =>
        /\.xml$/i.test(name) &&
        !/(^|\/)imsmanifest\.xml$/i.test(name) &&
        originalSize <= MOST_XML &&
        (total += originalSize) <= MOST_ALL &&
        (count += 1) <= MOST_FILES,
    });
    const found = Object.entries(files).map(([name, data]) => ({ name, xml: strFromU8(data) }));
    return found.length > 0
      ? { found }
      : { fault: "There are no items in this package. Nothing was changed." };
  } catch {
    return {
      fault: "This package cannot be opened: it is damaged or cut off. Nothing was changed.",
    };
  }
}
