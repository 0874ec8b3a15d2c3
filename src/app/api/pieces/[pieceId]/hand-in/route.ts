import { contract } from "@/core/api/contract";
import { handIn } from "@/server/pieces/moves";
import { change, type After } from "@/server/http/serve";
import { compareNewest } from "@/server/text/newest";

/** What changed since the round before is worked out now, so that nobody waits for it at the Desk. */
const compare: After = (_call, { params }) => compareNewest(params.pieceId!);

export const POST = change(
  contract.handIn,
  (call, { params, body, revision }) => handIn(call, params.pieceId!, body, revision),
  compare,
);
