import { shorten } from "../text/shorten";

/**
 * WebVTT, the text format of timed tracks (W3C Candidate Recommendation of 4 April 2019, sections 4 and 6): transcripts,
 * and notes on moments, written and read.
 */
export type Cue = { id?: string; from: number; to: number; text: string };

/** A moment as WebVTT writes it. @example vttTime(75.4) // "00:01:15.400" */
export function vttTime(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  const pad = (n: number, digits = 2) => String(n).padStart(digits, "0");
  return `${pad(Math.floor(ms / 3_600_000))}:${pad(Math.floor(ms / 60_000) % 60)}:${pad(Math.floor(ms / 1000) % 60)}.${pad(ms % 1000, 3)}`;
}

/** Cue text holds no line that is empty and no arrow; `&` and `<` are written as references (section 4.2.2). */
const escape = (text: string) =>
  text
    .replace(/&/g, "&amp;")
    .replace(/</g, "&lt;")
    .replace(/>/g, "&gt;")
    .replace(/\r\n?/g, "\n")
    .replace(/\n{2,}/g, "\n")
    .trim();

/** A file of cues in the order of their beginnings, of those that begin together the longest first (as tracks order their cues); `note` stands at its head as a comment. */
export function toVtt(cues: readonly Cue[], note = ""): string {
  const head = note === "" ? "" : `NOTE\n${escape(note)}\n\n`;
  const blocks = [...cues]
    .sort((a, b) => a.from - b.from || b.to - a.to)
    .map(
      ({ id, from, to, text }) =>
        `${id ? `${id.replace(/-->|[\r\n]/g, " ")}\n` : ""}${vttTime(from)} --> ${vttTime(Math.max(to, from + 0.001))}\n${escape(text)}\n`,
    );
  return `WEBVTT\n\n${head}${blocks.join("\n")}`;
}

const TIME = /^(?:(\d{2,}):)?([0-5]\d):([0-5]\d)\.(\d{3})$/;
const REFERENCES: Readonly<Record<string, string>> = {
  amp: "&",
  lt: "<",
  gt: ">",
  nbsp: "\u00a0",
  lrm: "\u200e",
  rlm: "\u200f",
  quot: '"',
};

export const VTT_LIMITS = { cues: 5000, characters: 1_000_000 } as const;

/**
 * Reads cues out of a WebVTT file: their plain text, without the tags of voices, classes and ruby. What cannot be read
 * is named by its line and left out; the rest is read.
 */
export function readVtt(file: string): { cues: Cue[]; faults: VttFault[] } {
  if (file.length > VTT_LIMITS.characters) {
    const most = VTT_LIMITS.characters.toLocaleString("en");
    return { cues: [], faults: [{ line: 1, why: `It is longer than ${most} characters.` }] };
  }
  const lines = file
    .replace(/^\ufeff/, "")
    .replace(/\0/g, "\ufffd")
    .split(/\r\n|\r|\n/);
  if (!/^WEBVTT($|[ \t])/.test(lines[0] ?? ""))
    return { cues: [], faults: [{ line: 1, why: "It does not begin with WEBVTT." }] };
  const cues: Cue[] = [];
  const faults: VttFault[] = [];
  for (const { line, block } of blocksOf(lines)) {
    const read = readCue(block, line);
    if (read === null) continue;
    if ("why" in read) faults.push(read);
    else if (cues.length < VTT_LIMITS.cues) cues.push(read);
    else {
      faults.push({ line, why: `Only the first ${VTT_LIMITS.cues} are read.` });
      break;
    }
  }
  return { cues, faults };
}

export type VttFault = { line: number; why: string };

/** Runs of lines with the number of their first. Only a line without anything ends a block; one of spaces belongs to it. */
function* blocksOf(lines: readonly string[]): Generator<{ line: number; block: string[] }> {
  for (let n = 1; n < lines.length;) {
    while (n < lines.length && lines[n] === "") n += 1;
    const start = n;
    while (n < lines.length && lines[n] !== "") n += 1;
    if (n > start) yield { line: start + 1, block: lines.slice(start, n) };
  }
}

/** One block as a cue; null for one that is none (a note, a style, what belongs to the head). */
function readCue(block: readonly string[], line: number): Cue | VttFault | null {
  const arrow = block.findIndex((text) => text.includes("-->"));
  if (/^(NOTE|STYLE|REGION)($|[ \t])/.test(block[0]!) && arrow !== 0) return null;
  if (arrow === -1 || arrow > 1) return line > 2 ? { line, why: "This block has no times." } : null;
  const [left = "", right = ""] = block[arrow]!.split("-->");
  const from = seconds(left.trim());
  const to = seconds(right.trim().split(/[ \t]/)[0]!);
  if (from === null || to === null) {
    const why = `“${shorten(block[arrow]!, 60)}” is not two times.`;
    return { line: line + arrow, why };
  }
  if (to <= from) return { line: line + arrow, why: "It ends before it begins." };
  const text = plain(block.slice(arrow + 1).join("\n"));
  return { ...(arrow === 1 ? { id: block[0]! } : {}), from, to, text };
}

function seconds(text: string): number | null {
  const found = TIME.exec(text);
  return found
    ? Number(found[1] ?? 0) * 3600 +
        Number(found[2]) * 60 +
        Number(found[3]) +
        Number(found[4]) / 1000
    : null;
}

const plain = (text: string) =>
  text
    .replace(/<[^>]*>/g, "")
    .replace(/&(\w+);/g, (all, name: string) => REFERENCES[name] ?? all)
    .trim();
