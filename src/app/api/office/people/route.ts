import { contract } from "@/core/api/contract";
import { findForOffice } from "@/server/auth/givePassword";
import { read } from "@/server/http/serve";

export const GET = read(contract.officePeople, (call, { query }) =>
  findForOffice(call, query.text ?? ""),
);
