import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setLanguage } from "@/server/weekSheet/week";

export const PUT = change(contract.setLanguage, (call, { body }) => setLanguage(call, body));
