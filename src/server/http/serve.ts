import { randomUUID } from "node:crypto";
import type { AnyObject } from "yup";
import { uuidv7 } from "uuidv7";
import type { AnswerOf, BodyOf, Endpoint } from "@/core/api/endpoint";
import { readToken, whoIs } from "../auth/sessions";
import type { Call, Person, ReadCall } from "../call";
import { database, type Db } from "../db/connection";
import { gathering } from "../db/gathering";
import { log } from "../log";
import { now, settings } from "../settings";
import { HttpProblem, problemResponse, toProblem } from "../problem";
import { once } from "./once";
import {
  hashOf,
  keyOf,
  NO_FILE,
  readBody,
  readFile,
  readParams,
  readQuery,
  readRevision,
} from "./received";

type Given<E> = {
  params: Record<string, string>;
  body: BodyOf<E>;
  revision: number;
  request: Request;
  /** The file that was sent, where the route takes one. */ file: { name: string; bytes: Buffer };
  query: Readonly<Record<string, string>>;
};
/** What goes on by itself once the change is stored; it sees to its own errors. */
export type After = (call: { who: Person; now: Date }, given: Given<Endpoint>) => Promise<void>;
/** A read can also answer with a file. */
type Reading<E, C> = (call: C, given: Given<E>) => Promise<AnswerOf<E> | Response>;

/** Work between sign-in and the transaction; it must itself ask whether the person may. */
type Prepare<E, Ready> = (call: ReadCall, given: Given<E>) => Promise<Ready>;

/**
 * A route that changes something: the one way in. Size, origin, sign-in, validation and idempotency
 * are seen to here, in that order; then the use-case runs in one transaction, which also holds its
 * idempotency record.
 */
export function change<E extends Endpoint<AnyObject, unknown>>(
  entry: E,
  work: (call: Call, given: Given<E>) => Promise<AnswerOf<E>>,
  after?: After,
) {
  return handler(entry, async (request, given, token) => {
    checkOrigin(request);
    const moment = now();
    const { who, answer } = await inOneTransaction(entry, work, { request, given, token, moment });
    if (after) void after({ who, now: moment }, given);
    return answer;
  });
}

/**
 * The same for what is slow. `prepare` looks into what was sent (files, sounds, pictures, passwords) before any row is
 * locked and any connection held; what it returns is handed to the change.
 */
export function preparedChange<E extends Endpoint<AnyObject, unknown>, Ready>(
  entry: E,
  prepare: Prepare<E, Ready>,
  work: (call: Call, given: Given<E>, ready: Ready) => Promise<AnswerOf<E>>,
) {
  return handler(entry, async (request, given, token) => {
    checkOrigin(request);
    const moment = now();
    const who = await requireWho(database(), entry, { token, moment });
    const ready = await prepare({ db: database(), who, now: moment }, given as Given<E>);
    const withReady = (call: Call, all: Given<E>) => work(call, all, ready);
    return (await inOneTransaction(entry, withReady, { request, given, token, moment })).answer;
  });
}

type Received = { request: Request; given: Given<Endpoint>; token: string | null; moment: Date };

async function inOneTransaction<E extends Endpoint<AnyObject, unknown>>(
  entry: E,
  work: (call: Call, given: Given<E>) => Promise<AnswerOf<E>>,
  { request, given, token, moment }: Received,
): Promise<{ who: Person; answer: AnswerOf<E> }> {
  const done = await database().begin(async (tx) => {
    const who = await requireWho(tx, entry, { token, moment });
    const call: Call = { tx, db: tx, who, now: moment, newId: uuidv7 };
    const run = () => work(call, given as Given<E>);
    const answer = entry.once
      ? await once(call, { key: keyOf(request), requestHash: hashOf(request, given) }, run)
      : await run();
    return { who, answer };
  });
  return done as { who: Person; answer: AnswerOf<E> };
}

/** Who asks, if they may ask this: whoever was given a password chooses their own before anything else. */
async function requireWho(
  db: Db,
  entry: Endpoint<AnyObject, unknown>,
  { token, moment }: { token: string | null; moment: Date },
): Promise<Person> {
  const who = await whoIs(db, token, moment);
  if (!who) throw signInFirst();
  if (who.mustChange && !entry.whileOwed)
    throw new HttpProblem(
      403,
      "Choose a password of your own first.",
      "The one you signed in with was given to you, and someone else has seen it.",
    );
  return who;
}

