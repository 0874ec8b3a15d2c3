import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { answerMail } from "@/server/letters/answer";
import { giveMail } from "@/server/mail/postRoom";

export const GET = read(contract.mailSource, (call, { params }) => giveMail(call, params.mailId!));
export const POST = change(contract.answerMail, (call, { params, body }) =>
  answerMail(call, params.mailId!, body),
);
