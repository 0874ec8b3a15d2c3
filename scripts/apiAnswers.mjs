// Writes src/core/api/answers.json: what each route answers, as JSON Schema (2020-12), read from the types that the
// contract names (`endpoint<Answer>()`), so that the API's description and the client are typed by the same words.
// With `--check` it only says whether the file is what it would write.
import { readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import prettier from "prettier";
import ts from "typescript";

const OUT = "src/core/api/answers.json";
const CONTRACT = path.resolve("src/core/api/contract.ts");

const config = ts.getParsedCommandLineOfConfigFile("tsconfig.json", {}, { ...ts.sys });
const program = ts.createProgram([CONTRACT], config.options);
const checker = program.getTypeChecker();

/** Schemas of named types, by name; a name that two types have gets a number. */
const named = new Map();
const namesOf = new Map();

const isOf = (type, flag) => (type.flags & flag) !== 0;
const isOptional = (symbol) => (symbol.flags & ts.SymbolFlags.Optional) !== 0;

function nameOf(type) {
  const symbol = type.aliasSymbol;
  if (!symbol || type.aliasTypeArguments?.length) return null;
  const file = symbol.declarations?.[0]?.getSourceFile().fileName ?? "";
  return file.includes("/src/") ? symbol.name : null;
}

/** A type as a schema; named types stand once, under their names. */
function schemaOf(type) {
  const name = nameOf(type);
  if (name === null) return bareSchema(type);
  if (!namesOf.has(type)) {
    const taken = [...namesOf.values()].filter((n) => n.replace(/\d+$/, "") === name).length;
    const own = taken === 0 ? name : `${name}${taken + 1}`;
    namesOf.set(type, own);
    named.set(own, {});
    named.set(own, bareSchema(type));
  }
  return { $ref: `#/components/schemas/${namesOf.get(type)}` };
}

const PLAIN = [
  [ts.TypeFlags.StringLike, { type: "string" }],
  [ts.TypeFlags.NumberLike, { type: "number" }],
  [ts.TypeFlags.BooleanLike, { type: "boolean" }],
  [ts.TypeFlags.Null, { type: "null" }],
];

function bareSchema(type) {
  if (type.isStringLiteral() || type.isNumberLiteral()) return { const: type.value };
  if (isOf(type, ts.TypeFlags.BooleanLiteral))
    return { const: checker.typeToString(type) === "true" };
  if (type.isUnion()) return unionSchema(type.types);
  for (const [flag, schema] of PLAIN) if (isOf(type, flag)) return schema;
  if (isOf(type, ts.TypeFlags.Any | ts.TypeFlags.Unknown)) return {};
  if (checker.isTupleType(type))
    return { type: "array", prefixItems: checker.getTypeArguments(type).map(schemaOf) };
  if (checker.isArrayType(type))
    return { type: "array", items: schemaOf(checker.getTypeArguments(type)[0]) };
  return objectSchema(type);
}

function unionSchema(types) {
  const said = types.filter((t) => !isOf(t, ts.TypeFlags.Undefined));
  const literals = said.filter((t) => t.isStringLiteral() || t.isNumberLiteral());
  const booleans = said.filter((t) => isOf(t, ts.TypeFlags.BooleanLiteral));
  const others = said.filter((t) => !literals.includes(t) && !booleans.includes(t));
  const schemas = [
    ...(literals.length > 0 ? [{ enum: literals.map((t) => t.value) }] : []),
    ...(booleans.length === 2 ? [{ type: "boolean" }] : booleans.map(bareSchema)),
    ...others.map(schemaOf),
  ];
  return schemas.length === 1 ? schemas[0] : { anyOf: schemas };
}

function objectSchema(type) {
  const index = checker.getIndexInfoOfType(type, ts.IndexKind.String);
  if (index) return { type: "object", additionalProperties: schemaOf(index.type) };
  const properties = checker.getPropertiesOfType(type).map((symbol) => ({
    name: symbol.name,
    required: !isOptional(symbol),
    schema: schemaOf(checker.getTypeOfSymbol(symbol)),
  }));
  return {
    type: "object",
    properties: Object.fromEntries(properties.map(({ name, schema }) => [name, schema])),
    required: properties.filter((p) => p.required).map((p) => p.name),
  };
}

/** The type of `contract`, and of each entry what it answers. */
function answers() {
  const source = program.getSourceFile(CONTRACT);
  const exported = checker.getExportsOfModule(checker.getSymbolAtLocation(source));
  const contract = checker.getTypeOfSymbol(exported.find((s) => s.name === "contract"));
  return Object.fromEntries(
    checker.getPropertiesOfType(contract).map((entry) => {
      const answer = checker.getTypeOfSymbol(entry).getProperty("answers");
      return [entry.name, schemaOf(checker.getNonNullableType(checker.getTypeOfSymbol(answer)))];
    }),
  );
}

const operations = answers();
const text = await prettier.format(
  JSON.stringify({ operations, schemas: Object.fromEntries([...named].sort()) }),
  { parser: "json", printWidth: 100 },
);
if (process.argv.includes("--check")) {
  if (readFileSync(OUT, "utf8") !== text) {
    console.error(`${OUT} is not what the contract says: run npm run api.`);
    process.exit(1);
  }
} else writeFileSync(OUT, text);
