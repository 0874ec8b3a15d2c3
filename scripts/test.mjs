// `npm test`: installs what the tests need, then lint, types, unit, database, system, outage and browser tests,
// against a cluster of their own. `npm run test:unit` and the like run one part.
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import path from "node:path";
import { needBuild } from "./setup/build.mjs";
import { startCluster } from "./setup/cluster.mjs";
import { FOR_FILES, FOR_TEST_FILES, needDebian, needNpm } from "./setup/packages.mjs";
import { fail, run, say } from "./setup/process.mjs";

const PARTS = ["lint", "types", "unit", "database", "system", "outage", "browser"];
/** Those that ask the application itself, as it is built. */
const BUILT = ["system", "outage", "browser"];
const WITH_DATABASE = ["database", ...BUILT];
const [only, ...rest] = process.argv.slice(2);
const parts = only ? PARTS.filter((part) => part === only) : PARTS;
const home = path.resolve(".almanac-test");
const RULED = ["--config", ".dependency-cruiser.cjs", "src", "demo", "scripts"];
const node = (...args) => run(process.execPath, args);
const bin = (name) => `node_modules/.bin/${name}`;

let cluster;
/** Where it is. */
let origin;
let passed = 0;
let failed = 0;
const quiet = { NEXT_TELEMETRY_DISABLED: "1", ALMANAC_LOG: "silent" };

/** A check without a test runner counts as one test. */
async function check(name, work) {
  say(name);
  try {
    await work();
    passed += 1;
  } catch (error) {
    failed += 1;
    console.error(error.output ?? error.message);
  }
}

/** Runs one project and says how many passed and failed, and which files have a failure; null without a report. */
async function runJest(project, env, chosen) {
  const report = path.join(home, `${project}.json`);
  rmSync(report, { force: true });
  const args = [
    "--selectProjects",
    project,
    "--json",
    `--outputFile=${report}`,
    // These stop the cluster, so they are alone with it.
    ...(project === "outage" ? ["--runInBand"] : ["--maxWorkers=2"]),
    ...(project === "unit" ? [] : ["--testTimeout=120000"]),
    ...chosen,
  ];
  await run(bin("jest"), args, {
    show: true,
    env: { ...process.env, ...quiet, ...env, NODE_OPTIONS: "--no-warnings" },
  }).catch(() => {});
  try {
    const said = JSON.parse(readFileSync(report, "utf8"));
    return {
      passed: said.numPassedTests,
      failed: said.numFailedTests + said.numRuntimeErrorTestSuites,
      files: said.testResults.filter(({ status }) => status === "failed").map(({ name }) => name),
    };
  } catch {
    return null;
  }
}

/** Files of browser tests that are run a second time, at most: more failures than these are no accident. */
const SECOND_RUNS = 2;

/**
 * A browser, its driver and the application share two processors with whatever else the machine does, and now and then
 * one of them is interrupted for a minute. What failed there is run once more, with a new browser and a new database, and
 * is named either way: a test that passes only then wants a look.
 *
 * @returns the result with the second run in it
 */
async function onceMore(project, env, result) {
  const { files } = result;
  if (project !== "browser" || files.length === 0 || files.length > SECOND_RUNS) return result;
  const names = files.map((file) => path.basename(file)).join(", ");
  say(`Once more: ${names}`);
  const second = await runJest(project, env, ["--runTestsByPath", ...files]);
  if (second?.failed !== 0) return result;
  say(`Passed only the second time: ${names}`);
  return { ...result, passed: result.passed + result.failed, failed: 0 };
}

async function jest(project, env = {}) {
  say(`Tests: ${project}`);
  const result = await runJest(project, env, rest);
  if (result === null) {
    failed += 1;
    console.error(`The ${project} tests gave no report.`);
    return;
  }
  const counted = await onceMore(project, env, result);
  passed += counted.passed;
  failed += counted.failed;
}

/** Two databases that tests copy: one empty, one with the demo school. */
async function templates(cluster) {
  const fresh = async (name) => {
    await cluster.dropDatabase(name);
    return cluster.database(name);
  };
  const empty = await fresh("almanac_template");
  await run(bin("tsx"), ["scripts/migrate.ts"], { env: { ...process.env, DATABASE_URL: empty } });
  const demo = await fresh("almanac_demo");
  await run(bin("tsx"), ["demo/load.ts"], {
    env: { ...process.env, DATABASE_URL: demo, ALMANAC_MODE: "test" },
  });
  // What its files are shown as is made here once, and not again behind every test that opens the application.
  await run(bin("tsx"), ["tests/support/runJobs.ts", new Date().toISOString()], {
    env: { ...process.env, ...quiet, DATABASE_URL: demo, ALMANAC_MODE: "test" },
  });
  return empty.replace(/\/almanac_template$/, "");
}

/** The compiler first, since a build would only say the same later and worse; both write into .next. */
async function typesThenBuild(isBuilt) {
  if (parts.includes("types"))
    await check("Types", async () => {
      await run(bin("next"), ["typegen"], { env: { ...process.env, ...quiet } });
      await run(bin("tsc"), ["--noEmit", "-p", "."]);
    });
  if (isBuilt) await needBuild();
}

/** Starts the cluster, with the databases that tests copy. */
async function startWithTemplates() {
  say("Starting a cluster for the tests");
  cluster = await startCluster(home, { durable: false });
  origin = await templates(cluster);
}

async function main() {
  if (only && parts.length === 0)
    throw new Error(`There is no part "${only}". There is: ${PARTS.join(", ")}.`);
  const isBuilt = parts.some((part) => BUILT.includes(part));
  const withDatabase = parts.some((part) => WITH_DATABASE.includes(part));
  await needNpm();
  await needDebian(
    ...(withDatabase ? ["postgresql-15", ...FOR_FILES, ...FOR_TEST_FILES] : []),
    ...(parts.includes("browser") ? ["chromium", "chromium-driver"] : []),
  );
  const started = Date.now();
  mkdirSync(home, { recursive: true });
  // Each of these keeps one core busy.
  await Promise.all([
    parts.includes("lint") &&
      check("Format", () => run(bin("prettier"), ["--check", "."]))
        .then(() => check("Lint", () => run(bin("eslint"), ["--max-warnings=0", "."])))
        .then(() => check("Boundaries between the rooms", () => run(bin("depcruise"), RULED)))
        .then(() => check("Circles between folders", () => node("scripts/folderCircles.mjs")))
        .then(() => check("Answers of the API", () => node("scripts/apiAnswers.mjs", "--check"))),
    typesThenBuild(isBuilt).then(() => (withDatabase ? startWithTemplates() : null)),
  ]);
  if (parts.includes("unit")) await jest("unit");
  if (withDatabase) {
    for (const part of WITH_DATABASE)
      if (parts.includes(part)) await jest(part, { ALMANAC_TEST_CLUSTER: origin });
    await cluster.stop();
  }
  say(`Took ${Math.round((Date.now() - started) / 1000)} s`);
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed > 0 ? 1 : 0);
}

for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => Promise.resolve(cluster?.stop()).then(() => process.exit(130)));
main().catch(async (error) => {
  await cluster?.stop();
  fail(error);
});
