import { contract } from "@/core/api/contract";
import { bankOut } from "@/server/comments/exchange";
import { read } from "@/server/http/serve";

export const GET = read(contract.bankOut, (call, { query }) => bankOut(call, query.as));
