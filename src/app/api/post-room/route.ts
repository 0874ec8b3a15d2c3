import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { listMail } from "@/server/mail/postRoom";

export const GET = read(contract.mail, (call) => listMail(call));
