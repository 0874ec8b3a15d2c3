import { contract } from "@/core/api/contract";
import { putTerm } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const POST = change(contract.addTerm, (call, { body }) => putTerm(call, null, body));
