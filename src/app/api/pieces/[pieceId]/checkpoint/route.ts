import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readCheckpoint } from "@/server/pieces/checkpoints";

export const GET = read(contract.checkpoint, (call, { params, query }) =>
  readCheckpoint(
    call,
    params.pieceId!,
    Number(query.number),
    query.since ? Number(query.since) : null,
  ),
);
