import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { run, say, Stop } from "./process.mjs";
import { alone, servers } from "./running.mjs";

const SOURCES = [
  "src",
  "next.config.ts",
  "postcss.config.mjs",
  "tsconfig.json",
  "package-lock.json",
];
const STAMP = ".next/almanac-build";

/**
 * Builds the application when its sources are not those of the last finished build. Two that start at once build
 * once; and files that a running server reads are not taken from under it.
 */
export const needBuild = () => alone("build", build);

async function build() {
  const wanted = digest();
  if (existsSync(STAMP) && readFileSync(STAMP, "utf8") === wanted) return;
  const serving = servers();
  if (serving.length > 0)
    throw new Stop(
      `A server runs from this folder (process ${serving.join(", ")}), and the sources have changed since it was built. Stop it first, or start from another folder.`,
    );
  say("Building the application (about a minute)");
  rmSync(STAMP, { force: true });
  await run("node_modules/.bin/next", ["build"], {
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", NODE_ENV: "production" },
  });
  writeFileSync(STAMP, wanted);
}

function digest() {
  const hash = createHash("sha256");
  const walk = (file) => {
    if (statSync(file).isDirectory())
      for (const name of readdirSync(file).sort()) walk(path.join(file, name));
    // Tests and migrations are not part of what is built.
    else if (!/\.(test|testing)\.tsx?$|\.sql$/.test(file))
      hash.update(file).update(readFileSync(file));
  };
  SOURCES.forEach(walk);
  return hash.digest("hex");
}
