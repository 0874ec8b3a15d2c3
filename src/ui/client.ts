import type { AnyObject } from "yup";
import type { AnswerOf, BodyOf, Endpoint } from "@/core/api/endpoint";
import { noteOwnChange } from "./ownChanges";

/** An answer that said no, as it came (RFC 9457). Its message is a sentence for the person. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    title: string,
    readonly detail: string | null,
    readonly fields: Readonly<Record<string, string>>,
    readonly theirs: unknown,
  ) {
    super(title);
  }
}

/** The request did not arrive, or no answer came back. */
export class Unreachable extends Error {
  constructor() {
    super("No connection.");
  }
}

type Given<E> = {
  params?: Record<string, string>;
  query?: Record<string, string>;
  file?: Blob;
  fileName?: string;
  body?: BodyOf<E>;
  revision?: number;
  /** For changes made once: the same key for every retry of one act. */ key?: string;
  signal?: AbortSignal;
};

/** What goes with a file: its name, and its digest (RFC 9530), so that one that comes cut or changed is refused. */
async function aboutFile(file: Blob, fileName?: string): Promise<Record<string, string>> {
  const name = fileName ?? (file instanceof File ? file.name : "file");
  const headers = {
    "content-type": "application/octet-stream",
    "x-file-name": encodeURIComponent(name),
  };
  // Over plain http, as in a school's own network, a page has no cryptography; the length is checked all the same.
  if (!globalThis.crypto?.subtle) return headers;
  const digest = new Uint8Array(await crypto.subtle.digest("SHA-256", await file.arrayBuffer()));
  return { ...headers, "content-digest": `sha-256=:${btoa(String.fromCharCode(...digest))}:` };
}

/**
 * The one way from the browser to the API, typed by the contract.
 *
 * @throws Problem when the server says no, Unreachable when it cannot be asked
 */
export async function call<E extends Endpoint<AnyObject, unknown>>(
  entry: E,
  { params = {}, query, file, fileName, body, revision, key, signal }: Given<E> = {},
): Promise<AnswerOf<E>> {
  const asked = query ? `?${new URLSearchParams(query).toString()}` : "";
  const path =
    entry.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(params[name] ?? "")) +
    asked;
  const headers: Record<string, string> = {
    ...(body === undefined ? {} : { "content-type": "application/json" }),
    ...(file === undefined ? {} : await aboutFile(file, fileName)),
    ...(revision === undefined ? {} : { "if-match": `"${revision}"` }),
    ...(entry.once ? { "idempotency-key": key ?? crypto.randomUUID() } : {}),
  };
  const response = await fetch(path, {
    method: entry.method,
    headers,
    body: file ?? (body === undefined ? undefined : JSON.stringify(body)),
    credentials: "same-origin",
    signal,
  }).catch((error: Error) => {
    throw error.name === "AbortError" ? error : new Unreachable();
  });
  const answer: unknown = await response.json().catch(() => ({}));
  if (response.ok) {
    if (entry.method !== "GET" && entry.method !== "HEAD") noteOwnChange();
    return answer as AnswerOf<E>;
  }
  const { title, detail, fields, theirs } = answer as {
    title?: string;
    detail?: string;
    fields?: Record<string, string>;
    theirs?: unknown;
  };
  throw new Problem(
    response.status,
    title ?? "Almanac gave no answer that can be read.",
    detail ?? null,
    fields ?? {},
    theirs,
  );
}

/** Whatever went wrong, as sentences to show. */
export function sayProblem(error: unknown): string {
  if (error instanceof Problem) return [error.message, error.detail].filter(Boolean).join(" ");
  if (error instanceof Unreachable)
    return "There is no connection just now. What you wrote is kept on this device.";
  return "Something went wrong on this page. What you wrote is kept on this device; load the page again.";
}
