import { spawn } from "node:child_process";
import { Stop, waitUntil } from "./process.mjs";

/** Where a server that listens on `host` is reached from this machine. */
function reachedAt(host = "127.0.0.1") {
  if (host === "0.0.0.0" || host === "::") return "127.0.0.1";
  return host.includes(":") ? `[${host}]` : host;
}

/**
 * Starts the application and waits until it answers.
 *
 * @param {{ port: number, env: Record<string, string>, quiet?: boolean, seconds?: number, script?: string }} options
 */
export async function startApp({
  port,
  env,
  quiet = false,
  seconds = 60,
  script = "scripts/server.mjs",
}) {
  const child = spawn(process.execPath, [script], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      HOST: "127.0.0.1",
      ...env,
      PORT: String(port),
    },
    stdio: ["ignore", quiet ? "pipe" : "inherit", quiet ? "pipe" : "inherit"],
  });
  const kept = [];
  child.stdout?.on("data", (data) => kept.push(data) > 400 && kept.shift());
  child.stderr?.on("data", (data) => kept.push(data) > 400 && kept.shift());
  child.output = () => Buffer.concat(kept).toString();
  try {
    await waitUntil(
      async () => {
        if (child.exitCode !== null)
          throw new Stop(`The application ended while starting.\n${child.output()}`);
        return fetch(`http://${reachedAt(env.HOST)}:${port}/api/health`).then(
          (answer) => answer.ok,
          () => false,
        );
      },
      "The application",
      seconds,
    );
  } catch (error) {
    // A start that failed leaves no server behind that holds the port.
    child.kill("SIGKILL");
    throw error;
  }
  return child;
}
