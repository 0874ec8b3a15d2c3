import { contract } from "@/core/api/contract";
import { findForOffice } from "@/server/auth/givePassword";
import { change, read } from "@/server/http/serve";
import { addPerson } from "@/server/office/addPerson";

export const GET = read(contract.officePeople, (call, { query }) =>
  findForOffice(call, query.text ?? ""),
);

export const POST = change(contract.addPerson, (call, { body }) => addPerson(call, body));
