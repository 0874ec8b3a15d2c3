import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveMail } from "@/server/mail/postRoom";

export const GET = read(contract.mailSource, (call, { params }) => giveMail(call, params.mailId!));
