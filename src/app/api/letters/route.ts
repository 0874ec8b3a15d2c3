import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readLetters } from "@/server/letters/read";

export const GET = read(contract.letters, (call) => readLetters(call));
