import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setReadingTimes } from "@/server/overview/readingPlan";

export const PUT = change(contract.setReadingTimes, (call, { body }) =>
  setReadingTimes(call, body),
);
