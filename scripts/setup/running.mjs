import {
  mkdirSync,
  openSync,
  closeSync,
  readdirSync,
  rmSync,
  writeSync,
  readFileSync,
} from "node:fs";
import path from "node:path";

/** Who serves from this folder, and who builds in it: one small file for each, named by its process. */
const FOLDER = ".almanac-running";

/** Notes that this process serves from the folder's build, as long as it lives. */
export function noteServer() {
  mkdirSync(FOLDER, { recursive: true });
  const file = path.join(FOLDER, `server-${process.pid}`);
  closeSync(openSync(file, "w"));
  process.on("exit", () => rmSync(file, { force: true }));
}

/** Processes that serve from here and are alive; notes of those that are not go. */
export function servers() {
  mkdirSync(FOLDER, { recursive: true });
  return readdirSync(FOLDER)
    .filter((name) => name.startsWith("server-"))
    .map((name) => ({ name, pid: Number(name.slice("server-".length)) }))
    .filter(({ name, pid }) => {
      if (isOurs(pid, "server.mjs")) return true;
      rmSync(path.join(FOLDER, name), { force: true });
      return false;
    })
    .map(({ pid }) => pid);
}

/** Does something that only one process may do at a time; others wait until it is done, or its process is gone. */
export async function alone(name, act) {
  mkdirSync(FOLDER, { recursive: true });
  const file = path.join(FOLDER, name);
  while (!take(file)) await new Promise((later) => setTimeout(later, 300));
  const leave = () => rmSync(file, { force: true });
  process.once("exit", leave);
  try {
    return await act();
  } finally {
    process.off("exit", leave);
    leave();
  }
}

function take(file) {
  try {
    const handle = openSync(file, "wx");
    writeSync(handle, String(process.pid));
    closeSync(handle);
    return true;
  } catch (error) {
    if (error.code !== "EEXIST") throw error;
    return takeOver(file);
  }
}

/** A lock whose process is gone is nobody's. One that says nothing yet was just made. */
function takeOver(file) {
  const holder = readOrNothing(file);
  if (holder !== null && (holder === "" || isOurs(Number(holder), "scripts/"))) return false;
  rmSync(file, { force: true });
  return false;
}

function readOrNothing(file) {
  try {
    return readFileSync(file, "utf8");
  } catch {
    return null;
  }
}

/** Whether a process of that number lives and is one of these programs: numbers are given out again. */
function isOurs(pid, program) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(program);
  } catch {
    return false;
  }
}
