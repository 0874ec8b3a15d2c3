import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { find } from "@/server/search/find";

export const GET = read(contract.find, (call, { query }) => find(call, query.text ?? ""));
