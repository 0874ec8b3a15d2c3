import { spawn } from "node:child_process";

/** One step of a start, said in words as it happens. */
export function say(text) {
  console.log(`· ${text}`);
}

/** An error that is a sentence for the person at the terminal, without a stack. */
export class Stop extends Error {}

/** Ends the script with the sentence of a Stop, or with the whole of a bug. */
export function fail(error) {
  console.error(error instanceof Stop ? `\n${error.message}` : error);
  process.exit(1);
}

/** Programs under way; none outlives the script that started it. */
const running = new Set();
process.on("exit", () => running.forEach((child) => child.kill()));

/**
 * Runs a program to its end. Output goes to the terminal when `show` is set, otherwise it is kept and
 * given back; it stands in the error when the program fails.
 *
 * @returns {Promise<string>} what it printed
 */
export function run(
  program,
  args,
  { show = false, env = process.env, cwd = process.cwd(), input } = {},
) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      env,
      cwd,
      stdio: [
        input === undefined ? "ignore" : "pipe",
        show ? "inherit" : "pipe",
        show ? "inherit" : "pipe",
      ],
    });
    running.add(child);
    child.once("exit", () => running.delete(child));
    const kept = [];
    child.stdout?.on("data", (data) => kept.push(data));
    child.stderr?.on("data", (data) => kept.push(data));
    if (input !== undefined) child.stdin.end(input);
    child.on("error", (error) =>
      reject(new Stop(`${program} could not be started: ${error.message}`)),
    );
    child.on("exit", (code, signal) => {
      const output = Buffer.concat(kept).toString();
      if (code === 0) resolve(output);
      else
        reject(
          Object.assign(
            new Stop(
              `${program} ${args.join(" ")} ended with ${signal ?? code}.\n${output.slice(-4000)}`,
            ),
            { code, output },
          ),
        );
    });
  });
}

/** Asks `ready` again and again until it answers true. */
export async function waitUntil(ready, what, seconds) {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    if (await ready()) return;
    if (Date.now() > end) throw new Stop(`${what} was not ready after ${seconds} seconds.`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** Ends a child process: asks first, and insists after ten seconds. */
export async function endChild(child, signal = "SIGTERM") {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once("exit", resolve));
  child.kill(signal);
  const insist = setTimeout(() => child.kill("SIGKILL"), 10_000);
  await gone;
  clearTimeout(insist);
}
