import { existsSync } from "node:fs";
import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { peaksOf } from "@/core/speech/peaks";
import type { HeardWord } from "@/core/speech/heard";
import { runJailed } from "./jail";
import { lookAtMedia } from "./tools";

/** What is done with voices, by programs from Debian, all in the jail. @throws ProgramMissing where one is not installed */
const run = (folder: string, args: readonly string[], seconds = 120) =>
  runJailed({
    program: "/usr/bin/ffmpeg",
    args: ["-hide_banner", "-nostats", "-nostdin", "-protocol_whitelist", "file", "-y", ...args],
    folder,
    seconds,
    megabytes: 3000,
  });

/**
 * How loud a recording is, as EBU R 128 measures it: its integrated loudness (ITU-R BS.1770) in LUFS and the highest
 * true peak in dBTP; null where there is nothing to measure (silence, or less than the 0.4 s of one block).
 */
export async function loudnessOf(
  folder: string,
  name: string,
): Promise<{ loudness: number; peak: number } | null> {
  const { output } = await run(folder, [
    "-i",
    name,
    "-map",
    "0:a:0",
    "-af",
    "ebur128=peak=true:framelog=verbose",
    "-f",
    "null",
    "-",
  ]);
  const summary = output.slice(output.lastIndexOf("Summary:"));
  const [loudness, peak] = [
    /I:\s+(-?[\d.]+) LUFS/.exec(summary),
    /Peak:\s+(-?[\d.]+) dBFS/.exec(summary),
  ].map((found) => Number(found?.[1]));
  return Number.isFinite(loudness) && loudness! > -69 && Number.isFinite(peak)
    ? { loudness: loudness!, peak: peak! }
    : null;
}

/** What clips are brought to: a speaking voice that can be heard beside any other. */
export const TARGET = { loudness: -16, peak: -1 } as const;
/** A whisper is lifted, the hiss of an empty room is not. */
const MOST_GAIN = 40;

/** The sound of a recording alone, one channel, whatever it came as; null: there is none, or it cannot be read. */
export async function decodeSound(
  folder: string,
  name: string,
): Promise<{ file: string; seconds: number } | null> {
  // Gaps that a starved machine left are filled, so that times stay those of the clock.
  await run(folder, [
    "-v",
    "error",
    "-i",
    name,
    "-map",
    "0:a:0",
    "-map_metadata",
    "-1",
    "-af",
    "aresample=async=1:first_pts=0",
    "-ac",
    "1",
    "-ar",
    "48000",
    "-c:a",
    "pcm_s16le",
    "decoded.wav",
  ]);
  if (!existsSync(path.join(folder, "decoded.wav"))) return null;
  const seconds = (await lookAtMedia(folder, "decoded.wav"))?.seconds ?? null;
  return seconds === null ? null : { file: "decoded.wav", seconds };
}

export type Levelled = { file: string; seconds: number; loudness: number | null; peaks: number[] };

/**
 * A voice as all others are: brought to the same loudness, its peaks held under the limit, coded as Opus in WebM with
 * its duration and an index. Held peaks take away some loudness, so it is measured and corrected until it fits.
 */
export async function levelSound(folder: string, name: string): Promise<Levelled | null> {
  const decoded = await decodeSound(folder, name);
  if (!decoded) return null;
  const before = await loudnessOf(folder, decoded.file);
  let gain = before ? Math.min(MOST_GAIN, TARGET.loudness - before.loudness) : 0;
  let now = before;
  for (let turn = 0; turn < 4; turn += 1) {
    // True peaks lie between samples: the limiter works on four times as many. Coding adds up to a decibel.
    const filters = `volume=${gain.toFixed(2)}dB,aresample=192000,alimiter=limit=0.75:level=disabled:attack=2:release=60,aresample=48000`;
    const { code } = await run(folder, [
      "-v",
      "error",
      "-i",
      decoded.file,
      "-af",
      filters,
      "-c:a",
      "libopus",
      "-b:a",
      "40k",
      "-application",
      "voip",
      "-cues_to_front",
      "1",
      "levelled.webm",
    ]);
    if (code !== 0) return null;
    now = await loudnessOf(folder, "levelled.webm");
    if (!before || !now || Math.abs(now.loudness - TARGET.loudness) <= 0.5 || gain >= MOST_GAIN)
      break;
    gain = Math.min(MOST_GAIN, gain + TARGET.loudness - now.loudness);
  }
  const seconds = (await lookAtMedia(folder, "levelled.webm"))?.seconds ?? decoded.seconds;
  const samples = await pcm(folder, "levelled.webm", 8000);
  return {
    file: "levelled.webm",
    seconds,
    loudness: now?.loudness ?? null,
    peaks: peaksOf(samples, Math.min(240, Math.max(40, Math.round(seconds * 8)))),
  };
}

