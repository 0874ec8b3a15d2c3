import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveRoster } from "@/server/roster/give";

export const GET = read(contract.exportRoster, (call) => giveRoster(call));
