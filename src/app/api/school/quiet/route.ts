import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setQuietHours } from "@/server/office/quietHours";

export const PUT = change(contract.setQuietHours, (call, { body }) => setQuietHours(call, body));
