import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { openQuestions } from "@/server/overview/questions";

export const GET = read(contract.openQuestions, (call) => openQuestions(call));
