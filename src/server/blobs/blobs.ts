import { createHash } from "node:crypto";
import type { Db, Tx } from "../db/connection";

/** Small enough that a range wastes little, large enough that a file is few rows. */
export const CHUNK = 262_144;

/** Keeps a file under its SHA-256; the same bytes are stored once. @returns the digest */
export async function storeBlob(
  tx: Tx,
  bytes: Buffer,
  mediaType: string,
  now: Date,
): Promise<Buffer> {
  const sha256 = createHash("sha256").update(bytes).digest();
  const [fresh] = await tx`
    insert into blob (sha256, size, media_type, created_at)
    values (${sha256}, ${bytes.length}, ${mediaType}, ${now})
    on conflict (sha256) do nothing
    returning sha256`;
  for (let number = 0; fresh && number * CHUNK < bytes.length; number += 1) {
    await tx`
      insert into blob_chunk (sha256, number, bytes)
      values (${sha256}, ${number}, ${bytes.subarray(number * CHUNK, (number + 1) * CHUNK)})`;
  }
  return sha256;
}

/**
 * A blob as the body of an answer: read on as the other side takes it. Between two pieces nothing of the
 * database is held, so that a reader may take as long as it likes, or never come back.
 */
export function streamOf(chunks: AsyncGenerator<Buffer>): ReadableStream<Uint8Array> {
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await chunks.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await chunks.return(undefined);
    },
  });
}

/**
 * The bytes from `first` to `last` (both included, counted from 0) of a file, chunk by chunk, each in a short
 * query of its own: only the chunks that hold them are read, and no connection is kept between them.
 *
 * @throws Error where a chunk that should be there is missing, rather than giving a shortened file
 */
export async function* readBlob(
  db: Db,
  sha256: Buffer,
  first = 0,
  last = Number.MAX_SAFE_INTEGER,
): AsyncGenerator<Buffer> {
  const [blob] = await db<{ size: number }[]>`select size from blob where sha256 = ${sha256}`;
  const end = Math.min(last, Number(blob?.size ?? 0) - 1);
  for (let number = Math.floor(first / CHUNK); number * CHUNK <= end; number += 1) {
    const [row] = await db<
      { bytes: Buffer }[]
    >`select bytes from blob_chunk where sha256 = ${sha256} and number = ${number}`;
    if (!row) throw new Error(`chunk ${number} of a stored file is missing`);
    const start = number * CHUNK;
    yield row.bytes.subarray(Math.max(0, first - start), Math.max(0, end - start + 1));
  }
}
