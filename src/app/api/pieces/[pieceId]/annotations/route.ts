import { contract } from "@/core/api/contract";
import { annotationsIn, annotationsOut } from "@/server/marking/annotations";
import { change, read } from "@/server/http/serve";

export const GET = read(contract.annotations, (call, { params }) =>
  annotationsOut(call, params.pieceId!),
);
export const POST = change(contract.bringAnnotations, (call, { params, body }) =>
  annotationsIn(call, params.pieceId!, body),
);
