import { contract } from "@/core/api/contract";
import { giveFeed } from "@/server/calendar/giveFeed";
import { open } from "@/server/http/serve";

export const GET = open(contract.feed, ({ params, now, request }) =>
  giveFeed(params.secret!, now, request),
);
