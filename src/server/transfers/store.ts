import { DataStore, ERRORS, Upload } from "@tus/utils";
import type { Readable } from "node:stream";
import { CHUNK } from "../blobs/blobs";
import type { Sql } from "../db/connection";

/** So many chunks go to the database at a time: few enough to hold, enough to be quick. */
const BATCH = 4;

/**
 * The store of the tus protocol in PostgreSQL. What has arrived is always just what `arrived` says: bytes and count
 * are written in one transaction, also those before a cut at any byte. Two requests that write to one upload
 * cannot both count: each batch goes in only where the last one ended.
 */
export class TransferStore extends DataStore {
  override extensions = ["creation", "termination"];

  constructor(
    private readonly sql: Sql,
    private readonly now: () => Date,
  ) {
    super();
  }

  /** The row was made by `beginTransfer`, which knows whose it is. */
  override create(upload: Upload): Promise<Upload> {
    return Promise.resolve(upload);
  }

  override async getUpload(id: string): Promise<Upload> {
    const [row] = await this.sql<
      { size: number; arrived: number }[]
    >`select size, arrived from transfer where id = ${id} and item_id is null`;
    if (!row) throw ERRORS.FILE_NOT_FOUND;
    return new Upload({ id, size: Number(row.size), offset: Number(row.arrived), metadata: {} });
  }

  override async remove(id: string): Promise<void> {
    await this.sql`delete from transfer where id = ${id} and item_id is null`;
  }

  override async write(stream: Readable, id: string, offset: number): Promise<number> {
    let arrived = offset;
    const tail = offset % CHUNK;
    // The last chunk may have been cut in the middle: it is taken up again and written anew.
    let held: Buffer[] = tail > 0 ? [await this.tailOf(id, Math.floor(offset / CHUNK), tail)] : [];
    let size = tail;
    const flush = async (all: boolean) => {
      const bytes = Buffer.concat(held);
      const whole = all ? bytes.length : bytes.length - (bytes.length % CHUNK);
      const first = Math.floor(arrived / CHUNK);
      const next = first * CHUNK + whole;
      if (whole === 0 || next === arrived) return;
      await this.keep(id, bytes.subarray(0, whole), { first, from: arrived, to: next });
      arrived = next;
      held = whole < bytes.length ? [bytes.subarray(whole)] : [];
      size = bytes.length - whole;
    };
    try {
      for await (const part of stream) {
        held.push(part as Buffer);
        size += (part as Buffer).length;
        if (size >= BATCH * CHUNK) await flush(false);
      }
    } finally {
      // Also what came before the connection was cut is kept.
      await flush(true);
    }
    return arrived;
  }

  private async tailOf(id: string, number: number, length: number): Promise<Buffer> {
    const [row] = await this.sql<
      { bytes: Buffer }[]
    >`select bytes from transfer_chunk where transfer_id = ${id} and number = ${number}`;
    if (!row || row.bytes.length < length) throw ERRORS.FILE_NOT_FOUND;
    return row.bytes.subarray(0, length);
  }

  private async keep(
    id: string,
    bytes: Buffer,
    { first, from, to }: { first: number; from: number; to: number },
  ): Promise<void> {
    await this.sql.begin(async (tx) => {
      const [row] = await tx`
        update transfer
        set arrived = ${to}, changed_at = ${this.now()}
        where id = ${id} and arrived = ${from} and item_id is null
        returning id`;
      if (!row) throw ERRORS.INVALID_OFFSET;
      for (let n = 0; n * CHUNK < bytes.length; n += 1) {
        await tx`
          insert into transfer_chunk (transfer_id, number, bytes)
          values (${id}, ${first + n}, ${bytes.subarray(n * CHUNK, (n + 1) * CHUNK)})
          on conflict (transfer_id, number) do update set bytes = excluded.bytes`;
      }
    });
  }
}
