import { zipSync, strToU8 } from "fflate";
import { fromBuffer, type Entry, type ZipFile } from "yauzl";
import { decodeText } from "@/core/formats/table";

/** What a roster package may be; far above a school of 5,000, far below what could hurt. */
export const PACKAGE_LIMITS = {
  packed: 30_000_000,
  entries: 200,
  one: 100_000_000,
  all: 200_000_000,
  ratio: 200,
} as const;

export type Unpacked = { texts: Map<string, string>; encodings: Set<string> } | { fault: string };

/** Whether these bytes are a zip at all (its first entry's signature; RFC-less, PKWARE APPNOTE 4.3.7). */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

/**
 * The CSV files of a zip as text. Nothing is written to disk. Refused as a whole: a path that leads
 * outside, a ratio or size that no roster has, a file whose real size is not the one it declares.
 */
export async function unpack(bytes: Buffer): Promise<Unpacked> {
  let zip: ZipFile;
  try {
    zip = await new Promise<ZipFile>((resolve, reject) =>
      fromBuffer(
        bytes,
        { lazyEntries: true, validateEntrySizes: true, strictFileNames: false },
        (error, file) => (error ? reject(error) : resolve(file)),
      ),
    );
  } catch {
    return { fault: "This is not a zip file that can be read. Was it sent whole?" };
  }
  const texts = new Map<string, string>();
  const encodings = new Set<string>();
  let [count, total] = [0, 0];
  try {
    for await (const entry of entriesOf(zip)) {
      count += 1;
      total += entry.uncompressedSize;
      if (count > PACKAGE_LIMITS.entries)
        return {
          fault: `The zip holds more than ${PACKAGE_LIMITS.entries} files; a roster has about ten.`,
        };
      if (entry.uncompressedSize > PACKAGE_LIMITS.one || total > PACKAGE_LIMITS.all)
        return {
          fault: `Unpacked, the zip would be larger than ${PACKAGE_LIMITS.all / 1_000_000} MB. It was not unpacked.`,
        };
      if (
        entry.uncompressedSize > 1_000_000 &&
        entry.uncompressedSize > PACKAGE_LIMITS.ratio * Math.max(1, entry.compressedSize)
      )
        return {
          fault: `${entry.fileName.slice(0, 80)} would grow more than ${PACKAGE_LIMITS.ratio} times when unpacked, which no roster does. It was not unpacked.`,
        };
      if (!/^[\w.-]+\.csv$/i.test(entry.fileName)) continue;
      const text = decodeText(await contentOf(zip, entry));
      if ("fault" in text) return { fault: `${entry.fileName}: ${text.fault}` };
      texts.set(entry.fileName, text.text);
      encodings.add(text.encoding);
    }
  } catch (error) {
    const words = (error as Error).message;
    if (/relative path|absolute path|invalid characters/i.test(words))
      return {
        fault: "A file in the zip has a path that leads outside of it. Nothing was unpacked.",
      };
    return { fault: `The zip is damaged (${words.slice(0, 120)}). Nothing was changed.` };
  } finally {
    zip.close();
  }
  return { texts, encodings };
}

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const done = () => (
        zip.removeAllListeners("entry"),
        zip.removeAllListeners("end"),
        zip.removeAllListeners("error")
      );
      zip.once("entry", (found: Entry) => (done(), resolve(found)));
      zip.once("end", () => (done(), resolve(null)));
      zip.once("error", (error) => (done(), reject(error as Error)));
      zip.readEntry();
    });
    if (!entry) return;
    yield entry;
  }
}

async function contentOf(zip: ZipFile, entry: Entry): Promise<Buffer> {
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    zip.openReadStream(entry, (error, found) => (error ? reject(error) : resolve(found))),
  );
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

export function pack(files: ReadonlyMap<string, string>): Buffer {
  return Buffer.from(
    zipSync(Object.fromEntries([...files].map(([name, text]) => [name, strToU8(text)])), {
      level: 6,
    }),
  );
}
