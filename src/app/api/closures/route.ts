import { contract } from "@/core/api/contract";
import { putClosure } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const POST = change(contract.addClosure, (call, { body }) => putClosure(call, null, body));
