import { contract } from "@/core/api/contract";
import { versionShown } from "@/server/marking/desk/versions";
import { read } from "@/server/http/serve";

export const GET = read(contract.deskVersion, (call, { params }) =>
  versionShown(call, params.pieceId!, params.versionId!),
);
