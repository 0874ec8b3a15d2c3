import { convertSchema } from "@sodaru/yup-to-json-schema";
import type { AnyObject, ObjectSchema } from "yup";
import answers from "./answers.json";
import { contract } from "./contract";
import { parametersOf, type Endpoint } from "./endpoint";

type Json = Record<string, unknown>;

const problem = (description: string): Json => ({
  description,
  content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
});

/**
 * The API as an OpenAPI 3.1 document, made from the schemas that validate the requests and the types of the answers.
 *
 * @see https://spec.openapis.org/oas/v3.1.0 and RFC 9457 for the errors
 */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [operationId, entry] of Object.entries(contract) as [string, Endpoint][]) {
    (paths[entry.path] ??= {})[entry.method.toLowerCase()] = operation(operationId, entry);
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Almanac",
      version,
      description:
        "Changes must carry the Origin of the application itself. Sessions are kept in a cookie.",
    },
    paths,
    components: {
      securitySchemes: { session: { type: "apiKey", in: "cookie", name: "almanac_session" } },
      schemas: {
        ...(answers.schemas as Json),
        RichDoc: {
          type: "object",
          description:
            "Rich text as the JSON of a ProseMirror document, with the nodes and marks of core/text/richDoc only",
          required: ["type", "content"],
          properties: {
            type: { const: "doc" },
            content: { type: "array", items: { type: "object" } },
          },
        },
        Problem: {
          type: "object",
          description: "RFC 9457",
          required: ["type", "title", "status"],
          properties: {
            type: { type: "string", format: "uri-reference" },
            title: { type: "string" },
            status: { type: "integer" },
            detail: { type: "string" },
            fields: { type: "object", additionalProperties: { type: "string" } },
            theirs: { description: "What stands now, where someone else changed it first" },
            requestId: { type: "string" },
          },
        },
      },
    },
  };
}

const headerOf = (name: string, schema: Json): Json => ({
  name,
  in: "header",
  required: true,
  schema,
});

function parametersFor(entry: Endpoint): Json[] {
  const inPath = parametersOf(entry.path).map((name) => ({
    name,
    in: "path",
    required: true,
    schema: { type: "string", format: "uuid" },
  }));
  const once = { type: "string", minLength: 8, maxLength: 200 };
  const revision = { type: "string", description: 'The revision in quotes, e.g. "3"' };
  const inQuery = Object.entries(entry.query ?? {}).map(([name, description]) => ({
    name,
    in: "query",
    required: false,
    description,
    schema: { type: "string" },
  }));
  return [
    ...inPath,
    ...(entry.once ? [headerOf("Idempotency-Key", once)] : []),
    ...(entry.ifMatch ? [headerOf("If-Match", revision)] : []),
    ...inQuery,
  ];
}

function requestBodyOf({ body, bytes }: Endpoint): Json {
  if (bytes)
    return {
      requestBody: {
        required: true,
        description: `At most ${bytes} bytes; the file's name is in X-File-Name`,
        content: {
          "application/octet-stream": { schema: { type: "string", format: "binary" } },
        },
      },
    };
  if (!body) return {};
  const content = { "application/json": { schema: bodySchema(body) } };
  return { requestBody: { required: true, content } };
}

/** What can go wrong with a call, by what it is. */
function problemsOf(entry: Endpoint): Json {
  const signedIn = {
    401: problem("Not signed in"),
    404: problem("Not there, or not yours"),
  };
  const changes = {
    403: problem("The request came from another site"),
    409: problem("A rule said no; the detail says which"),
  };
  const revised = {
    412: problem("Someone else changed it first"),
    428: problem("If-Match is missing"),
  };
  const withBody = {
    413: problem("Too large"),
    422: problem("A field does not hold what it should"),
  };
  return {
    ...(entry.for === "signed-in" ? signedIn : {}),
    ...(entry.method !== "GET" ? changes : {}),
    ...(entry.ifMatch ? revised : {}),
    ...(entry.body || entry.bytes ? withBody : {}),
    503: problem("The database cannot be reached; nothing was changed"),
  };
}

function operation(operationId: string, entry: Endpoint): Json {
  const parameters = parametersFor(entry);
  return {
    operationId,
    summary: entry.summary,
    security: entry.for === "anyone" ? [] : [{ session: [] }],
    ...(parameters.length > 0 ? { parameters } : {}),
    ...requestBodyOf(entry),
    responses: {
      200: {
        description: "Done",
        content: {
          [entry.gives ?? "application/json"]: { schema: answerSchema(operationId, entry) },
        },
      },
      ...problemsOf(entry),
    },
  };
}

function bodySchema(schema: ObjectSchema<AnyObject>): unknown {
  const written = described(convertSchema(schema as never) as Json, "") as Json;
  return { ...written, additionalProperties: false, default: undefined };
}

/**
 * Yup's `mixed` comes out without a type, or with "null" alone: a document (`readRichDoc` checks it node by node), or
 * what a use-case reads against something stored. Wherever one stands, it says so.
 */
function described(node: unknown, name: string): unknown {
  if (Array.isArray(node)) return node.map((each) => described(each, name));
  if (typeof node !== "object" || node === null) return node;
  if (isAnything(node as Json)) return readElsewhere(name);
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => [
      key,
      key === "properties" ? propertiesOf(value as Json) : described(value, name),
    ]),
  );
}

const propertiesOf = (properties: Json): Json =>
  Object.fromEntries(
    Object.entries(properties).map(([name, schema]) => [name, described(schema, name)]),
  );

function isAnything({ type }: Json): boolean {
  return Array.isArray(type) && type.every((one) => one === "null");
}

/** A field that the schema lets through as it is: a document, or what its use-case reads. */
const readElsewhere = (name: string): Json =>
  name === "doc"
    ? { $ref: "#/components/schemas/RichDoc" }
    : { description: "Read by the use-case itself" };

/** What comes back, as the types of the contract say it (`npm run api` writes them down); a file is just bytes. */
const answerSchema = (operationId: string, { gives }: Endpoint): Json =>
  gives ? {} : ((answers.operations as Record<string, Json>)[operationId] ?? {});
