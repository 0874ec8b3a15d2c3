import { contract } from "@/core/api/contract";
import { importClosures, readClosures } from "@/server/office/schoolCalendar";
import { preparedChange } from "@/server/http/serve";

export const POST = preparedChange(
  contract.importClosures,
  (call, { body }) => readClosures(call, body),
  (call, { body }, file) => importClosures(call, { ...body, chosen: body.chosen ?? null }, file),
);
