import { Zip, ZipPassThrough } from "fflate";

/** One file of a zip: its bytes come as they are asked for. */
export type Entry = {
  name: string;
  at: Date;
  bytes: AsyncIterable<Uint8Array>;
  /** Told its CRC-32 once it has gone by. */ onEnd?: (crc: number) => void;
};

/**
 * A zip as it is read: nothing is made before it is asked for, and of no file more than a chunk is held. Files are
 * stored as they are (what students send is packed already), under UTF-8 names (APPNOTE 6.3.0, general purpose bit 11).
 */
export async function* zipOf(entries: AsyncIterable<Entry>): AsyncGenerator<Uint8Array> {
  const made: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    if (chunk.length > 0) made.push(chunk);
  });
  for await (const { name, at, bytes, onEnd } of entries) {
    const entry = new ZipPassThrough(name);
    entry.mtime = at;
    zip.add(entry);
    for await (const chunk of bytes) {
      entry.push(chunk);
      yield* made.splice(0);
    }
    entry.push(new Uint8Array(0), true);
    onEnd?.(entry.crc);
    yield* made.splice(0);
  }
  zip.end();
  yield* made.splice(0);
}
