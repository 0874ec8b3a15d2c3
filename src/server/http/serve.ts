import { createHash, randomUUID } from "node:crypto";
import { ValidationError, type AnyObject } from "yup";
import { uuidv7 } from "uuidv7";
import { parametersOf, type AnswerOf, type BodyOf, type Endpoint } from "@/core/api/endpoint";
import { Invalid, NotFound } from "@/core/refusals";
import { readToken, whoIs } from "../auth/sessions";
import type { Call, ReadCall } from "../call";
import { database } from "../db/connection";
import { log } from "../log";
import { now, settings } from "../settings";
import { HttpProblem, problemResponse, toProblem } from "./problem";
import { once } from "./once";

/** No request of part one needs more; a document has at most 200,000 characters. */
const MOST_BYTES = 2_000_000;

type Given<E> = { params: Record<string, string>; body: BodyOf<E>; revision: number; request: Request };
type Work<E, C> = (call: C, given: Given<E>) => Promise<AnswerOf<E>>;

/**
 * A route that changes something: the one way in. Size, origin, sign-in, validation and idempotency
 * are seen to here, in that order; then the use-case runs in one transaction, which also holds its
 * idempotency record.
 */
export function change<E extends Endpoint<AnyObject, unknown>>(entry: E, work: Work<E, Call>) {
  return handler(entry, async (request, given, token) => {
    checkOrigin(request);
    const moment = now();
    return database().begin(async (tx) => {
      const who = await whoIs(tx, token, moment);
      if (!who) throw new HttpProblem(401, "Sign in first.", "Your session has ended. What you wrote is kept on this device.");
      const call: Call = { tx, db: tx, who, now: moment, newId: uuidv7 };
      const run = () => work(call, given as Given<E>);
      return entry.once ? once(tx, who, keyOf(request), hashOf(request, given), moment, run) : run();
    });
  });
}

/** A route that only reads, for a signed-in person. */
export function read<E extends Endpoint<AnyObject, unknown>>(entry: E, work: Work<E, ReadCall>) {
  return handler(entry, async (_request, given, token) => {
    const moment = now();
    const who = await whoIs(database(), token, moment);
    if (!who) throw new HttpProblem(401, "Sign in first.");
    return work({ db: database(), who, now: moment }, given as Given<E>);
  });
}

/** A route for anyone: what it may answer besides JSON is a Response of its own (to set a cookie, say). */
export function open<E extends Endpoint<AnyObject, unknown>>(entry: E, work: (given: Given<E> & { now: Date }) => Promise<AnswerOf<E> | Response>) {
  return handler(entry, async (request, given) => {
    if (entry.method !== "GET") checkOrigin(request);
    return work({ ...(given as Given<E>), now: now() });
  });
}

function handler(entry: Endpoint, answer: (request: Request, given: Given<Endpoint>, token: string | null) => Promise<unknown>) {
  return async (request: Request, context: { params: Promise<Record<string, string>> }): Promise<Response> => {
    const requestId = request.headers.get("x-request-id") ?? randomUUID();
    const started = performance.now();
    let response: Response;
    try {
      const params = readParams(entry, await context.params);
      const token = readToken(request.headers.get("cookie"));
      // Who someone is comes before what they sent: a stranger learns nothing from a validation error.
      if (entry.for === "signed-in" && !token) throw new HttpProblem(401, "Sign in first.");
      const body = entry.body ? await readBody(entry, request) : {};
      const revision = entry.ifMatch ? readRevision(request) : 0;
      const result = await answer(request, { params, body, revision, request }, token);
      response = result instanceof Response ? result : Response.json(result, { headers: { "cache-control": "no-store", ...etagOf(result) } });
    } catch (error) {
      response = problemResponse(toProblem(error, requestId));
    }
    response.headers.set("x-request-id", requestId);
    log.info({ requestId, method: entry.method, route: entry.path, status: response.status, ms: Math.round(performance.now() - started) }, "request");
    return response;
  };
}

function etagOf(result: unknown): Record<string, string> {
  const { revision } = (result ?? {}) as { revision?: unknown };
  return typeof revision === "number" ? { etag: `"${revision}"` } : {};
}

function readParams(entry: Endpoint, params: Record<string, string>): Record<string, string> {
  for (const name of parametersOf(entry.path)) {
    if (!/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i.test(params[name] ?? "")) throw new NotFound();
  }
  return params;
}

async function readBody(entry: Endpoint, request: Request): Promise<AnyObject> {
  const declared = Number(request.headers.get("content-length") ?? 0);
  const tooLarge = new HttpProblem(413, "This is too large to be saved.", "A piece of writing can have 200,000 characters. What was saved before is safe.");
  if (declared > MOST_BYTES) throw tooLarge;
  const text = await request.text();
  if (text.length > MOST_BYTES) throw tooLarge;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new HttpProblem(400, "The request is not JSON.");
  }
  try {
    return (await entry.body!.validate(json, { strict: true, abortEarly: false })) as AnyObject;
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const faults = error.inner.length ? error.inner : [error];
    throw new Invalid(Object.fromEntries(faults.map((fault) => [fault.path || "body", fault.message])));
  }
}

function readRevision(request: Request): number {
  const match = /^"?(\d{1,15})"?$/.exec(request.headers.get("if-match") ?? "");
  if (!match) throw new HttpProblem(428, "The request does not say which state it was made on (If-Match).");
  return Number(match[1]);
}

function keyOf(request: Request): string {
  const key = request.headers.get("idempotency-key") ?? "";
  if (key.length < 8 || key.length > 200) throw new HttpProblem(400, "The request needs an Idempotency-Key of 8 to 200 characters.");
  return key;
}

function hashOf(request: Request, given: { body: unknown }): Buffer {
  return createHash("sha256").update(`${request.method} ${new URL(request.url).pathname}\n${JSON.stringify(given.body)}`).digest();
}

/** A change must come from a page of this very application (a cookie alone proves nothing). */
function checkOrigin(request: Request): void {
  const origin = request.headers.get("origin");
  if (origin === null || origin !== ownOrigin(request)) throw new HttpProblem(403, "This request did not come from Almanac itself.", "Nothing was changed.");
}

export function ownOrigin(request: { headers: Headers }): string {
  const { publicOrigin, trustProxy } = settings();
  if (publicOrigin) return publicOrigin;
  const proto = (trustProxy && request.headers.get("x-forwarded-proto")) || "http";
  return `${proto}://${request.headers.get("host") ?? ""}`;
}
