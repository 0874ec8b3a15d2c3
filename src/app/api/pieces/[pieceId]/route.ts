import { contract } from "@/core/api/contract";
import { pieceView } from "@/server/pieces/pieceView";
import { read } from "@/server/http/serve";

export const GET = read(contract.piece, (call, { params }) => pieceView(call, params.pieceId!));
