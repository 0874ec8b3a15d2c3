// `npm run demo`: from a clean checkout to the demo school in the browser. Every step can be repeated:
// what an earlier start left half-done is finished or made again.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { startApp } from "./setup/app.mjs";
import { needBuild } from "./setup/build.mjs";
import { isFree, startCluster } from "./setup/cluster.mjs";
import { FOR_FILES, needDebian, needNpm } from "./setup/packages.mjs";
import { endChild, fail, run, say, Stop } from "./setup/process.mjs";

const options = process.argv.slice(2);
const unknown = options.filter((option) => option !== "--fresh" && option !== "--dev");
const port = Number(process.env.PORT ?? 4300);
const home = path.resolve(process.env.ALMANAC_HOME ?? ".almanac");
const lock = path.join(home, "running");

let app;
let cluster;
let ending = false;

async function end(code) {
  if (ending) return;
  ending = true;
  if (app) await endChild(app);
  if (cluster) await cluster.stop();
  rmSync(lock, { force: true });
  process.exit(code);
}
for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => end(0));

async function main() {
  if (unknown.length > 0)
    throw new Stop(
      `${unknown.join(" ")} is not known here. There is: --fresh (start over with new demo data).`,
    );
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Stop(`PORT is "${process.env.PORT}"; it should be a number from 1 to 65535.`);
  await needDebian("postgresql-15", ...FOR_FILES);
  await needNpm();
  mkdirSync(home, { recursive: true });
  refuseSecond();
  if (!(await isFree(port)))
    throw new Stop(
      `Port ${port} is taken by another program. Choose another: PORT=4301 npm run demo`,
    );
  writeFileSync(lock, String(process.pid));
  const dev = options.includes("--dev");
  if (!dev) await needBuild();
  say("Starting PostgreSQL");
  cluster = await startCluster(home);
  if (options.includes("--fresh")) {
    say("Starting over: the old demo data goes");
    await cluster.dropDatabase("almanac");
  }
  const env = {
    DATABASE_URL: await cluster.database("almanac"),
    ALMANAC_MODE: "demo",
    ALMANAC_DEV: dev ? "1" : "",
    ALMANAC_LOG: process.env.ALMANAC_LOG ?? "warn",
  };
  say("Bringing the database up to date, and the demo school into it if it is empty");
  await run("node_modules/.bin/tsx", ["demo/load.ts"], {
    env: { ...process.env, ...env },
    show: true,
  });
  say("Starting the application");
  app = await startApp({ port, env: dev ? { ...env, NODE_ENV: "development" } : env });
  app.once("exit", (code) => {
    if (!ending) console.error(`The application ended by itself (${code}).`);
    void end(1);
  });
  console.log(`
Almanac is at  http://127.0.0.1:${port}

Sign in with one press from the list on that page, or with a password:
  teacher   odalys.brandt@tern-island.example   · password: tide-gauge
  student   any name from the list              · the same password
Ctrl-C stops it; the data stays. "npm run demo -- --fresh" starts over.
`);
}

/** Two demos on one folder would fight over one cluster. */
function refuseSecond() {
  if (!existsSync(lock)) return;
  const pid = Number(readFileSync(lock, "utf8"));
  try {
    process.kill(pid, 0);
    if (readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("demo.mjs"))
      throw new Stop(
        `A demo is running on ${home} already (process ${pid}). Stop that one first, or set ALMANAC_HOME.`,
      );
  } catch (error) {
    if (error instanceof Stop) throw error;
  }
}

main().catch(async (error) => {
  if (cluster) await cluster.stop();
  rmSync(lock, { force: true });
  fail(error);
});
