import { describe, expect, test } from "@jest/globals";
import { contract, handOutBody, markBody } from "./contract";
import { parametersOf, type Endpoint } from "./endpoint";
import { openApiDocument } from "./openapi";

type Operation = { operationId: string; security: unknown[]; parameters?: { name: string; in: string; required: boolean }[]; requestBody?: { content: { "application/json": { schema: { required: string[]; properties: Record<string, { type?: unknown; enum?: unknown; $ref?: string }>; additionalProperties: boolean } } } }; responses: Record<string, unknown> };
const document = openApiDocument("1.2.3") as { openapi: string; info: { version: string }; paths: Record<string, Record<string, Operation>>; components: { schemas: Record<string, unknown> } };
const entries = Object.entries(contract) as [string, Endpoint][];

// What an OpenAPI 3.1.0 document must have: https://spec.openapis.org/oas/v3.1.0, sections 4.8.1 to 4.8.12 (from memory).
describe("the OpenAPI document", () => {
  test.each(entries.map(([name, entry]) => ({ name, entry })))("$name", ({ name, entry }) => {
    const operation = document.paths[entry.path]![entry.method.toLowerCase()]!;
    expect(operation.operationId).toBe(name);
    expect(operation.security.length > 0).toBe(entry.for === "signed-in");
    const parameters = operation.parameters ?? [];
    expect(parameters.filter((p) => p.in === "path").map((p) => p.name)).toEqual(parametersOf(entry.path));
    expect(parameters.every((p) => p.required)).toBe(true);
    expect(parameters.some((p) => p.name === "Idempotency-Key")).toBe(entry.once === true);
    expect(parameters.some((p) => p.name === "If-Match")).toBe(entry.ifMatch === true);
    expect(operation.requestBody !== undefined).toBe(entry.body !== undefined);
    expect(Object.keys(operation.responses).length).toBeGreaterThan(1);
  });
  test("schemas are those that validate: required, enumerated, documents by reference, nothing else let in", () => {
    const { schema } = document.paths["/api/sections/{sectionId}/hand-outs"]!.post!.requestBody!.content["application/json"];
    expect(schema.required).toEqual(expect.arrayContaining(Object.keys(handOutBody.fields)));
    expect(schema.properties.instructions).toEqual({ $ref: "#/components/schemas/RichDoc" });
    expect(schema.properties.expects!.enum).toEqual(["writing", "nothing"]);
    expect(schema.additionalProperties).toBe(false);
    expect(document.components.schemas).toHaveProperty("RichDoc");
  });
  test("every reference leads somewhere", () => {
    for (const [, name] of JSON.stringify(document).matchAll(/"#\/components\/schemas\/(\w+)"/g)) expect(document.components.schemas).toHaveProperty(name!);
  });
});

describe("the schemas", () => {
  const mark = { id: "0190a0b0-1111-7222-8333-444455556666", kind: "note", nature: "remark", start: 0, end: 3, body: "x", replacement: "", versionId: "0190a0b0-1111-7222-8333-444455556667", commentId: null };
  test("an id of version 7 is an id", async () => expect(await markBody.isValid(mark, { strict: true })).toBe(true));
  test.each([{ id: "1" }, { kind: "ink" }, { start: -1 }, { start: 1.5 }, { start: "0" }, { body: "x".repeat(4001) }, { extra: 1 }, { commentId: undefined }])("a mark with %j is not", async (wrong) => {
    expect(await markBody.isValid({ ...mark, ...wrong }, { strict: true })).toBe(false);
  });
});
