import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { readSectionNotes, sayToClass } from "@/server/sectionNotes/sectionNotes";

export const GET = read(contract.sectionNotes, (call, { params }) =>
  readSectionNotes(call, params.handOutId!),
);
export const POST = change(contract.sayToClass, (call, { params, body }) =>
  sayToClass(call, params.handOutId!, body),
);