const signInFirst = () =>
  new HttpProblem(
    401,
    "Sign in first.",
    "Your session has ended. What you wrote is kept on this device.",
  );

/** A route that only reads, for a signed-in person. */
export function read<E extends Endpoint<AnyObject, unknown>>(entry: E, work: Reading<E, ReadCall>) {
  return handler(entry, async (request, given, token) => {
    // A read that takes a text in its body costs work, and only our own pages may ask for it.
    if (entry.method !== "GET" && entry.method !== "HEAD") checkOrigin(request);
    const moment = now();
    const who = await requireWho(database(), entry, { token, moment });
    return work({ db: gathering(database()), who, now: moment }, given as Given<E>);
  });
}

/** A route for anyone: what it may answer besides JSON is a Response of its own (to set a cookie, say). */
export function open<E extends Endpoint<AnyObject, unknown>>(
  entry: E,
  work: (given: Given<E> & { now: Date }) => Promise<AnswerOf<E> | Response>,
) {
  return handler(entry, async (request, given) => {
    if (entry.method !== "GET") checkOrigin(request);
    return work({ ...(given as Given<E>), now: now() });
  });
}

type Passing = {
  request: Request;
  params: Record<string, string>;
  who: Person;
  /** Runs a use-case in a transaction of its own. */ change: <T>(
    work: (call: Call) => Promise<T>,
  ) => Promise<T>;
};

/** A route whose answer another protocol writes (uploads): sign-in and origin are seen to here, the rest is its own. */
export function passing(entry: Endpoint, work: (given: Passing) => Promise<Response>) {
  return handler(entry, async (request, { params }, token) => {
    if (entry.method !== "HEAD" && entry.method !== "GET") checkOrigin(request);
    const moment = now();
    const who = await requireWho(database(), entry, { token, moment });
    const run = <T>(use: (call: Call) => Promise<T>) =>
      database().begin((tx) => use({ tx, db: tx, who, now: moment, newId: uuidv7 })) as Promise<T>;
    return work({ request, params, who, change: run });
  });
}

function handler(
  entry: Endpoint,
  answer: (request: Request, given: Given<Endpoint>, token: string | null) => Promise<unknown>,
) {
  return async (
    request: Request,
    context: { params: Promise<Record<string, string>> },
  ): Promise<Response> => {
    const requestId = request.headers.get("x-request-id") ?? randomUUID();
    const started = performance.now();
    let response: Response;
    try {
      const params = readParams(entry, await context.params);
      const token = readToken(request.headers.get("cookie"));
      // Who someone is comes before what they sent: a stranger learns nothing from a validation error.
      if (entry.for === "signed-in" && !token) throw new HttpProblem(401, "Sign in first.");
      const body = entry.body ? await readBody(entry, request) : {};
      const file = entry.bytes ? await readFile(entry.bytes, request) : NO_FILE;
      const query = readQuery(entry, request);
      const revision = entry.ifMatch ? readRevision(request) : 0;
      const result = await answer(request, { params, body, revision, request, file, query }, token);
      response =
        result instanceof Response
          ? result
          : Response.json(result, { headers: { "cache-control": "no-store", ...etagOf(result) } });
    } catch (error) {
      response = problemResponse(toProblem(error, requestId));
    }
    if (response.headers.get("x-request-id") === null)
      response.headers.set("x-request-id", requestId);
    log.info(
      {
        requestId,
        method: entry.method,
        route: entry.path,
        status: response.status,
        ms: Math.round(performance.now() - started),
      },
      "request",
    );
    return response;
  };
}

function etagOf(result: unknown): Record<string, string> {
  const { revision } = (result ?? {}) as { revision?: unknown };
  return typeof revision === "number" ? { etag: `"${revision}"` } : {};
}

/** A change must come from a page of this very application (a cookie alone proves nothing). */
function checkOrigin(request: Request): void {
  const origin = request.headers.get("origin");
  if (origin === null || origin !== ownOrigin(request))
    throw new HttpProblem(
      403,
      "This request did not come from Almanac itself.",
      "Nothing was changed.",
    );
}

export function ownOrigin(request: { headers: Headers }): string {
  const { publicOrigin, trustProxy } = settings();
  if (publicOrigin) return publicOrigin;
  const proto = (trustProxy && request.headers.get("x-forwarded-proto")) || "http";
  return `${proto}://${request.headers.get("host") ?? ""}`;
}
