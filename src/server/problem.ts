import { Conflict, Invalid, NotFound, Refused } from "@/core/refusals";
import { log } from "./log";

/** An answer that says no, as RFC 9457 writes it. */
export type Problem = {
  type: string;
  title: string;
  status: number;
  detail?: string;
  fields?: Readonly<Record<string, string>>;
  theirs?: unknown;
  requestId?: string;
};

export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail?: string,
  ) {
    super(title);
  }
}

const UNREACHABLE = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "CONNECTION_CLOSED",
  "CONNECTION_ENDED",
  "CONNECTION_DESTROYED",
  "CONNECT_TIMEOUT",
  "EPIPE",
  "57P01",
  "57P02",
  "57P03",
  "08006",
  "08003",
]);

/** Every error becomes a problem here; what is none of the known kinds is a bug and is logged as one. */
export function toProblem(error: unknown, requestId: string): Problem {
  if (error instanceof Refused)
    return { type: "/problems/refused", title: error.reason, status: 409 };
  if (error instanceof NotFound)
    return { type: "/problems/not-found", title: error.message, status: 404 };
  if (error instanceof Invalid)
    return { type: "/problems/invalid", title: error.message, status: 422, fields: error.fields };
  if (error instanceof Conflict)
    return { type: "/problems/conflict", title: error.reason, status: 412, theirs: error.theirs };
  if (error instanceof HttpProblem)
    return { type: "about:blank", title: error.title, status: error.status, detail: error.detail };
  if (isUnreachable(error)) {
    log.error(
      { requestId, code: (error as { code?: string }).code },
      "the database cannot be reached",
    );
    return {
      type: "/problems/unavailable",
      title: "Almanac cannot reach its database just now.",
      status: 503,
      detail: "Nothing was changed. What you wrote is kept on this device; try again in a moment.",
      requestId,
    };
  }
  // The message of a database error can quote values, so only its code and place are kept.
  const { name, code, stack } = error as { name?: string; code?: string; stack?: string };
  log.error(
    {
      requestId,
      name,
      code,
      stack: stack
        ?.split("\n")
        .filter((line) => line.trimStart().startsWith("at "))
        .slice(0, 8),
    },
    "a bug",
  );
  return {
    type: "/problems/bug",
    title: "Something went wrong in Almanac.",
    status: 500,
    detail: `Nothing was changed. If it happens again, tell the office this number: ${requestId}`,
    requestId,
  };
}

export function isUnreachable(error: unknown): boolean {
  return UNREACHABLE.has((error as { code?: string } | null)?.code ?? "");
}

export function problemResponse(problem: Problem, headers: Record<string, string> = {}): Response {
  return new Response(JSON.stringify(problem), {
    status: problem.status,
    headers: {
      "content-type": "application/problem+json",
      "cache-control": "no-store",
      ...headers,
    },
  });
}
