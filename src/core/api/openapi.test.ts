import { describe, expect, test } from "@jest/globals";
import { contract } from "./contract";
import { commentBody, markBody } from "./routes/pieces";
import { planBody } from "./planBody";
import { WRITING } from "../handouts/parts";
import { emptyPlan } from "../handouts/plan";
import { parametersOf, type Endpoint } from "./endpoint";
import { openApiDocument } from "./openapi";

type Operation = {
  operationId: string;
  security: unknown[];
  parameters?: { name: string; in: string; required: boolean }[];
  requestBody?: {
    content: {
      "application/json": {
        schema: {
          required: string[];
          properties: Record<string, { type?: unknown; enum?: unknown; $ref?: string }>;
          additionalProperties: boolean;
        };
      };
    };
  };
  responses: Record<string, unknown>;
};
const document = openApiDocument("1.2.3") as {
  openapi: string;
  info: { version: string };
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Record<string, unknown> };
};
const entries = Object.entries(contract) as [string, Endpoint][];

// What an OpenAPI 3.1.0 document must have: https://spec.openapis.org/oas/v3.1.0, sections 4.8.1 to 4.8.12 (from memory).
describe("the OpenAPI document", () => {
  test.each(entries.map(([name, entry]) => ({ name, entry })))("$name", ({ name, entry }) => {
    const operation = document.paths[entry.path]![entry.method.toLowerCase()]!;
    expect(operation.operationId).toBe(name);
    expect(operation.security.length > 0).toBe(entry.for === "signed-in");
    const parameters = operation.parameters ?? [];
    expect(parameters.filter((p) => p.in === "path").map((p) => p.name)).toEqual(
      parametersOf(entry.path),
    );
    expect(parameters.every((p) => p.required || p.in === "query")).toBe(true);
    expect(parameters.filter((p) => p.in === "query").map((p) => p.name)).toEqual(
      Object.keys(entry.query ?? {}),
    );
    expect(parameters.some((p) => p.name === "Idempotency-Key")).toBe(entry.once === true);
    expect(parameters.some((p) => p.name === "If-Match")).toBe(entry.ifMatch === true);
    expect(operation.requestBody !== undefined).toBe(
      entry.body !== undefined || entry.bytes !== undefined,
    );
    expect(Object.keys(operation.responses).length).toBeGreaterThan(1);
  });
  test("schemas are those that validate: required, enumerated, documents by reference, nothing else let in", () => {
    const schemaOf = (path: string, method: string) =>
      document.paths[path]![method]!.requestBody!.content["application/json"].schema;
    const comment = schemaOf("/api/comments", "post");
    expect(comment.required).toEqual(["text", "shorthand", "nature", "favourite"]);
    expect(Object.keys(comment.properties).sort()).toEqual(Object.keys(commentBody.fields).sort());
    expect(comment.properties.nature!.enum).toEqual(["remark", "request", "praise"]);
    expect(comment.additionalProperties).toBe(false);
    expect(schemaOf("/api/pieces/{pieceId}/work", "put").properties.doc).toEqual({
      $ref: "#/components/schemas/RichDoc",
    });
    expect(document.components.schemas).toHaveProperty("RichDoc");
  });
  test("every reference leads somewhere", () => {
    for (const [, name] of JSON.stringify(document).matchAll(/"#\/components\/schemas\/(\w+)"/g))
      expect(document.components.schemas).toHaveProperty(name!);
  });
});

