import { contract } from "@/core/api/contract";
import { deskPiece } from "@/server/marking/desk/deskPiece";
import { read } from "@/server/http/serve";

export const GET = read(contract.deskPiece, (call, { params }) => deskPiece(call, params.pieceId!));
