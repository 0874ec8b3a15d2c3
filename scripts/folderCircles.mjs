// Folders of one room that need each other in a circle are one thing in several places: this names them and fails.
// Types alone do not count, nor do tests.
import { execFileSync } from "node:child_process";

const ROOMS = /^src\/(core|server|ui)\/([^/]+)\//;
const isTest = (file) => /\.(test|testing)\.tsx?$/.test(file);
const folderOf = (file) => ROOMS.exec(file)?.[0].slice(0, -1) ?? null;

/** Which folder needs which other of its room, with one import that shows it. */
function edgesOf(modules) {
  const edges = new Map();
  for (const { source, dependencies } of modules) {
    const from = folderOf(source);
    if (!from || isTest(source)) continue;
    for (const { resolved, dependencyTypes } of dependencies) {
      const to = folderOf(resolved);
      const elsewhere = !to || to === from || to.split("/")[1] !== from.split("/")[1];
      if (elsewhere || isTest(resolved) || dependencyTypes.includes("type-only")) continue;
      const known = edges.get(from) ?? new Map();
      if (!known.has(to)) known.set(to, `${source} → ${resolved}`);
      edges.set(from, known);
    }
  }
  return edges;
}

/** The shortest way from a folder back to itself; null where there is none. */
function circleFrom(start, edges) {
  const ways = [[start]];
  const seen = new Set();
  for (const way of ways) {
    for (const next of edges.get(way.at(-1))?.keys() ?? []) {
      if (next === start) return [...way, start];
      if (seen.has(next)) continue;
      seen.add(next);
      ways.push([...way, next]);
    }
  }
  return null;
}

const cruised = execFileSync(
  "node_modules/.bin/depcruise",
  ["--config", ".dependency-cruiser.cjs", "--output-type", "json", "src"],
  { encoding: "utf8", maxBuffer: 256 * 2 ** 20 },
);
const edges = edgesOf(JSON.parse(cruised).modules);
const told = new Set();
for (const folder of [...edges.keys()].sort()) {
  const circle = circleFrom(folder, edges);
  if (!circle || circle.some((f) => told.has(f))) continue;
  circle.forEach((f) => told.add(f));
  console.error(`Folders in a circle: ${circle.join(" → ")}`);
  circle.slice(1).forEach((to, n) => console.error(`  ${edges.get(circle[n]).get(to)}`));
}
if (told.size > 0) process.exit(1);
