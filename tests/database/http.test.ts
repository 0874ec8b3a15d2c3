import { afterAll, beforeAll, describe, expect, jest, test } from "@jest/globals";
import { contract } from "../../src/core/api/contract";
import type { Endpoint } from "../../src/core/api/endpoint";
import { Conflict, Invalid, NotFound, Refused } from "../../src/core/refusals";
import { beginSession, readToken, sessionCookie } from "../../src/server/auth/sessions";
import { HttpProblem, toProblem } from "../../src/server/problem";
import {
  asPerson,
  doc,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";
import { ask } from "../support/routes";

/** The one way in, from outside: what is refused before a use-case is reached, and how it is said. */
let database: TestDatabase;
let school: SmallSchool;
let token: string;
let pieceId: string;

beforeAll(async () => {
  database = await testDatabase();
  Object.assign(process.env, {
    DATABASE_URL: database.url,
    ALMANAC_MODE: "test",
    ALMANAC_LOG: "silent",
  });
  school = await smallSchool(database.sql);
  token = await beginSession(database.sql, school.students[0]!.id, new Date());
  const due = new Date(Date.now() + 7 * 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await asPerson(database.sql, school.owner).change(new Date(), (call) =>
    handOutSimply(call, school.sectionId, {
      title: "Log",
      instructions: doc("Write."),
      expects: "work",
      points: "",
      opens: null,
      due,
      closes: null,
      promised: null,
      graceMinutes: 0,
      mayTakeBack: true,
    }),
  );
  const [piece] = await database.sql<
    { id: string }[]
  >`select id from piece where hand_out_id = ${handOuts[0]!.id} and student_id = ${school.students[0]!.id}`;
  pieceId = piece!.id;
});
afterAll(() => endAnswers(database));

const save = (body: unknown, revision = 0) =>
  ask(contract.saveWork as Endpoint, { params: { pieceId }, token, body, revision });

describe("bad input gets a clear answer and changes nothing", () => {
  test.each<[string, unknown, number, RegExp]>([
    ["too large", { doc: doc("x".repeat(6_100_000)) }, 413, /200,000 characters/],
    [
      "too many characters",
      { doc: doc("x".repeat(200_001)) },
      422,
      /longer than 200,000 characters/,
    ],
    [
      "a node that is not known",
      { doc: { type: "doc", content: [{ type: "iframe" }] } },
      422,
      /cannot keep \(iframe\)/,
    ],
    ["no document", {}, 422, /The text is missing/],
    ["a field too many", { doc: doc("x"), revision: 1 }, 422, /unspecified|unknown/i],
  ])("%s", async (_name, body, status, words) => {
    const answer = await save(body);
    expect(answer.status).toBe(status);
    expect(answer.headers.get("content-type")).toBe("application/problem+json");
    expect(await answer.text()).toMatch(words);
    const [copy] = await database.sql`select from working_copy where piece_id = ${pieceId}`;
    expect(copy).toBeUndefined();
  });
  test("what is not JSON is said to be so", async () => {
    const { PUT } = (await import("../../src/app/api/pieces/[pieceId]/work/route")) as {
      PUT: (r: Request, c: { params: Promise<Record<string, string>> }) => Promise<Response>;
    };
    const request = new Request("http://almanac.test/api", {
      method: "PUT",
      body: "{",
      headers: {
        cookie: `almanac_session=${token}`,
        origin: "http://almanac.test",
        host: "almanac.test",
        "if-match": '"0"',
      },
    });
    expect((await PUT(request, { params: Promise.resolve({ pieceId }) })).status).toBe(400);
  });
  test("NUL and line ends in a text are mended, not refused: PostgreSQL could not keep the one, offsets the other", async () => {
    expect((await save({ doc: doc("a\u0000b\r\nc") })).status).toBe(200);
    const [copy] = await database.sql<
      { doc: unknown }[]
    >`select doc from working_copy where piece_id = ${pieceId}`;
    expect(copy!.doc).toEqual(doc("ab c"));
  });
});

describe("answers", () => {
  test("a saving says its revision, in the body and as an ETag, and a request id", async () => {
    const answer = await save({ doc: doc("second") }, 1);
    expect(answer.headers.get("etag")).toBe('"2"');
    expect(answer.headers.get("x-request-id")).toBeTruthy();
    expect(answer.headers.get("cache-control")).toBe("no-store");
  });
  test("a hand-in asked for twice with one key is one, and with another text under the same key is refused", async () => {
    const key = "the-same-key-twice";
    const handIn = (text: string) =>
      ask(contract.handIn as Endpoint, {
        params: { pieceId },
        token,
        body: { doc: doc(text) },
        key,
        revision: 2,
      });
    const [first, second] = [
      await (await handIn("done")).text(),
      await (await handIn("done")).text(),
    ];
    expect(second).toBe(first);
    expect((await handIn("other")).status).toBe(422);
    const [count] = await database.sql<
      { n: number }[]
    >`select count(*)::int as n from version where piece_id = ${pieceId}`;
    expect(count!.n).toBe(1);
  });
  test("a session that has ended is 401, and the page's words are safe", async () => {
    const ended = await ask(contract.saveWork as Endpoint, {
      params: { pieceId },
      token: "x".repeat(43),
      body: { doc: doc("x") },
    });
    expect(ended.status).toBe(401);
    expect(await ended.text()).toContain("kept on this device");
  });
});

describe("problems (RFC 9457)", () => {
  test.each<[Error, number, string]>([
    [new Refused("No."), 409, "/problems/refused"],
    [new NotFound(), 404, "/problems/not-found"],
    [new Invalid({ due: "Too late." }), 422, "/problems/invalid"],
    [new Conflict("Changed.", { revision: 2 }), 412, "/problems/conflict"],
    [new HttpProblem(429, "Wait."), 429, "about:blank"],
    [Object.assign(new Error("x"), { code: "ECONNREFUSED" }), 503, "/problems/unavailable"],
    [Object.assign(new Error("x"), { code: "57P01" }), 503, "/problems/unavailable"],
  ])("%s is %d", (error, status, type) => {
    expect(toProblem(error, "r1")).toMatchObject({ status, type, title: expect.any(String) });
  });
  test("a bug says its number and nothing of what it was about", () => {
    const problem = toProblem(new Error(`value "Aoife wrote this" violates`), "r2");
    expect(problem).toMatchObject({ status: 500, requestId: "r2" });
    expect(JSON.stringify(problem)).not.toContain("Aoife");
  });
  test("no line of the log holds what a person wrote", async () => {
    const lines: string[] = [];
    const write = jest.spyOn(process.stdout, "write").mockImplementation((chunk) => {
      lines.push(String(chunk));
      return true;
    });
    toProblem(
      Object.assign(new Error("Key (body)=(Aoife wrote this)"), {
        code: "23505",
        detail: "Aoife wrote this",
      }),
      "r3",
    );
    write.mockRestore();
    expect(lines.join("")).not.toContain("Aoife");
  });
});

test("the cookie is read whole or not at all", () => {
  const value = "a".repeat(43);
  expect(readToken(`x=1; almanac_session=${value}; y=2`)).toBe(value);
  for (const header of [
    null,
    "",
    "almanac_session=short",
    `almanac_session=${value}extra`,
    `other_almanac_session=${value}`,
  ])
    expect(readToken(header)).toBeNull();
  expect(sessionCookie("", true)).toMatch(/Max-Age=0; Secure$/);
});