async function pcm(folder: string, name: string, rate: number): Promise<Int16Array> {
  const { code } = await run(folder, [
    "-v",
    "error",
    "-i",
    name,
    "-ac",
    "1",
    "-ar",
    String(rate),
    "-f",
    "s16le",
    "samples.raw",
  ]);
  if (code !== 0) return new Int16Array();
  const bytes = await readFile(path.join(folder, "samples.raw"));
  return new Int16Array(bytes.buffer, bytes.byteOffset, Math.floor(bytes.length / 2));
}

const MODEL = "/usr/share/pocketsphinx/model/en-us";
export const SPHINX = {
  model: MODEL,
  dictionary: `${MODEL}/cmudict-en-us.dict`,
  python: "/usr/bin/python3",
  voice: "/usr/bin/flite",
};

/**
 * The words that pocketsphinx hears.
 *
 * @param own a language model of the class's own words (ARPA) with their pronunciations, and how much it counts beside the general one
 * @param onPart told from time to time how much has been heard, from 0 to 1
 */
export async function hearSound(
  folder: string,
  name: string,
  own: { model: string; dictionary: string; share: number } | null,
  onPart: (part: number) => void,
): Promise<HeardWord[]> {
  await run(folder, [
    "-v",
    "error",
    "-i",
    name,
    "-ac",
    "1",
    "-ar",
    "16000",
    "-f",
    "s16le",
    "heard.raw",
  ]);
  if (own) {
    await writeFile(path.join(folder, "own.lm"), own.model);
    await writeFile(
      path.join(folder, "own.dict"),
      `${(await readFile(SPHINX.dictionary, "latin1")).trimEnd()}\n${own.dictionary}`,
      "latin1",
    );
  }
  const look = setInterval(() => {
    void readFile(path.join(folder, "progress"), "utf8")
      .then((text) => onPart(Number(text) || 0))
      .catch(() => {});
  }, 1000);
  try {
    const { code, output } = await runJailed({
      program: SPHINX.python,
      args: [
        "/app/programs/recognise.py",
        MODEL,
        "heard.raw",
        own ? "own.dict" : SPHINX.dictionary,
        ...(own ? ["own.lm", String(own.share)] : []),
      ],
      folder,
      seconds: 1200,
      megabytes: 2500,
      packages: true,
    });
    if (code !== 0) throw new Error(`the recogniser ended with ${code}: ${output.slice(-200)}`);
    return output.split("\n").flatMap((line) => {
      const found = /^(\S+) ([\d.]+) ([\d.]+) ([\d.]+)$/.exec(line);
      return found
        ? [
            {
              word: found[1]!,
              start: Number(found[2]),
              end: Number(found[3]),
              sure: Math.min(1, Number(found[4])),
            },
          ]
        : [];
    });
  } finally {
    clearInterval(look);
  }
}

/** The sounds of English that flite writes and the recogniser's dictionary writes otherwise. */
const PHONES: Readonly<Record<string, string>> = { AX: "AH", AXR: "ER" };

/** How words that the dictionary lacks are pronounced, as lines of a dictionary; flite guesses from their letters. */
export async function pronounce(folder: string, words: readonly string[]): Promise<string> {
  const known = words.filter((word) => /^[a-z']+$/.test(word));
  if (known.length === 0) return "";
  await writeFile(path.join(folder, "unknown.txt"), `${known.join("\n")}\n`);
  const { output } = await runJailed({
    program: "/usr/bin/sh",
    args: ["-c", 'while read -r word; do flite -t "$word" -ps -o none; echo; done < unknown.txt'],
    folder,
    seconds: 60,
    megabytes: 1000,
  });
  const lines = output
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  return (
    lines
      .map(
        (line, n) =>
          `${known[n]} ${line
            .toUpperCase()
            .split(/\s+/)
            .filter((phone) => phone !== "PAU")
            .map((phone) => PHONES[phone] ?? phone)
            .join(" ")}`,
      )
      .filter((line) => line.includes(" "))
      .join("\n") + "\n"
  );
}

/** The words of the recogniser's dictionary; what is not in it has to be pronounced for it. */
export async function knownWords(): Promise<ReadonlySet<string>> {
  const text = await readFile(SPHINX.dictionary, "latin1").catch(() => "");
  return new Set(text.split("\n").map((line) => line.slice(0, line.indexOf(" "))));
}

/** A text spoken by flite, as Opus in WebM; null: nothing in it can be spoken. */
export async function speak(folder: string, text: string, voice: string): Promise<Buffer | null> {
  await writeFile(path.join(folder, "said.txt"), text);
  const { code } = await runJailed({
    program: SPHINX.voice,
    args: ["-voice", voice, "-f", "said.txt", "-o", "said.wav"],
    folder,
    seconds: 60,
    megabytes: 1500,
  });
  if (code !== 0 || !existsSync(path.join(folder, "said.wav"))) return null;
  const levelled = await levelSound(folder, "said.wav");
  return levelled && levelled.seconds > 0.2 ? readFile(path.join(folder, levelled.file)) : null;
}
