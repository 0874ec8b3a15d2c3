import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { run, say } from "./process.mjs";

const SOURCES = [
  "src",
  "next.config.ts",
  "postcss.config.mjs",
  "tsconfig.json",
  "package-lock.json",
];
const STAMP = ".next/almanac-build";

/** Builds the application when its sources are not those of the last finished build. */
export async function needBuild() {
  const wanted = digest();
  if (existsSync(STAMP) && readFileSync(STAMP, "utf8") === wanted) return;
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
