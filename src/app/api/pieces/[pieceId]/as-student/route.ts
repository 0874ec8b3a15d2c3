import { contract } from "@/core/api/contract";
import { readLooked } from "@/server/handingBack/readLooked";
import { lookAsStudent } from "@/server/handingBack/preview";
import { read } from "@/server/http/serve";

export const GET = read(contract.asStudent, (call, { params, query }) =>
  lookAsStudent(call, params.pieceId!, readLooked(query, call.who.zone)),
);
