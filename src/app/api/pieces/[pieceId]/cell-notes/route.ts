import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { cellNotes, saveCellNote } from "@/server/ledger/notes";

export const GET = read(contract.cellNotes, (call, { params }) => cellNotes(call, params.pieceId!));
export const PUT = change(contract.saveCellNote, (call, { params, body }) =>
  saveCellNote(call, params.pieceId!, body),
);
