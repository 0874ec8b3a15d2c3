import { contract } from "@/core/api/contract";
import { findPeople } from "@/server/classes/members";
import { read } from "@/server/http/serve";

export const GET = read(contract.findPeople, (call, { query }) =>
  findPeople(call, {
    text: query.text ?? "",
    kind: query.kind === "teacher" ? "teacher" : "student",
  }),
);
