import { createHash, randomUUID } from "node:crypto";
import http from "node:http";

/** A tus client of the tests' own, from the protocol's text (tus.io, resumable upload protocol 1.0.x, core and creation; from memory), that can be cut anywhere. */
export type Sender = { origin: string; token: string };
const RESUMABLE = "1.0.0";
const base64 = (text: string) => Buffer.from(text).toString("base64");

function ask(
  { origin, token }: Sender,
  method: string,
  path: string,
  headers: Record<string, string>,
  body?: { from: (offset: number) => Buffer; length: number; cutAt?: number },
): Promise<{ status: number; headers: http.IncomingHttpHeaders; body: string }> {
  return new Promise((resolve, reject) => {
    const request = http.request(
      origin + path,
      {
        method,
        headers: {
          origin,
          cookie: `almanac_session=${token}`,
          "tus-resumable": RESUMABLE,
          ...headers,
          ...(body ? { "content-length": String(body.length) } : {}),
        },
      },
      (response) => {
        const parts: Buffer[] = [];
        response.on("data", (part: Buffer) => parts.push(part));
        response.on("end", () =>
          resolve({
            status: response.statusCode!,
            headers: response.headers,
            body: Buffer.concat(parts).toString(),
          }),
        );
        response.on("error", reject);
      },
    );
    request.on("error", reject);
    if (!body) return void request.end();
    let sent = 0;
    const more = () => {
      while (sent < body.length) {
        if (body.cutAt !== undefined && sent >= body.cutAt)
          return void setTimeout(() => request.destroy(new Error("cut")), 30);
        const part = body
          .from(sent)
          .subarray(0, Math.min(65_536, body.length - sent, (body.cutAt ?? Infinity) - sent));
        sent += part.length;
        if (!request.write(part)) return void request.once("drain", more);
      }
      request.end();
    };
    more();
  });
}

export async function begin(
  sender: Sender,
  pieceId: string,
  partId: string,
  name: string,
  size: number,
): Promise<string> {
  const id = randomUUID();
  const metadata = Object.entries({ id, pieceId, partId, name })
    .map(([k, v]) => `${k} ${base64(v)}`)
    .join(",");
  const answer = await ask(sender, "POST", "/api/transfers", {
    "upload-length": String(size),
    "upload-metadata": metadata,
  });
  if (answer.status !== 201) throw new Error(`${answer.status} ${answer.body}`);
  return id;
}

export async function arrived(sender: Sender, id: string): Promise<number> {
  const answer = await ask(sender, "HEAD", `/api/transfers/${id}`, {});
  if (answer.status !== 200) throw new Error(`HEAD answered ${answer.status}`);
  return Number(answer.headers["upload-offset"]);
}

/** How much has arrived when nothing more comes: what was in the pipe when a connection broke is still being written for a while. */
async function settled(sender: Sender, id: string): Promise<number> {
  let [last, same] = [await arrived(sender, id), 0];
  while (same < 4) {
    await new Promise((resolve) => setTimeout(resolve, 150));
    const now = await arrived(sender, id);
    [last, same] = [now, now === last ? same + 1 : 0];
  }
  return last;
}

/** Sends from where the server is; `cutAt` bytes later the connection breaks. @returns whether it went through */
export async function sendOn(
  sender: Sender,
  id: string,
  size: number,
  bytesAt: (offset: number) => Buffer,
  cutAt?: number,
  onSending: () => void = () => {},
): Promise<boolean> {
  const offset = await settled(sender, id);
  onSending();
  const answer = await ask(
    sender,
    "PATCH",
    `/api/transfers/${id}`,
    { "upload-offset": String(offset), "content-type": "application/offset+octet-stream" },
    { from: (sent) => bytesAt(offset + sent), length: size - offset, cutAt },
  ).catch(() => null);
  return answer?.status === 204;
}

export async function put(
  sender: Sender,
  pieceId: string,
  partId: string,
  transferId: string,
): Promise<{ status: number; body: string }> {
  const answer = await fetch(`${sender.origin}/api/pieces/${pieceId}/items`, {
    method: "POST",
    headers: {
      origin: sender.origin,
      cookie: `almanac_session=${sender.token}`,
      "content-type": "application/json",
    },
    body: JSON.stringify({ itemId: transferId, transferId, partId, replaces: null }),
  });
  return { status: answer.status, body: await answer.text() };
}

/** Bytes that follow from a seed, so that a large file need not be held: blocks of a SHA-256 of the block's number. */
export function bytesOf(seed: string, block = 65_536): (offset: number) => Buffer {
  const made = new Map<number, Buffer>();
  return (offset) => {
    const n = Math.floor(offset / block);
    if (!made.has(n)) {
      if (made.size > 4) made.clear();
      const line = createHash("sha256").update(`${seed} ${n}`).digest();
      made.set(n, Buffer.concat(Array.from({ length: block / 32 }, () => line)));
    }
    return made.get(n)!.subarray(offset - n * block);
  };
}

export function digestOf(size: number, bytesAt: (offset: number) => Buffer): string {
  const hash = createHash("sha256");
  for (let at = 0; at < size;) {
    const part = bytesAt(at).subarray(0, size - at);
    hash.update(part);
    at += part.length;
  }
  return hash.digest("hex");
}
