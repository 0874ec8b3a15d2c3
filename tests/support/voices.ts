import { execFile } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import type { Sql } from "../../src/server/db/connection";

/** Voices for tests: spoken by flite from Debian, bent by ffmpeg. */
const run = promisify(execFile);

async function inTemporary<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-voice-"));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A sentence as a WAV file. */
export const spoken = (text: string, voice = "rms"): Promise<Buffer> =>
  inTemporary(async (folder) => {
    await run("flite", ["-voice", voice, "-t", text, "-o", path.join(folder, "said.wav")]);
    return readFile(path.join(folder, "said.wav"));
  });

/** A recording bent: its filters, rate and channels, and the format it is coded in. */
export const bent = (
  wav: Buffer,
  {
    filters = "anull",
    rate = 48_000,
    channels = 1,
    format = "webm",
  }: {
    filters?: string;
    rate?: number;
    channels?: number;
    format?: "webm" | "wav" | "mp4" | "ogg" | "mp3";
  },
): Promise<Buffer> =>
  inTemporary(async (folder) => {
    const [from, to] = [path.join(folder, "in.wav"), path.join(folder, `out.${format}`)];
    await writeFile(from, wav);
    // As a browser's recorder writes it: a stream without a duration.
    const coding = {
      webm: ["-c:a", "libopus", "-b:a", "48k", "-live", "1"],
      wav: ["-c:a", "pcm_s16le"],
      mp4: ["-c:a", "aac", "-movflags", "frag_keyframe+empty_moov"],
      ogg: ["-c:a", "libopus"],
      mp3: ["-c:a", "libmp3lame"],
    }[format];
    await run("ffmpeg", [
      "-v",
      "error",
      "-i",
      from,
      "-af",
      filters,
      "-ar",
      String(format === "webm" || format === "ogg" ? 48_000 : rate),
      "-ac",
      String(channels),
      ...coding,
      to,
    ]);
    return readFile(to);
  });

/** The samples of any sound, one channel at 48 kHz, from -1 to 1. */
export const samplesOf = (bytes: Buffer): Promise<Float64Array> =>
  inTemporary(async (folder) => {
    await writeFile(path.join(folder, "in"), bytes);
    await run("ffmpeg", [
      "-v",
      "error",
      "-i",
      path.join(folder, "in"),
      "-ac",
      "1",
      "-ar",
      "48000",
      "-f",
      "f64le",
      path.join(folder, "out.raw"),
    ]);
    const raw = await readFile(path.join(folder, "out.raw"));
    return new Float64Array(
      raw.buffer.slice(raw.byteOffset, raw.byteOffset + Math.floor(raw.length / 8) * 8),
    );
  });

/** A clip as if it had been recorded, levelled and heard, without any sound worth hearing. */
export async function putVoice(
  sql: Sql,
  {
    pieceId,
    madeBy,
    words,
    now,
  }: { pieceId: string | null; madeBy: string; words: string; now: Date },
): Promise<string> {
  const bytes = Buffer.from(`a voice that says ${words} ${crypto.randomUUID()}`);
  const sha256 = createHash("sha256").update(bytes).digest();
  const heard = words
    .split(" ")
    .map((word, n) => ({ word, start: n / 2, end: n / 2 + 0.4, sure: 0.9 }));
  await sql`
    insert into sound (sha256, media_type, raw, state, made, seconds, peaks, heard_state, heard, changed_at)
    values (${sha256}, 'audio/webm', ${bytes}, 'made', ${bytes}, ${heard.length / 2}, '[50]', 'made', ${sql.json(heard)}, ${now})`;
  const id = crypto.randomUUID();
  await sql`insert into clip ${sql({ id, sha256, pieceId, madeBy, madeAt: now })}`;
  return id;
}

/** Words that are wrong, missing or too many, over the words said: the usual word error rate (Levenshtein's distance over words). */
export function wordErrorRate(said: string, heard: string): number {
  const words = (text: string) =>
    text
      .toLowerCase()
      .replace(/[^\p{L}\p{N}' ]/gu, " ")
      .split(/\s+/)
      .filter(Boolean);
  const [a, b] = [words(said), words(heard)];
  let row = Array.from({ length: b.length + 1 }, (_, n) => n);
  a.forEach((word, i) => {
    const next = [i + 1];
    b.forEach((other, j) =>
      next.push(Math.min(row[j + 1]! + 1, next[j]! + 1, row[j]! + (word === other ? 0 : 1))),
    );
    row = next;
  });
  return row[b.length]! / a.length;
}
