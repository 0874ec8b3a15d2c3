import { contract } from "@/core/api/contract";
import { deletePrivateNote } from "@/server/marking/privateNotes";
import { change } from "@/server/http/serve";

export const DELETE = change(contract.deletePrivateNote, (call, { params }) =>
  deletePrivateNote(call, params.pieceId!, params.noteId!),
);
