import { contract } from "@/core/api/contract";
import { database } from "@/server/db/connection";
import { migrationLevel } from "@/server/db/migrationLevel";
import { open } from "@/server/http/serve";

export const GET = open(contract.health, async () => {
  const migration = await migrationLevel(database());
  return { application: "ok", database: "ok", migration };
});
