import { createHash } from "node:crypto";
import { ValidationError, type AnyObject } from "yup";
import { faultsOfError } from "@/core/api/faults";
import { parametersOf, type Endpoint } from "@/core/api/endpoint";
import { isId } from "@/core/ids";
import { Invalid, NotFound } from "@/core/refusals";
import { cleanInput, cleanText } from "@/core/text/cleanInput";
import { HttpProblem } from "../problem";

/** What comes with a request, read in one place: whole, of bounded size, as text that can be kept. */

/** No JSON needs more; a document has at most 200,000 characters. Files are measured by their own routes. */
const MOST_BYTES = 6_000_000;

export function readParams(
  entry: Endpoint,
  params: Record<string, string>,
): Record<string, string> {
  for (const name of parametersOf(entry.path)) {
    if (!isId(params[name])) throw new NotFound();
  }
  return params;
}

export const NO_FILE = { name: "", bytes: Buffer.alloc(0) };

/** A file as it is sent: whole, or refused. */
export async function readFile(
  most: number,
  request: Request,
): Promise<{ name: string; bytes: Buffer }> {
  const megabytes = (bytes: number) => `${Math.round(bytes / 100_000) / 10} MB`;
  const tooLarge = (bytes: number) =>
    new HttpProblem(
      413,
      `This file is too large: ${megabytes(bytes)}, and ${megabytes(most)} is the most.`,
      "Nothing was changed.",
    );
  const bytes = await readBytes(request, most, tooLarge);
  let name = request.headers.get("x-file-name") ?? "";
  try {
    name = decodeURIComponent(name);
  } catch {
    // A name that is not encoded is taken as it stands.
  }
  return { name: cleanText(name).slice(0, 200) || "file", bytes };
}

export function readQuery(entry: Endpoint, request: Request): Record<string, string> {
  const given = new URL(request.url).searchParams;
  return Object.fromEntries(
    Object.keys(entry.query ?? {}).flatMap((name) =>
      given.has(name) ? [[name, cleanText(given.get(name)!).slice(0, 500)]] : [],
    ),
  );
}

/** Every byte of a body, counted against what was declared: what was cut on the way is never taken for the whole. */
async function readBytes(
  request: Request,
  most: number,
  tooLarge: (bytes: number) => HttpProblem,
): Promise<Buffer> {
  const header = request.headers.get("content-length");
  const declared = header === null ? null : Number(header);
  if (declared !== null && declared > most) throw tooLarge(declared);
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > most) throw tooLarge(size);
    parts.push(Buffer.from(part));
  }
  const bytes = Buffer.concat(parts);
  if ((declared !== null && declared !== size) || !digestAgrees(request, bytes))
    throw new HttpProblem(
      400,
      "This did not arrive whole.",
      "Nothing was changed. Send it again; what you have is kept on this device.",
    );
  return bytes;
}

/** Content-Digest with sha-256 (RFC 9530, section 2), where the sender gives one. */
function digestAgrees(request: Request, bytes: Buffer): boolean {
  const given = /sha-256=:([A-Za-z0-9+/=]{44}):/.exec(request.headers.get("content-digest") ?? "");
  return !given || createHash("sha256").update(bytes).digest("base64") === given[1];
}

export async function readBody(entry: Endpoint, request: Request): Promise<AnyObject> {
  const bytes = await readBytes(
    request,
    MOST_BYTES,
    () =>
      new HttpProblem(
        413,
        "This is too large to be saved.",
        "A piece of writing can have 200,000 characters. What was saved before is safe.",
      ),
  );
  const json = cleanInput(readJson(bytes.toString("utf8")));
  if (!json) throw new HttpProblem(400, "The request is nested deeper than anything that is sent.");
  try {
    const read = await entry.body!.validate(json.value, { strict: true, abortEarly: false });
    return read as AnyObject;
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    throw new Invalid(faultsOfError(error));
  }
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new HttpProblem(400, "The request is not JSON.");
  }
}

export function readRevision(request: Request): number {
  const match = /^"?(\d{1,15})"?$/.exec(request.headers.get("if-match") ?? "");
  if (!match)
    throw new HttpProblem(428, "The request does not say which state it was made on (If-Match).");
  return Number(match[1]);
}

export function keyOf(request: Request): string {
  const key = request.headers.get("idempotency-key") ?? "";
  if (key.length < 8 || key.length > 200)
    throw new HttpProblem(400, "The request needs an Idempotency-Key of 8 to 200 characters.");
  return key;
}

export function hashOf(
  request: Request,
  given: { body: unknown; file: { bytes: Buffer } },
): Buffer {
  return createHash("sha256")
    .update(`${request.method} ${new URL(request.url).pathname}\n${JSON.stringify(given.body)}`)
    .update(given.file.bytes)
    .digest();
}
