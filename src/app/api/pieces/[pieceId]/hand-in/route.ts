import { contract } from "@/core/api/contract";
import { handIn } from "@/server/pieces/moves";
import { change } from "@/server/http/serve";

export const POST = change(contract.handIn, (call, { params, body, revision }) => handIn(call, params.pieceId!, body.doc, revision, body.self ?? null));
