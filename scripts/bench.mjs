// `npm run bench`: measures a production build with 200,000 further pieces in the database, in one run,
// and writes the table into docs/bench.md; `-- --school` a school of 3,000 beside the demo's, into docs/bench-school.md. Ratios mean more than milliseconds: machines differ.
import { rmSync } from "node:fs";
import path from "node:path";
import { startApp } from "./setup/app.mjs";
import { needBuild } from "./setup/build.mjs";
import { freePort, startCluster } from "./setup/cluster.mjs";
import { FOR_FILES, needDebian, needNpm } from "./setup/packages.mjs";
import { endChild, fail, run, say } from "./setup/process.mjs";

const FOLDER = path.resolve(".almanac-test");
const LINES = path.join(FOLDER, "bench-two.txt");
const LOOP = path.join(FOLDER, "bench-loop.txt");
let cluster;
let app;
async function main() {
  await needDebian("postgresql-15", "chromium", "chromium-driver", ...FOR_FILES);
  await needNpm();
  await needBuild();
  say("Starting a cluster for the measurements");
  cluster = await startCluster(path.join(FOLDER, "bench"));
  await cluster.dropDatabase("bench");
  const env = {
    DATABASE_URL: await cluster.database("bench"),
    ALMANAC_MODE: "demo",
    ALMANAC_LOG: "silent",
  };
  const tsx = (file, more = {}) =>
    run("node_modules/.bin/tsx", [file], { show: true, env: { ...process.env, ...env, ...more } });
  await tsx("demo/load.ts");
  const begin = async (more) => {
    const port = await freePort();
    app = await startApp({ port, quiet: true, ...more, env: { ...env, ...more.env } });
    return `http://127.0.0.1:${port}`;
  };
  if (process.argv.includes("--school")) return school(env, tsx);
  say("Loading 200,000 further pieces with what pieces hold (some minutes)");
  await tsx("scripts/bench/load.ts");
  rmSync(LOOP, { force: true });
  say("A school at work, on two processes");
  const two = await begin({ script: "scripts/bench/twoProcesses.mjs" });
  const words = "two processes behind one port";
  await tsx("scripts/bench/mixedAlone.ts", { ORIGIN: two, LINES, WORDS: words });
  await endChild(app);
  say("All the rest, on one");
  const loop = {
    ALMANAC_BENCH_LOOP: LOOP,
    NODE_OPTIONS: `--import ${path.resolve("scripts/bench/eventLoop.mjs")}`,
  };
  const ORIGIN = await begin({ env: loop });
  await tsx("scripts/bench/measure.ts", { ORIGIN, LINES, LOOP, APP_PID: String(app.pid) });
}

/** The same pages with the demo alone and with a school of 3,000 around it. */
async function school(env, tsx) {
  const KEPT = path.join(FOLDER, "bench-school.json");
  const measure = async (PHASE, more = {}) => {
    const port = await freePort();
    app = await startApp({ port, quiet: true, env });
    await tsx("scripts/bench/school.ts", {
      ...{ ORIGIN: `http://127.0.0.1:${port}`, KEPT, PHASE, APP_PID: String(app.pid) },
      ...more,
    });
    await endChild(app);
  };
  say("The demo's school");
  await measure("demo");
  say("Loading a school of 3,000 with 600,000 pieces (some minutes)");
  const began = Date.now();
  await tsx("scripts/bench/load.ts", { ALMANAC_BENCH_SIZE: "school" });
  const LOADED = String(Math.round((Date.now() - began) / 1000));
  say(`Loaded in ${LOADED} s; the same with it`);
  await measure("school", { LOADED });
}

async function end() {
  if (app) await endChild(app);
  if (cluster) await cluster.stop();
}
main().then(end, async (error) => {
  await end();
  fail(error);
});
