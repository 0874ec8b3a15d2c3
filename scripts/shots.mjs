// `npm run shots`: pictures of the main screens for the README, from the demo data at a pinned clock.
import path from "node:path";
import { startApp } from "./setup/app.mjs";
import { needBuild } from "./setup/build.mjs";
import { freePort, startCluster } from "./setup/cluster.mjs";
import { FOR_FILES, needDebian, needNpm } from "./setup/packages.mjs";
import { endChild, fail, run, say } from "./setup/process.mjs";

/** A Wednesday morning in the middle of a term. */
const CLOCK = "2026-10-21T12:41:00Z";

let cluster;
let app;
async function main() {
  await needDebian("postgresql-15", "chromium", "chromium-driver", ...FOR_FILES);
  await needNpm();
  await needBuild();
  say("Starting a cluster for the pictures");
  cluster = await startCluster(path.resolve(".almanac-test"), { durable: false });
  await cluster.dropDatabase("shots");
  const env = {
    DATABASE_URL: await cluster.database("shots"),
    ALMANAC_MODE: "demo",
    ALMANAC_CLOCK: CLOCK,
    ALMANAC_LOG: "silent",
    LANGUAGE: "en_GB",
    LC_ALL: "C.UTF-8",
  };
  const port = await freePort();
  const tsx = (file) =>
    run("node_modules/.bin/tsx", [file], {
      show: true,
      env: { ...process.env, ...env, ORIGIN: `http://127.0.0.1:${port}` },
    });
  await tsx("demo/load.ts");
  app = await startApp({ port, env, quiet: true });
  await tsx("scripts/shots/take.ts");
}

async function end() {
  if (app) await endChild(app);
  if (cluster) await cluster.stop();
}
main().then(end, async (error) => {
  await end();
  fail(error);
});
