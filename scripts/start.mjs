// `npm start`: production. The database is named by DATABASE_URL and brought up to date first; two
// servers starting at once wait for each other there.
import { startApp } from "./setup/app.mjs";
import { needBuild } from "./setup/build.mjs";
import { endChild, fail, run, say, Stop } from "./setup/process.mjs";

async function main() {
  if (!process.env.DATABASE_URL)
    throw new Stop(
      "DATABASE_URL is not set. It names the PostgreSQL database, for example postgres://almanac@127.0.0.1:5432/almanac",
    );
  await needBuild();
  say("Bringing the database up to date");
  await run("node_modules/.bin/tsx", ["scripts/migrate.ts"], { show: true });
  const app = await startApp({
    port: Number(process.env.PORT ?? 4300),
    env: { HOST: process.env.HOST ?? "127.0.0.1" },
  });
  for (const signal of ["SIGINT", "SIGTERM"])
    process.on(signal, () => endChild(app).then(() => process.exit(0)));
  app.once("exit", (code) => process.exit(code ?? 1));
}

main().catch(fail);
