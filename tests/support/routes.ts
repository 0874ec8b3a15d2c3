import { readdirSync, statSync } from "node:fs";
import path from "node:path";
import { contract } from "../../src/core/api/contract";
import type { Endpoint } from "../../src/core/api/endpoint";

/** The API as it lies on disk: every route file below src/app/api with the methods it exports. */
export const API = path.join(process.cwd(), "src/app/api");

export type RouteHandler = (
  request: Request,
  context: { params: Promise<Record<string, string>> },
) => Promise<Response>;

export function routeFiles(folder = API): string[] {
  return readdirSync(folder).flatMap((name) => {
    const file = path.join(folder, name);
    return statSync(file).isDirectory() ? routeFiles(file) : name === "route.ts" ? [file] : [];
  });
}

/** `src/app/api/pieces/[pieceId]/route.ts` is `/api/pieces/{pieceId}`. */
export const pathOf = (file: string): string =>
  `/api/${path.relative(API, path.dirname(file))}`.replace(/\[(\w+)\]/g, "{$1}").replace(/\/$/, "");

export const fileOf = (apiPath: string): string =>
  path.join(process.cwd(), "src/app", apiPath.replace(/\{(\w+)\}/g, "[$1]"), "route.ts");

export const endpoints = Object.entries(contract) as [string, Endpoint][];

export const ORIGIN = "http://almanac.test";

export type Ask = {
  params?: Record<string, string>;
  body?: unknown;
  token?: string | null;
  origin?: string | null;
  key?: string | null;
  revision?: number | null;
  /** A file, where the route takes one. */ bytes?: Uint8Array;
  fileName?: string;
  query?: Record<string, string>;
  headers?: Record<string, string>;
};

/** Asks a route as a browser would, without a server between: the same handler, the same database. */
export async function ask(entry: Endpoint, given: Ask = {}): Promise<Response> {
  const handlers = (await import(fileOf(entry.path))) as Record<string, RouteHandler>;
  const params = given.params ?? {};
  const address =
    ORIGIN +
    entry.path.replace(/\{(\w+)\}/g, (_, name: string) => params[name] ?? "") +
    (given.query ? `?${new URLSearchParams(given.query).toString()}` : "");
  const headers: Record<string, string> = {
    host: "almanac.test",
    "content-type": "application/json",
    "x-almanac-address": "127.0.0.1",
  };
  if (given.origin !== null) headers.origin = given.origin ?? ORIGIN;
  if (given.token) headers.cookie = `almanac_session=${given.token}`;
  if (entry.once && given.key !== null)
    headers["idempotency-key"] = given.key ?? crypto.randomUUID();
  if (entry.ifMatch && given.revision !== null) headers["if-match"] = `"${given.revision ?? 0}"`;
  if (entry.bytes) headers["x-file-name"] = encodeURIComponent(given.fileName ?? "table.csv");
  Object.assign(headers, given.headers);
  const hasBody = entry.method !== "GET" && entry.method !== "HEAD" && entry.method !== "DELETE";
  return handlers[entry.method]!(
    new Request(address, {
      method: entry.method,
      headers,
      body: entry.bytes
        ? Buffer.from(given.bytes ?? new TextEncoder().encode("name,email"))
        : hasBody
          ? JSON.stringify(given.body ?? {})
          : undefined,
    }),
    { params: Promise.resolve(params) },
  );
}
