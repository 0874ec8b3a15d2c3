import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { listReminders, setReminders } from "@/server/reminders/reminders";

export const GET = read(contract.reminders, (call) => listReminders(call));
export const PUT = change(contract.setReminders, (call, { body }) => setReminders(call, body));
