import { open, stat, readFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import yauzl from "yauzl";
import { partRule, type Part } from "@/core/handouts/parts";
import {
  cleanFileName,
  recognise,
  refusesFile,
  withEnding,
  type ItemKind,
  type Limits,
} from "@/core/items/kinds";
import { Refused } from "@/core/refusals";
import type { RichDoc } from "@/core/text/richDoc";
import { ProgramMissing } from "../programs/jail";
import { inThread } from "../threads/threads";
import { lookAtMedia, lookAtPdf, readDocxHtml, readHeic, type Media } from "../programs/tools";
import type { RenditionKind } from "./renditions";

/** What a file turned out to be. `bytes`: it is kept in this form, made anew; otherwise as it came. */
export type Inspected = {
  kind: ItemKind;
  name: string;
  mediaType: string;
  about: Record<string, number>;
  doc: RichDoc | null;
  bytes: Buffer | null;
  needs: RenditionKind[];
  ending: string;
};

const MOST_PIXELS = 80_000_000;

/**
 * Looks into a file a student sent, by its content and never by its name, and refuses what is broken or could do
 * harm, in words for the student.
 *
 * @param folder where it lies as `name`; other files may be made beside it
 * @throws Refused
 */
export async function inspect(
  folder: string,
  name: string,
  given: string,
  part: Part,
  limits: Limits,
): Promise<Inspected> {
  const file = path.join(folder, name);
  if ((await stat(file)).size === 0)
    throw new Refused(
      "This file is empty (0 bytes). Look whether it was saved, and choose it again.",
    );
  const sniffed = await sniff(file);
  const text = sniffed === null || /xml|rtf|^text\//.test(sniffed) ? await readText(file) : null;
  const found = recognise(sniffed, text);
  if ("refused" in found) throw new Refused(found.refused);
  const clean = cleanFileName(given);
  const media =
    found.kind === "sound" || found.kind === "film"
      ? await lookAtMedia(folder, name).catch(unlessMissing)
      : undefined;
  // A container for film can hold sound alone.
  const kind: ItemKind = found.kind === "film" && media && !media.film ? "sound" : found.kind;
  const refused = refusesFile(part, { kind, type: kind === "sound" ? "sound" : found.type }, clean);
  if (refused) throw new Refused(refused);
  const plain: Inspected = {
    kind,
    name: clean,
    mediaType: sniffed ?? (text === null ? "application/octet-stream" : "text/plain"),
    about: {},
    doc: null,
    bytes: null,
    needs: [],
    ending: "",
  };
  switch (kind) {
    case "picture":
      return inspectPicture(file, folder, name, plain, part.kind === "photos");
    case "pdf":
      return { ...plain, about: await pagesOfPdf(folder, name) };
    case "document":
      return inspectDocument(file, folder, name, plain);
    case "text":
      return {
        ...plain,
        mediaType: "text/plain",
        doc: (await inThread("textToDoc", [text!], READING_SECONDS)).doc,
      };
    case "sound":
    case "film":
      return inspectMedia(media, plain, part, limits);
    default:
      // A ZIP that calls itself a document and is none: its end is missing.
      if (sniffed === "application/zip" && /\.(docx|pptx|xlsx|odt|odp|ods)$/i.test(clean))
        await checkPackage(file);
      return plain;
  }
}

function unlessMissing(error: unknown): undefined {
  if (error instanceof ProgramMissing) return undefined;
  throw error;
}

async function sniff(file: string): Promise<string | null> {
  const { fileTypeFromFile } = await import("file-type/node");
  const mime = (await fileTypeFromFile(file).catch(() => undefined))?.mime ?? null;
  const head = await firstBytes(file, 8);
  // Programs of three systems and scripts that name their interpreter, told by hand where the package has no name for them.
  if (/^MZ/.test(head.toString("latin1"))) return "application/x-msdownload";
  if (head.subarray(0, 4).equals(Buffer.from([0x7f, 0x45, 0x4c, 0x46]))) return "application/x-elf";
  return mime;
}

async function firstBytes(file: string, count: number): Promise<Buffer> {
  const handle = await open(file);
  try {
    const { bytesRead, buffer } = await handle.read(Buffer.alloc(count), 0, count, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** The file as text, if it is text: UTF-8, or UTF-16 that says so; without control signs. */
async function readText(file: string): Promise<string | null> {
  if ((await stat(file)).size > 5_000_000) return null;
  const bytes = await readFile(file);
  const encoding = encodingOf(bytes);
  try {
    const text = new TextDecoder(encoding, { fatal: true }).decode(bytes);
    return /[\u0000-\u0008\u000e-\u001a\u001c-\u001f]/.test(text) ? null : text;
  } catch {
    return null;
  }
}

/** A picture is made anew: upright, without its place, camera and whatever else it carried. */
async function inspectPicture(
  file: string,
  folder: string,
  name: string,
  plain: Inspected,
  photo: boolean,
): Promise<Inspected> {
  let source: string | Buffer = file;
  if (/hei[cf]/.test(plain.mediaType)) {
    const jpeg = await readHeic(folder, name).catch(unlessMissing);
    if (jpeg === undefined)
      throw new Refused(
        "HEIC photos cannot be read on this server. Let the phone save it as JPEG, and send that.",
      );
    if (!jpeg)
      throw new Refused(
        "This photo cannot be opened: it is damaged or cut off. Take or save it again.",
      );
    source = jpeg;
  }
  const size = await sharp(source, { limitInputPixels: false })
    .metadata()
    .catch(() => null);
  if (!size)
    throw new Refused(
      "This picture cannot be opened: it is damaged or cut off. Save it again, and send that.",
    );
  const pixels = (size.width ?? 0) * (size.height ?? 0) * (size.pages ?? 1);
  if (pixels > MOST_PIXELS)
    throw new Refused(
      `This picture is too large to be opened: ${size.width!.toLocaleString("en")} × ${size.height!.toLocaleString("en")} points. Make it smaller, and send that.`,
    );
  const keepPng =
    !photo && (size.format === "png" || size.format === "gif" || size.format === "webp");
  const upright = sharp(source, { limitInputPixels: MOST_PIXELS, failOn: "error" })
    .rotate()
    .resize(photo ? 2400 : 4000, photo ? 2400 : 4000, { fit: "inside", withoutEnlargement: true });
  const made = await (
    keepPng ? upright.png() : upright.flatten({ background: "#ffffff" }).jpeg({ quality: 88 })
  )
    .toBuffer({ resolveWithObject: true })
    .catch(() => null);
  if (!made)
    throw new Refused(
      "This picture cannot be opened: it is damaged or cut off. Save it again, and send that.",
    );
  return {
    ...plain,
    kind: photo ? "photo" : "picture",
    name: withEnding(plain.name, keepPng ? ".png" : ".jpg"),
    mediaType: keepPng ? "image/png" : "image/jpeg",
    about: { width: made.info.width, height: made.info.height },
    bytes: made.data,
  };
}

async function pagesOfPdf(folder: string, name: string): Promise<Record<string, number>> {
  const looked = await lookAtPdf(folder, name).catch(unlessMissing);
  if (!looked) return {};
  if ("pages" in looked) return { pages: looked.pages };
  throw new Refused(
    looked.fault === "password"
      ? "This PDF is locked with a password, so nobody else could open it. Save it without a password, and send that."
      : "This PDF cannot be opened: it is damaged or cut off. Save it again, and send that.",
  );
}

const READING_SECONDS = 10;

/** A document that would take longer to be read is shown by its pages alone. */
const readHtml = (html: string): Promise<RichDoc | null> =>
  inThread("htmlToDoc", [html], READING_SECONDS).then(
    ({ doc }) => doc,
    () => null,
  );

async function inspectDocument(
  file: string,
  folder: string,
  name: string,
  plain: Inspected,
): Promise<Inspected> {
  if (/rtf/.test(plain.mediaType)) return { ...plain, needs: ["pages"], ending: ".rtf" };
  await checkPackage(file);
  const docx = /wordprocessingml/.test(plain.mediaType);
  const html = docx ? await readDocxHtml(folder, name).catch(unlessMissing) : null;
  const ending =
    /\.(docx|pptx|xlsx|odt|odp|ods)$/i.exec(plain.name)?.[0].toLowerCase() ?? (docx ? ".docx" : "");
  return { ...plain, doc: html ? await readHtml(html) : null, needs: ["pages"], ending };
}

/** Caps for what an office file (a ZIP) unpacks to; far above any school work, far below what hurts. */
const CAPS = { entries: 2000, entry: 50_000_000, total: 200_000_000, text: 10_000_000 };

/**
 * Whether an office file is what it should be: a whole ZIP of sane size, unpacked and counted here and not as it
 * declares, and no XML in it that brings entities of its own.
 */
export function checkPackage(file: string): Promise<void> {
  const bomb = new Refused(
    "This document unpacks to far more than a document holds, so it is not opened. Save it again from your word processor, and send that.",
  );
  const broken = new Refused(
    "This document cannot be opened: it is damaged or cut off. Save it again, and send that.",
  );
  const entities = new Refused(
    "This document refers to things outside itself (XML entities), which is not allowed. Save it again from your word processor, and send that.",
  );
  return new Promise((resolve, reject) => {
    yauzl.open(file, { lazyEntries: true, validateEntrySizes: true }, (error, zip) => {
      if (error || !zip) return reject(broken);
      let total = 0;
      const stop = (why: Error) => {
        zip.close();
        reject(why);
      };
      if (zip.entryCount > CAPS.entries) return stop(bomb);
      zip.on("error", () => stop(broken));
      zip.on("end", () => resolve());
      zip.on("entry", (entry: yauzl.Entry) => {
        if (/\/$/.test(entry.fileName)) return zip.readEntry();
        const isXml = /\.(xml|rels)$/i.test(entry.fileName);
        if (
          entry.uncompressedSize >
          (isXml && /document\.xml$|content\.xml$/.test(entry.fileName) ? CAPS.text : CAPS.entry)
        )
          return stop(bomb);
        zip.openReadStream(entry, (fault, stream) => {
          if (fault || !stream) return stop(broken);
          let size = 0;
          let forbidden = false;
          let tail = "";
          stream.on("data", (part: Buffer) => {
            size += part.length;
            total += part.length;
            if (isXml && !forbidden) {
              // The whole file is looked at; a word cut between two parts is found in the next.
              tail = (tail + part.toString("latin1").replaceAll("\u0000", "")).slice(
                -(part.length + 16),
              );
              forbidden = /<!DOCTYPE|<!ENTITY/i.test(tail);
            }
            if (size > CAPS.entry || total > CAPS.total) {
              stream.destroy();
              stop(bomb);
            }
          });
          stream.on("error", () => stop(broken));
          stream.on("end", () => (forbidden ? stop(entities) : zip.readEntry()));
        });
      });
      zip.readEntry();
    });
  });
}

function inspectMedia(
  media: Media | null | undefined,
  plain: Inspected,
  part: Part,
  limits: Limits,
): Inspected {
  if (media === null)
    throw new Refused(
      "This recording cannot be played: it is damaged, or its end is missing. Record or save it again, and send that.",
    );
  const needs: RenditionKind[] = plain.kind === "film" ? ["playable", "still"] : ["playable"];
  // Not looked into, since the program for it is missing: kept all the same.
  if (!media) return { ...plain, needs };
  const most =
    (partRule(part.kind).sets === "minutes" ? part.minutes : null) ?? limits.recordingMinutes;
  // What a recorder stops by itself may run over by a moment.
  if (media.seconds !== null && media.seconds > most * 60 + 5)
    throw new Refused(
      `This recording is ${Math.ceil(media.seconds / 60)} minutes long; ${most} ${most === 1 ? "minute is" : "minutes are"} the most.`,
    );
  const about = {
    ...(media.seconds === null ? {} : { seconds: media.seconds }),
    ...(media.width && media.height ? { width: media.width, height: media.height } : {}),
  };
  const mediaType =
    plain.kind === "sound" ? plain.mediaType.replace(/^video\//, "audio/") : plain.mediaType;
  return { ...plain, mediaType, about, needs };
}

/** By the byte order mark a text begins with. */
function encodingOf(bytes: Uint8Array): "utf-16le" | "utf-16be" | "utf-8" {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return "utf-16le";
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return "utf-16be";
  return "utf-8";
}
