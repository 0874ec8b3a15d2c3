import { EMPTY_DOC } from "@/core/text/richDoc";
import { afterEach, describe, expect, test } from "@jest/globals";
import { contract } from "@/core/api/contract";
import { call, Problem, sayProblem, Unreachable } from "./client";

const realFetch = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = realFetch;
});
type Sent = { path: string; init: RequestInit & { headers: Record<string, string> } };
function answerWith(status: number, body: unknown): Sent[] {
  const sent: Sent[] = [];
  globalThis.fetch = (async (path: string, init: Sent["init"]) => {
    sent.push({ path, init });
    return new Response(typeof body === "string" ? body : JSON.stringify(body), { status });
  }) as never;
  return sent;
}

describe("asking the API", () => {
  test("parameters, revision and key go where the contract says", async () => {
    const sent = answerWith(200, { code: "x" });
    await call(contract.handIn, {
      params: { pieceId: "a b" },
      body: { doc: EMPTY_DOC, self: null },
      revision: 3,
      key: "key-12345",
    });
    expect(sent[0]!.path).toBe("/api/pieces/a%20b/hand-in");
    expect(sent[0]!.init).toMatchObject({
      method: "POST",
      body: JSON.stringify({ doc: EMPTY_DOC, self: null }),
    });
    expect(sent[0]!.init.headers).toEqual({
      "content-type": "application/json",
      "if-match": '"3"',
      "idempotency-key": "key-12345",
    });
  });
  test("a change made once gets a key of its own when none is given, and a reading gets none", async () => {
    const sent = answerWith(200, {});
    await call(contract.sendMessage, {
      params: { pieceId: "p" },
      body: { body: "x", markId: null },
    });
    await call(contract.comments);
    expect(sent[0]!.init.headers["idempotency-key"]).toMatch(/^[0-9a-f-]{36}$/);
    expect(sent[1]!.init.headers).toEqual({});
  });
  test("a file goes with its name and its digest", async () => {
    const sent = answerWith(200, {});
    await call(contract.addUpload, {
      file: new Blob(["hello world\n"]),
      fileName: "Noten & Ä.csv",
    });
    expect(sent[0]!.init.headers).toMatchObject({
      "x-file-name": "Noten%20%26%20%C3%84.csv",
      // SHA-256 of the same twelve bytes by another program (coreutils' sha256sum, in base 64).
      "content-digest": "sha-256=:qUiQTy8PR5uPgZdpSzAYSw0u0cHNKh7A+4XSmaGSpEc=:",
    });
  });
  test("a no keeps its sentence, its fields and what stands now", async () => {
    answerWith(412, {
      title: "Changed elsewhere.",
      detail: "Both are kept.",
      fields: { doc: "x" },
      theirs: { revision: 4 },
    });
    const error = await call(contract.comments).catch((e: Problem) => e);
    expect(error).toBeInstanceOf(Problem);
    expect(error).toMatchObject({ status: 412, fields: { doc: "x" }, theirs: { revision: 4 } });
    expect(sayProblem(error)).toBe("Changed elsewhere. Both are kept.");
  });
  test("no connection, and an answer that is not one, are said in words", async () => {
    globalThis.fetch = (async () => {
      throw new TypeError("fetch failed");
    }) as never;
    const gone = await call(contract.comments).catch((e: Unreachable) => e);
    expect(gone).toBeInstanceOf(Unreachable);
    expect(sayProblem(gone)).toContain("kept on this device");
    answerWith(502, "<html>bad gateway</html>");
    expect(sayProblem(await call(contract.comments).catch((e: Problem) => e))).toBe(
      "Almanac gave no answer that can be read.",
    );
    expect(sayProblem(new Error("x"))).toContain("Something went wrong on this page");
  });
});