describe("the plan of a hand-out", () => {
  const row = {
    sectionId: "0190a0b0-1111-7222-8333-444455556666",
    opens: null,
    due: "2026-10-16T16:00",
    closes: null,
    promised: null,
    audience: { kind: "section" },
    exceptions: [],
  };
  const plan = emptyPlan([row as never]);
  const good = { ...plan, work: { ...plan.work, title: "Letter" } };
  test("an empty page with a title and a section is one", async () =>
    expect(await planBody.isValid(good, { strict: true })).toBe(true));
  test("late policies, audiences and materials are what their kind says", async () => {
    const id = row.sectionId;
    const materials = [
      { id, use: "look", title: "t", kind: "link", href: "https://example.org" },
      { id, use: "copy", title: "t", kind: "text", doc: plan.work.instructions },
      { id, use: "copy", title: "t", kind: "file", uploadId: id },
    ];
    const full = {
      ...good,
      work: { ...good.work, materials },
      rows: [{ ...row, audience: { kind: "chosen", groups: [id], students: [] } }],
      counting: {
        ...plan.counting,
        late: { kind: "deduct", percent: "10", per: "school day", floorPercent: "0" },
      },
    };
    expect(await planBody.isValid(full, { strict: true })).toBe(true);
  });
  test.each([
    ["a late policy of no kind", { counting: { ...plan.counting, late: { kind: "double" } } }],
    ["a deduction without its share", { counting: { ...plan.counting, late: { kind: "deduct" } } }],
    ["an audience of neither kind", { rows: [{ ...row, audience: { kind: "chosen" } }] }],
    [
      "a kind of answer that cannot be given yet",
      { work: { ...good.work, parts: [{ ...WRITING, kind: "dance" }] } },
    ],
    ["a due time that is none", { rows: [{ ...row, due: "tomorrow" }] }],
    ["more than is asked", { extra: true }],
  ])("%s is refused", async (_, wrong) =>
    expect(await planBody.isValid({ ...good, ...wrong }, { strict: true })).toBe(false),
  );
});

describe("the schemas", () => {
  const mark = {
    id: "0190a0b0-1111-7222-8333-444455556666",
    kind: "note",
    nature: "remark",
    start: 0,
    end: 3,
    body: "x",
    replacement: "",
    versionId: "0190a0b0-1111-7222-8333-444455556667",
    commentId: null,
  };
  test("an id of version 7 is an id", async () =>
    expect(await markBody.isValid(mark, { strict: true })).toBe(true));
  test.each([
    { id: "1" },
    { kind: "highlight" },
    { points: "many" },
    { start: -1 },
    { start: 1.5 },
    { start: "0" },
    { body: "x".repeat(4001) },
    { extra: 1 },
    { commentId: undefined },
  ])("a mark with %j is not", async (wrong) => {
    expect(await markBody.isValid({ ...mark, ...wrong }, { strict: true })).toBe(false);
  });
});

describe("answers", () => {
  const document = openApiDocument("1") as {
    paths: Record<string, Record<string, { operationId: string; responses: Answered }>>;
    components: { schemas: Record<string, object> };
  };
  type Answered = Record<string, { content: Record<string, { schema: object }> }>;
  const operations = Object.values(document.paths).flatMap((methods) => Object.values(methods));
  test("of every route are described, but those that are files", () => {
    const empty = operations.flatMap(({ operationId, responses }) =>
      Object.entries(responses["200"]!.content).flatMap(([type, { schema }]) =>
        type === "application/json" && Object.keys(schema).length === 0 ? [operationId] : [],
      ),
    );
    expect(empty).toEqual([]);
    expect(operations.length).toBe(Object.keys(contract).length);
  });
  test("name only schemas that are there, and say the same as the client's types", () => {
    const named = [...JSON.stringify(document).matchAll(/#\/components\/schemas\/(\w+)/g)];
    for (const [, name] of named) expect(document.components.schemas).toHaveProperty(name!);
    expect(document.components.schemas.Receipt).toMatchObject({
      properties: { code: { type: "string" }, late: { type: "boolean" } },
      required: expect.arrayContaining(["code", "files"]),
    });
  });
});

// JSON Schema 2020-12, validation, section 6.1.1: a string, or an array of strings that is not empty and says none twice.
test("every type in the document is a type of JSON Schema", () => {
  const types = ["null", "boolean", "object", "array", "number", "string", "integer"];
  let seen = 0;
  const walk = (node: unknown, path: string, named: boolean): void => {
    if (typeof node !== "object" || node === null) return;
    for (const [key, value] of Object.entries(node)) {
      // A property may be called "type"; it is then a schema itself.
      if (key === "type" && !named && !Array.isArray(node)) {
        const said = Array.isArray(value) ? value : [value];
        if (said.every((one) => typeof one === "object")) continue;
        seen += 1;
        expect([
          path,
          said.length > 0 && said.every((one) => types.includes(one as string)),
        ]).toEqual([path, true]);
      } else walk(value, `${path}/${key}`, key === "properties");
    }
  };
  walk({ paths: document.paths, schemas: document.components.schemas }, "", false);
  expect(seen).toBeGreaterThan(500);
});
