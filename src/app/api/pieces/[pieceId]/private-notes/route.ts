import { contract } from "@/core/api/contract";
import { addPrivateNote } from "@/server/marking/privateNotes";
import { change } from "@/server/http/serve";

export const POST = change(contract.addPrivateNote, (call, { params, body }) =>
  addPrivateNote(call, params.pieceId!, body),
);
