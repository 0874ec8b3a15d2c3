import { contract } from "@/core/api/contract";
import { makeSection } from "@/server/classes/changeSetUp";
import { change } from "@/server/http/serve";

export const POST = change(contract.makeSection, (call, { body }) => makeSection(call, body));
