import type { ObjectSchema, AnyObject } from "yup";

/**
 * One entry of the API: what the route validates with, what the client is typed by, and what the
 * OpenAPI document says, written once.
 *
 * `Answer` is the type of the JSON that comes back; it is carried by `answers` for the compiler only.
 */
export type Endpoint<Body extends AnyObject = AnyObject, Answer = unknown> = {
  method: "GET" | "HEAD" | "POST" | "PUT" | "PATCH" | "DELETE";
  /** With its parameters in braces, each a UUID: `/api/pieces/{pieceId}/hand-in`. */
  path: string;
  summary: string;
  /** `anyone` needs no session. */
  for: "anyone" | "signed-in";
  body?: ObjectSchema<Body>;
  /** The body is a file as it is, of at most this many bytes; its name is in the header X-File-Name (percent-encoded). */
  bytes?: number;
  /** Query parameters, each with what it means; all are optional. */
  query?: Readonly<Record<string, string>>;
  /** The answer is not JSON but this media type. */
  gives?: string;
  /** A change one would be sorry to see twice: the request must carry an Idempotency-Key. */
  once?: boolean;
  /** Two people can edit this: the request must carry If-Match with the revision it was made on. */
  ifMatch?: boolean;
  /** Open also to who has still to choose a password of their own. */
  whileOwed?: boolean;
  answers?: Answer;
};

export function endpoint<Answer>() {
  return <Body extends AnyObject>(
    definition: Omit<Endpoint<Body, Answer>, "answers">,
  ): Endpoint<Body, Answer> => definition;
}

/** What may be undefined may be left out. */
type MayMiss<V> = 0 extends 1 & V ? false : undefined extends V ? true : false;
type Loose<T> = { [K in keyof T as MayMiss<T[K]> extends true ? never : K]: T[K] } & {
  [K in keyof T as MayMiss<T[K]> extends true ? K : never]?: T[K];
};
export type BodyOf<E> = E extends Endpoint<infer Body, unknown> ? Loose<Body> : never;
export type AnswerOf<E> = E extends Endpoint<AnyObject, infer Answer> ? Answer : never;

/** The names of a path's parameters. @example parametersOf("/api/pieces/{pieceId}/marks/{markId}") // ["pieceId", "markId"] */
export function parametersOf(path: string): string[] {
  return [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
}
