// `npm run bench`: measures a production build with 200,000 further pieces in the database, in one run,
// and writes the table into docs/bench.md. Ratios mean more than milliseconds: machines differ.
import path from "node:path";
import { startApp } from "./setup/app.mjs";
import { needBuild } from "./setup/build.mjs";
import { freePort, startCluster } from "./setup/cluster.mjs";
import { FOR_FILES, needDebian, needNpm } from "./setup/packages.mjs";
import { endChild, fail, run, say } from "./setup/process.mjs";

let cluster;
let app;
async function main() {
  await needDebian("postgresql-15", "chromium", "chromium-driver", ...FOR_FILES);
  await needNpm();
  await needBuild();
  say("Starting a cluster for the measurements");
  cluster = await startCluster(path.resolve(".almanac-test", "bench"));
  await cluster.dropDatabase("bench");
  const env = {
    DATABASE_URL: await cluster.database("bench"),
    ALMANAC_MODE: "demo",
    ALMANAC_LOG: "silent",
  };
  const tsx = (file, more = {}) =>
    run("node_modules/.bin/tsx", [file], { show: true, env: { ...process.env, ...env, ...more } });
  await tsx("demo/load.ts");
  say("Loading 200,000 further pieces");
  await tsx("scripts/bench/load.ts");
  const port = await freePort();
  app = await startApp({ port, env, quiet: true });
  await tsx("scripts/bench/measure.ts", { ORIGIN: `http://127.0.0.1:${port}` });
}

async function end() {
  if (app) await endChild(app);
  if (cluster) await cluster.stop();
}
main().then(end, async (error) => {
  await end();
  fail(error);
});
