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
export function readVtt(file: string): { cues: Cue[]; faults: { line: number; why: string }[] } {
  if (file.length > VTT_LIMITS.characters)
    return {
      cues: [],
      faults: [
        {
          line: 1,
          why: `It is longer than ${VTT_LIMITS.characters.toLocaleString("en")} characters.`,
        },
      ],
    };
  const lines = file
    .replace(/^\ufeff/, "")
    .replace(/\0/g, "\ufffd")
    .split(/\r\n|\r|\n/);
  if (!/^WEBVTT($|[ \t])/.test(lines[0] ?? ""))
    return { cues: [], faults: [{ line: 1, why: "It does not begin with WEBVTT." }] };
  const cues: Cue[] = [];
  const faults: { line: number; why: string }[] = [];
  for (let n = 1; n < lines.length;) {
    // Only a line without anything ends a block; one of spaces belongs to it.
    while (n < lines.length && lines[n] === "") n += 1;
    const start = n;
    while (n < lines.length && lines[n] !== "") n += 1;
    const block = lines.slice(start, n);
    const arrow = block.findIndex((line) => line.includes("-->"));
    if (block.length === 0 || (/^(NOTE|STYLE|REGION)($|[ \t])/.test(block[0]!) && arrow !== 0))
      continue;
    if (arrow === -1 || arrow > 1) {
      if (start > 1) faults.push({ line: start + 1, why: "This block has no times." });
      continue;
    }
    const [from, to] = block[arrow]!.split("-->").map((side, k) =>
      seconds((k === 0 ? side : side.trim().split(/[ \t]/)[0]!).trim()),
    );
    if (from === null || to === null || from === undefined || to === undefined)
      faults.push({
        line: start + arrow + 1,
        why: `“${block[arrow]!.slice(0, 60)}” is not two times.`,
      });
    else if (to <= from) faults.push({ line: start + arrow + 1, why: "It ends before it begins." });
    else if (cues.length >= VTT_LIMITS.cues)
      return {
        cues,
        faults: [
          ...faults,
          { line: start + 1, why: `Only the first ${VTT_LIMITS.cues} are read.` },
        ],
      };
    else
      cues.push({
        ...(arrow === 1 ? { id: block[0]! } : {}),
        from,
        to,
        text: plain(block.slice(arrow + 1).join("\n")),
      });
  }
  return { cues, faults };
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
