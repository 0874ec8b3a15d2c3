import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";

/**
 * Runs a program on a file that may be hostile: without a network, seeing nothing of the machine but programs
 * and fonts, with limits of memory, time and what it writes (bubblewrap and prlimit from Debian). The folder
 * given is all it can change; inside it is /work.
 */
export type JailRun = {
  program: string;
  args: readonly string[];
  folder: string;
  seconds: number;
  megabytes: number;
  /** Read-only beside /usr: the application's own packages. */ packages?: boolean;
};
export type JailEnd = { code: number | null; timedOut: boolean; output: string };

/** The program, or the jail itself, is not on this machine: what needs it is left out, and says so. */
export class ProgramMissing extends Error {}

const BWRAP = "/usr/bin/bwrap";
const MOST_OUTPUT = 8_000_000;

export async function runJailed({
  program,
  args,
  folder,
  seconds,
  megabytes,
  packages,
}: JailRun): Promise<JailEnd> {
  if (!existsSync(BWRAP) || !existsSync(program))
    throw new ProgramMissing(existsSync(BWRAP) ? program : BWRAP);
  const binds = [
    "/etc/fonts",
    "/etc/libreoffice",
    "/etc/alternatives",
    "/var/cache/fontconfig",
    "/opt",
  ].flatMap((dir) => ["--ro-bind-try", dir, dir]);
  const own = packages
    ? [
        "--ro-bind-try",
        path.dirname(process.execPath),
        path.dirname(process.execPath),
        "--ro-bind",
        path.join(process.cwd(), "node_modules"),
        "/app/node_modules",
        "--ro-bind",
        path.join(process.cwd(), "src/server/programs"),
        "/app/programs",
      ]
    : [];
  const jail = [
    "--unshare-all",
    "--die-with-parent",
    "--new-session",
    "--clearenv",
    "--setenv",
    "HOME",
    "/tmp",
    "--setenv",
    "PATH",
    "/usr/bin:/bin",
    "--setenv",
    "LANG",
    "C.UTF-8",
    "--ro-bind",
    "/usr",
    "/usr",
    "--symlink",
    "usr/bin",
    "/bin",
    "--symlink",
    "usr/lib",
    "/lib",
    "--symlink",
    "usr/lib64",
    "/lib64",
    "--proc",
    "/proc",
    "--dev",
    "/dev",
    "--tmpfs",
    "/tmp",
    ...binds,
    ...own,
    "--bind",
    folder,
    "/work",
    "--chdir",
    "/work",
  ];
  const limits = [
    "/usr/bin/prlimit",
    `--as=${megabytes * 1_000_000}`,
    `--cpu=${seconds}`,
    "--fsize=1000000000",
    "--core=0",
    "--",
  ];
  return new Promise((resolve, reject) => {
    // A group of its own: programs that leave children behind (soffice) are ended with them.
    const child = spawn(BWRAP, [...jail, ...limits, program, ...args], {
      stdio: ["ignore", "pipe", "pipe"],
      detached: true,
    });
    const end = () => {
      try {
        process.kill(-child.pid!, "SIGKILL");
      } catch {
        // It has ended by itself.
      }
    };
    let timedOut = false;
    const timer = setTimeout(() => {
      timedOut = true;
      end();
    }, seconds * 1000);
    const parts: Buffer[] = [];
    let size = 0;
    const keep = (data: Buffer) => {
      if ((size += data.length) > MOST_OUTPUT) end();
      else parts.push(data);
    };
    child.stdout.on("data", keep);
    child.stderr.on("data", keep);
    child.on("error", reject);
    child.on("close", (code) => {
      clearTimeout(timer);
      end();
      const output = Buffer.concat(parts).toString();
      if (code !== 0 && /^bwrap: /m.test(output) && !/execvp/.test(output))
        return reject(new ProgramMissing(output.split("\n")[0]));
      resolve({ code, timedOut, output });
    });
  });
}

/** A folder for one piece of work, gone afterwards whatever happens. */
export async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-"));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
