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

/** A blob as the body of an answer: read on as the other side takes it. */
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
 * The bytes from `first` to `last` (both included, counted from 0) of a file, chunk by chunk: only the
 * chunks that hold them are read.
 */
export async function* readBlob(
  db: Db,
  sha256: Buffer,
  first = 0,
  last = Number.MAX_SAFE_INTEGER,
): AsyncGenerator<Buffer> {
  const rows = db<{ number: number; bytes: Buffer }[]>`
    select number, bytes
    from blob_chunk
    where sha256 = ${sha256} and number between ${Math.floor(first / CHUNK)} and ${Math.min(Math.floor(last / CHUNK), 2_147_483_647)}
    order by number`;
  for await (const [row] of rows.cursor(1)) {
    const start = row!.number * CHUNK;
    yield row!.bytes.subarray(Math.max(0, first - start), Math.max(0, last - start + 1));
  }
}
