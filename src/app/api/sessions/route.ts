import { contract } from "@/core/api/contract";
import { listSessions, readToken } from "@/server/auth/sessions";
import { read } from "@/server/http/serve";

export const GET = read(contract.sessions, (call, { request }) =>
  listSessions(call, readToken(request.headers.get("cookie"))),
);
