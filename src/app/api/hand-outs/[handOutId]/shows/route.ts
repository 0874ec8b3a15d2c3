import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setShows } from "@/server/ledger/shows";

export const PUT = change(contract.setShows, (call, { params, body }) =>
  setShows(call, params.handOutId!, body),
);
