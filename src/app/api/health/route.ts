import { contract } from "@/core/api/contract";
import { readHealth } from "@/server/db/health";
import { open } from "@/server/http/serve";

export const GET = open(contract.health, () => readHealth());
