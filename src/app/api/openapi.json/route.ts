import { contract } from "@/core/api/contract";
import { openApiDocument } from "@/core/api/openapi";
import { open } from "@/server/http/serve";
import { version } from "../../../../package.json";

let document: object | undefined;

export const GET = open(contract.openapi, async () => (document ??= openApiDocument(version)));
