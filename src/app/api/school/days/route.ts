import { contract } from "@/core/api/contract";
import { setSchoolDays } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setSchoolDays, (call, { body }) => setSchoolDays(call, body));
