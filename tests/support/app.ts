import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import net from "node:net";

export type App = {
  origin: string;
  port: number;
  child: ChildProcess;
  stop: (signal?: NodeJS.Signals) => Promise<void>;
};

/**
 * The built application on a port of its own, answering. (Jest runs CommonJS, so the start scripts'
 * modules cannot be called from here; it is the same server program.)
 */
export async function startApp(
  databaseUrl: string,
  env: Record<string, string> = {},
  chosen?: number,
  /** Where its errors go; a pipe is for whoever reads, or ends, it. */ errors:
    "inherit" | "pipe" = "inherit",
): Promise<App> {
  const port = chosen ?? (await freePort());
  const child = spawn(process.execPath, ["scripts/server.mjs"], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      HOST: "127.0.0.1",
      DATABASE_URL: databaseUrl,
      ALMANAC_MODE: "demo",
      ALMANAC_LOG: "silent",
      ...env,
      PORT: String(port),
    },
    stdio: ["ignore", "ignore", errors],
  });
  const origin = `http://127.0.0.1:${port}`;
  for (const end = Date.now() + 60_000; ;) {
    if (child.exitCode !== null || Date.now() > end)
      throw new Error(`The application did not start (${child.exitCode ?? "no answer"}).`);
    if (
      await fetch(`${origin}/api/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const stop = async (signal: NodeJS.Signals = "SIGTERM") => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill(signal);
    await once(child, "exit");
  };
  return { origin, port, child, stop };
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.listen(0, "127.0.0.1", () => {
      const { port } = server.address() as net.AddressInfo;
      server.close(() => resolve(port));
    });
  });
}
