import { contract } from "@/core/api/contract";
import { deleteFeed, setFeed } from "@/server/calendar/feeds";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setFeed, (call, { body }) =>
  setFeed(call, { ...body, alarmMinutes: body.alarmMinutes ?? null }),
);
export const DELETE = change(contract.deleteFeed, (call) => deleteFeed(call));
