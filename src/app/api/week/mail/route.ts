import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setWeekMail } from "@/server/weekSheet/week";

export const PUT = change(contract.setWeekMail, (call, { body }) => setWeekMail(call, body));
