// `node scripts/demoFiles.mjs`: makes the sound and film of the demo anew (they ship in demo/files). Needs espeak-ng and
// ffmpeg from Debian; everything that is said is invented.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";

const folder = mkdtempSync(path.join(os.tmpdir(), "almanac-files-"));
const run = (program, ...args) => execFileSync(program, args, { stdio: "inherit" });

const FORECASTS = [
  "Good evening. Here is the shipping forecast for the waters around the island. Sound of Terns, south westerly five to seven, rain at times, good. Outer Skerries, northerly three, fair, good. Mind the swell at the harbour mouth.",
  "This is the forecast for tonight. Cannery Reach, westerly four or five, showers, moderate. Lighthouse Bank, variable three or less, drizzle and fog, very poor. Good night, and tie everything down.",
  "Hello. Um, this is my forecast. Ferry Roads, easterly four. Rain later. It will be bumpy. That is all until the morning, sleep well.",
];
FORECASTS.forEach((words, n) => {
  const wav = path.join(folder, `${n}.wav`);
  run("espeak-ng", "-v", "en", "-s", "150", "-p", String(45 + n * 15), "-w", wav, words);
  // As a browser's recorder writes it: without a duration.
  run(
    "ffmpeg",
    "-v",
    "error",
    "-y",
    "-i",
    wav,
    "-c:a",
    "libopus",
    "-b:a",
    "20k",
    "-live",
    "1",
    "-f",
    "webm",
    `demo/files/forecast-${n + 1}.webm`,
  );
});

// A gauge that fills: six seconds, drawn.
const frames = Array.from(
  { length: 12 },
  (_, n) =>
    `drawbox=x=133:y=${205 - n * 11}:w=54:h=${n * 11 + 3}:color=0x0a5f6b@0.6:t=fill:enable='between(t,${n / 2},${(n + 1) / 2})'`,
).join(",");
run(
  "ffmpeg",
  "-v",
  "error",
  "-y",
  "-f",
  "lavfi",
  "-i",
  "color=c=0xfaf6ee:s=320x240:d=6:r=10",
  "-f",
  "lavfi",
  "-i",
  "anoisesrc=d=6:c=brown:a=0.12",
  "-vf",
  `drawbox=x=130:y=40:w=60:h=170:color=0x211d17:t=3,${frames}`,
  "-c:v",
  "libvpx",
  "-b:v",
  "120k",
  "-c:a",
  "libopus",
  "-b:a",
  "20k",
  "demo/files/rain-gauge.webm",
);
rmSync(folder, { recursive: true });
