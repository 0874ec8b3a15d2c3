import { contract } from "@/core/api/contract";
import { saveWork } from "@/server/pieces/moves";
import { change } from "@/server/http/serve";

export const PUT = change(contract.saveWork, (call, { params, body, revision }) => saveWork(call, params.pieceId!, body.doc, revision));
