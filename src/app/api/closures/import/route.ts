import { contract } from "@/core/api/contract";
import { importClosures } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const POST = change(contract.importClosures, (call, { body }) =>
  importClosures(call, { ...body, chosen: body.chosen ?? null }),
);
