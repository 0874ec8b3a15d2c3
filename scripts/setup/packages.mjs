import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { run, say, Stop } from "./process.mjs";

/** What Almanac needs from Debian, and the file that shows that it is there. */
const DEBIAN = {
  "postgresql-15": "/usr/lib/postgresql/15/bin/postgres",
  chromium: "/usr/bin/chromium",
  "chromium-driver": "/usr/bin/chromedriver",
  // What looks into files that students hand in, and makes pages and recordings from them; all of it jailed.
  bubblewrap: "/usr/bin/bwrap",
  "poppler-utils": "/usr/bin/pdfinfo",
  ffmpeg: "/usr/bin/ffmpeg",
  "libreoffice-writer-nogui": "/usr/lib/libreoffice/program/libswlo.so",
  "libreoffice-impress-nogui": "/usr/lib/libreoffice/program/libsdlo.so",
  "libreoffice-calc-nogui": "/usr/lib/libreoffice/program/libsclo.so",
  "fonts-liberation": "/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf",
  "fonts-crosextra-carlito": "/usr/share/fonts/truetype/crosextra/Carlito-Regular.ttf",
  // What writes down what is said, and reads texts aloud.
  libpocketsphinx3: `/usr/lib/${process.arch === "arm64" ? "aarch64" : "x86_64"}-linux-gnu/libpocketsphinx.so.3`,
  "pocketsphinx-en-us": "/usr/share/pocketsphinx/model/en-us/en-us.lm.bin",
  python3: "/usr/bin/python3",
  flite: "/usr/bin/flite",
  // Makes and checks files in tests only.
  "libheif-examples": "/usr/bin/heif-enc",
  qpdf: "/usr/bin/qpdf",
};

/** What the application itself needs to take every kind of work, and to hear and speak. */
export const FOR_FILES = [
  "bubblewrap",
  "poppler-utils",
  "ffmpeg",
  "libreoffice-writer-nogui",
  "libreoffice-impress-nogui",
  "libreoffice-calc-nogui",
  "fonts-liberation",
  "fonts-crosextra-carlito",
  "libpocketsphinx3",
  "pocketsphinx-en-us",
  "python3",
  "flite",
];
export const FOR_TEST_FILES = ["libheif-examples", "qpdf"];

/** Installs missing Debian packages, as root or through sudo; otherwise says which they are. */
export async function needDebian(...names) {
  const missing = names.filter((name) => !existsSync(DEBIAN[name]));
  if (missing.length === 0) return;
  const root = process.getuid() === 0;
  const sudo =
    !root &&
    (await run("sudo", ["-n", "true"]).then(
      () => true,
      () => false,
    ));
  if (!root && !sudo)
    throw new Stop(
      `Almanac needs ${missing.join(" and ")} from Debian. Ask someone who may: apt-get install ${missing.join(" ")}`,
    );
  say(`Installing ${missing.join(" and ")} from Debian (a minute or two)`);
  const apt = (...args) => {
    const options = ["-o", "DPkg::Lock::Timeout=300", "-o", "Acquire::Retries=3", ...args];
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    // Debian's package would start a cluster of its own beside ours.
    return root
      ? run("apt-get", options, { env })
      : run("sudo", ["-n", "DEBIAN_FRONTEND=noninteractive", "apt-get", ...options]);
  };
  await apt("update", "-q");
  await apt("install", "-y", "-q", "--no-install-recommends", ...missing);
  const still = missing.filter((name) => !existsSync(DEBIAN[name]));
  if (still.length > 0)
    throw new Stop(
      `After installing, ${still.join(" and ")} is still not where Debian 12 puts it.`,
    );
}

/** Installs the npm packages of the lock file, unless just those are installed already. */
export async function needNpm() {
  const lock = createHash("sha256").update(readFileSync("package-lock.json")).digest("hex");
  const stamp = "node_modules/.almanac-installed";
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  say("Installing npm packages (about a minute)");
  // Not `npm ci`: where a registry lacks an optional package for another system, npm leaves it out of
  // the lock and then refuses the lock as incomplete.
  await run("npm", ["install", "--no-audit", "--no-fund", "--no-save", "--loglevel=error"]);
  const after = createHash("sha256").update(readFileSync("package-lock.json")).digest("hex");
  if (after !== lock) say("npm has changed package-lock.json; commit it if that was meant");
  writeFileSync(stamp, after);
}
