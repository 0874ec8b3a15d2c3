import { existsSync } from "node:fs";
import { readdir, readFile, rename } from "node:fs/promises";
import path from "node:path";
import { runJailed } from "./jail";

/**
 * The programs from Debian that look into files and make others from them, each as one function. All run in the
 * jail. @throws ProgramMissing where one is not installed
 */

/** What a PDF is: its pages, or why it cannot be opened. */
export async function lookAtPdf(
  folder: string,
  name: string,
): Promise<{ pages: number } | { fault: "password" | "broken" }> {
  const { code, output } = await runJailed({
    program: "/usr/bin/pdfinfo",
    args: [name],
    folder,
    seconds: 20,
    megabytes: 1500,
  });
  if (/Incorrect password/i.test(output)) return { fault: "password" };
  const pages = /^Pages:\s+(\d+)/m.exec(output);
  return code === 0 && pages && Number(pages[1]) > 0
    ? { pages: Number(pages[1]) }
    : { fault: "broken" };
}

export type Media = {
  seconds: number | null;
  film: boolean;
  sound: boolean;
  width: number | null;
  height: number | null;
  format: string;
  codecs: string[];
};

/** What a recording holds; null: nothing that can be played, or its end is missing. */
export async function lookAtMedia(folder: string, name: string): Promise<Media | null> {
  const { code, output } = await runJailed({
    program: "/usr/bin/ffprobe",
    args: [
      "-v",
      "quiet",
      "-print_format",
      "json",
      "-show_format",
      "-show_streams",
      "-protocol_whitelist",
      "file",
      name,
    ],
    folder,
    seconds: 60,
    megabytes: 3000,
  });
  if (code !== 0) return null;
  const read = JSON.parse(output) as {
    format?: { duration?: string; format_name?: string };
    streams?: {
      codec_type: string;
      codec_name?: string;
      width?: number;
      height?: number;
      duration?: string;
      disposition?: { attached_pic?: number };
    }[];
  };
  const streams = (read.streams ?? []).filter((s) => s.disposition?.attached_pic !== 1);
  const film = streams.find((s) => s.codec_type === "video");
  const sound = streams.find((s) => s.codec_type === "audio");
  if (!film && !sound) return null;
  const seconds = Number(read.format?.duration ?? film?.duration ?? sound?.duration);
  return {
    seconds: Number.isFinite(seconds) && seconds > 0 ? seconds : null,
    film: film !== undefined,
    sound: sound !== undefined,
    width: film?.width ?? null,
    height: film?.height ?? null,
    format: read.format?.format_name ?? "",
    codecs: streams.map((s) => s.codec_name ?? ""),
  };
}

const ffmpeg = (folder: string, args: readonly string[], seconds: number) =>
  runJailed({
    program: "/usr/bin/ffmpeg",
    args: ["-v", "error", "-nostdin", "-protocol_whitelist", "file", ...args],
    folder,
    seconds,
    megabytes: 4000,
  });

/** What browsers play as it is; everything else is coded anew. */
const PLAYS = new Set([
  "opus",
  "vorbis",
  "vp8",
  "vp9",
  "av1",
  "h264",
  "aac",
  "mp3",
  "flac",
  "pcm_s16le",
]);

/**
 * The same recording with its duration and an index to wind by, so that it plays at once and from anywhere: its
 * streams as they are where browsers play them, otherwise coded anew.
 */
export async function makePlayable(
  folder: string,
  name: string,
  { codecs, film, format }: Media,
): Promise<{ file: string; mediaType: string } | null> {
  const webm =
    /webm|matroska/.test(format) ||
    codecs.some((c) => c === "opus" || c === "vorbis" || c.startsWith("vp"));
  const copies = codecs.every((c) => PLAYS.has(c));
  const plain = copies && /^(mp3|wav|flac|ogg)$/.test(format);
  if (plain && !webm) return null;
  const ending = webm && copies ? "webm" : film ? "mp4" : copies ? "m4a" : "webm";
  const coding = copies
    ? ["-c", "copy"]
    : film
      ? [
          "-c:v",
          "libx264",
          "-preset",
          "veryfast",
          "-crf",
          "24",
          "-pix_fmt",
          "yuv420p",
          "-vf",
          "scale='min(1280,iw)':-2",
          "-c:a",
          "aac",
          "-b:a",
          "96k",
        ]
      : ["-c:a", "libopus", "-b:a", "48k", "-vn"];
  const file = `playable.${ending}`;
  const { code } = await ffmpeg(
    folder,
    [
      "-i",
      name,
      "-map",
      "0:v:0?",
      "-map",
      "0:a:0?",
      "-map_metadata",
      "-1",
      ...coding,
      ...(ending === "webm" ? ["-cues_to_front", "1"] : ["-movflags", "+faststart"]),
      file,
    ],
    copies ? 180 : 1800,
  );
  return code === 0 && existsSync(path.join(folder, file))
    ? { file, mediaType: `${film ? "video" : "audio"}/${ending === "webm" ? "webm" : "mp4"}` }
    : null;
}

/** A small picture from the first second or so of a film. */
export async function takeStill(
  folder: string,
  name: string,
  seconds: number | null,
): Promise<string | null> {
  const { code } = await ffmpeg(
    folder,
    [
      "-ss",
      String(Math.min(1, (seconds ?? 0) / 3)),
      "-i",
      name,
      "-frames:v",
      "1",
      "-vf",
      "scale='min(640,iw)':-2",
      "still.jpg",
    ],
    60,
  );
  return code === 0 && existsSync(path.join(folder, "still.jpg")) ? "still.jpg" : null;
}

/** An office file as PDF. LibreOffice ends well also with broken input: only the file that comes of it counts. */
export async function makePages(folder: string, name: string): Promise<string | null> {
  await runJailed({
    program: "/usr/bin/soffice",
    args: [
      "-env:UserInstallation=file:///tmp/profile",
      "--headless",
      "--norestore",
      "--nolockcheck",
      "--convert-to",
      "pdf",
      "--outdir",
      "/work/made",
      `/work/${name}`,
    ],
    folder,
    seconds: 90,
    megabytes: 6000,
  });
  const made = existsSync(path.join(folder, "made"))
    ? (await readdir(path.join(folder, "made"))).find((f) => f.endsWith(".pdf"))
    : undefined;
  if (!made) return null;
  await rename(path.join(folder, "made", made), path.join(folder, "pages.pdf"));
  return "pages.pdf";
}

/** The words of a DOCX as HTML; null: they cannot be read. */
export async function readDocxHtml(folder: string, name: string): Promise<string | null> {
  const { code } = await runJailed({
    program: process.execPath,
    args: ["--max-old-space-size=300", "/app/programs/readDocx.mjs", name],
    folder,
    seconds: 20,
    megabytes: 20_000,
    packages: true,
  });
  const html =
    code === 0 && existsSync(path.join(folder, "out.html"))
      ? await readFile(path.join(folder, "out.html"), "utf8")
      : null;
  return html !== null && html.length <= 4_000_000 ? html : null;
}

/** A HEIC photo as JPEG; null: it cannot be read. */
export async function readHeic(folder: string, name: string): Promise<Buffer | null> {
  const { code } = await runJailed({
    program: process.execPath,
    args: ["--max-old-space-size=700", "/app/programs/readHeic.mjs", name],
    folder,
    seconds: 60,
    megabytes: 30_000,
    packages: true,
  });
  return code === 0 && existsSync(path.join(folder, "out.jpg"))
    ? readFile(path.join(folder, "out.jpg"))
    : null;
}
