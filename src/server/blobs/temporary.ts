import { createWriteStream } from "node:fs";
import { createReadStream } from "node:fs";
import { createHash } from "node:crypto";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { stat } from "node:fs/promises";
import type { Db, Tx } from "../db/connection";
import { CHUNK, readBlob } from "./blobs";

/** Writes a blob into a file, chunk by chunk, for a program that wants one. */
export async function blobToFile(db: Db, sha256: Buffer, file: string): Promise<void> {
  await pipeline(Readable.from(readBlob(db, sha256)), createWriteStream(file));
}

/** Keeps a file as a blob without holding it in memory: read once for its digest and once for its bytes. */
export async function fileToBlob(
  tx: Tx,
  file: string,
  mediaType: string,
  now: Date,
): Promise<{ sha256: Buffer; size: number }> {
  const hash = createHash("sha256");
  for await (const part of createReadStream(file)) hash.update(part as Buffer);
  const sha256 = hash.digest();
  const { size } = await stat(file);
  const [fresh] = await tx`
    insert into blob (sha256, size, media_type, created_at)
    values (${sha256}, ${size}, ${mediaType}, ${now})
    on conflict (sha256) do nothing
    returning sha256`;
  if (!fresh) return { sha256, size };
  let number = 0;
  // A read stream's own pieces end where they like; a chunk ends where the next begins.
  let rest = Buffer.alloc(0);
  const store = (bytes: Buffer) =>
    tx`insert into blob_chunk (sha256, number, bytes) values (${sha256}, ${number++}, ${bytes})`;
  for await (const part of createReadStream(file, { highWaterMark: CHUNK })) {
    rest = Buffer.concat([rest, part as Buffer]);
    while (rest.length >= CHUNK) {
      await store(rest.subarray(0, CHUNK));
      rest = rest.subarray(CHUNK);
    }
  }
  if (rest.length > 0) await store(rest);
  return { sha256, size };
}
