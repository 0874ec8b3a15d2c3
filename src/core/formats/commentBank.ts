import Papa from "papaparse";
import { nearlySame } from "../comments/alike";
import { faultInShorthand, fold } from "../comments/lookup";
import { SIGNED_POINTS } from "../marks/signedPoints";
import { MARK_KINDS, NATURES, type MarkKind, type Nature } from "../marks/mark";

/** A comment as it goes out of a bank and comes into one. */
export type BankEntry = {
  text: string;
  shorthand: string;
  nature: Nature;
  folder: string;
  tags: string[];
  kind: MarkKind;
  replacement: string;
  criterion: string;
  points: string;
};

export const BANK_LIMITS = { comments: 5000, text: 4000 } as const;
const COLUMNS = [
  "text",
  "shorthand",
  "kind of comment",
  "folder",
  "tags",
  "mark",
  "new words",
  "criterion",
  "points",
] as const;
/** Marks that a comment can be: notes, and what is put on words with one press. Ink is drawn by hand. */
export const COMMENT_KINDS = MARK_KINDS.filter((kind) => kind !== "ink" && kind !== "transpose");

/** The bank as CSV (RFC 4180: CRLF, quotes doubled), one comment a line under a line of names. */
export function bankToCsv(entries: readonly BankEntry[]): string {
  const rows = entries.map((e) => [
    e.text,
    e.shorthand,
    e.nature,
    e.folder,
    e.tags.join(", "),
    e.kind,
    e.replacement,
    e.criterion,
    e.points,
  ]);
  // A cell that a spreadsheet would take for a formula is kept as text by a leading apostrophe, taken off when read.
  return `${Papa.unparse({ fields: [...COLUMNS], data: rows.map((row) => row.map((cell) => (/^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell))) }, { newline: "\r\n" })}\r\n`;
}

export function bankToJson(entries: readonly BankEntry[]): string {
  return `${JSON.stringify({ comments: entries }, null, 2)}\n`;
}

export type BankFault = { line: number; why: string };
export type ReadBank = { entries: BankEntry[]; faults: BankFault[] };

/**
 * Reads a bank from CSV, from JSON, or from a pasted list (one comment a line; bullets and numbers are
 * taken off; `shorthand: text` or `shorthand | text` where the first word could be one). What it is, is
 * seen from the text itself. Lines that cannot be read are named, and the others are read.
 */
export function readBankText(text: string): ReadBank {
  const clean = text.replace(/^\ufeff/, "").replace(/\r\n?/g, "\n");
  if (clean.trim() === "")
    return { entries: [], faults: [{ line: 1, why: "There is nothing in it." }] };
  if (/^\s*[[{]/.test(clean) && isJson(clean)) return readJson(clean);
  if (looksLikeTable(clean)) return readCsv(clean);
  return readList(clean);
}

const isJson = (text: string): boolean => {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
};

const looksLikeTable = (text: string) =>
  /(^|[,;\t"])\s*"?(text|comment)"?\s*([,;\t]|$)/iu.test(text.split("\n", 1)[0]!);

function readJson(text: string): ReadBank {
  const given = JSON.parse(text) as { comments?: unknown } | unknown[];
  const list = Array.isArray(given) ? given : given.comments;
  if (!Array.isArray(list))
    return { entries: [], faults: [{ line: 1, why: "This JSON has no list of comments." }] };
  return collect(
    list.map((raw, n) => ({
      line: n + 1,
      raw: typeof raw === "string" ? { text: raw } : ((raw ?? {}) as Record<string, unknown>),
    })),
  );
}

function readCsv(text: string): ReadBank {
  const { data } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: "greedy",
    transformHeader: (name) => HEADERS[name.trim().toLowerCase()] ?? name.trim().toLowerCase(),
  });
  return collect(
    data.map((raw, n) => ({
      line: n + 2,
      raw: Object.fromEntries(
        Object.entries(raw).map(([k, v]) => [
          k,
          typeof v === "string" ? v.replace(/^'(?=[=+\-@\t\r])/, "") : v,
        ]),
      ),
    })),
  );
}

const HEADERS: Readonly<Record<string, string>> = {
  comment: "text",
  "kind of comment": "nature",
  nature: "nature",
  mark: "kind",
  "new words": "replacement",
  tag: "tags",
  key: "shorthand",
};

function readList(text: string): ReadBank {
  const lines = text.split("\n").map((line, n) => ({
    line: n + 1,
    text: line.replace(/^\s*(?:[-*•–]|\d{1,3}[.)])\s+/u, "").trim(),
  }));
  return collect(
    lines
      .filter((l) => l.text !== "")
      .map(({ line, text: said }) => {
        const found = /^;?([\p{L}\p{N}][\p{L}\p{N}._-]{0,23})\s*(?:\||\t|:(?=\s))\s*(.+)$/u.exec(
          said,
        );
        // "Note: …" is a sentence; a shorthand is lower case.
        return {
          line,
          raw:
            found && found[1] === found[1]!.toLowerCase()
              ? { shorthand: found[1], text: found[2] }
              : { text: said },
        };
      }),
  );
}

function collect(rows: readonly { line: number; raw: Record<string, unknown> }[]): ReadBank {
  const entries: BankEntry[] = [];
  const faults: BankFault[] = [];
  for (const { line, raw } of rows) {
    if (entries.length >= BANK_LIMITS.comments) {
      faults.push({
        line,
        why: `A bank takes ${BANK_LIMITS.comments} comments at a time; the rest is left out.`,
      });
      break;
    }
    const entry = entryOf(raw);
    const why = faultOf(entry);
    if (why) faults.push({ line, why });
    else entries.push(entry);
  }
  return { entries, faults };
}

/** @example cleanFolder(" Letters //Openings/ ") // "Letters/Openings" */
export function cleanFolder(path: string): string {
  return path
    .split("/")
    .map((part) => part.trim())
    .filter(Boolean)
    .slice(0, 4)
    .join("/")
    .slice(0, 120);
}

export function readTags(input: unknown): string[] {
  const written = typeof input === "string" ? input.split(",") : [];
  const list = Array.isArray(input) ? input.map(String) : written;
  return [
    ...new Set(list.map((t) => t.trim().replace(/^#/, "").slice(0, 30)).filter(Boolean)),
  ].slice(0, 12);
}

export type Merged = {
  entry: BankEntry;
  /** What is in the bank already and says the same, or nearly. */ like: {
    id: string;
    text: string;
  } | null;
  state: "new" | "the same" | "nearly the same";
  /** Its shorthand belongs to another comment of the bank. */ shorthandTaken: boolean;
};

/** What bringing entries into a bank would do, entry by entry; repeats within the entries themselves are "the same" too. */
export function mergeBank(
  bank: readonly { id: string; text: string; shorthand: string | null }[],
  entries: readonly BankEntry[],
): Merged[] {
  const plain = (text: string) => fold(text).replace(/\s+/g, " ").trim();
  const texts = new Map(bank.map((c) => [plain(c.text), { id: c.id, text: c.text }]));
  const shorthands = new Set(bank.flatMap((c) => (c.shorthand ? [fold(c.shorthand)] : [])));
  return entries.map((entry): Merged => {
    const same = texts.get(plain(entry.text));
    const near = same ? undefined : nearlySame(entry.text, bank, 0.85)[0];
    const shorthandTaken = entry.shorthand !== "" && shorthands.has(fold(entry.shorthand));
    texts.set(plain(entry.text), same ?? { id: "", text: entry.text });
    if (entry.shorthand && !same) shorthands.add(fold(entry.shorthand));
    return {
      entry,
      like: same ?? (near ? { id: near.id, text: near.text } : null),
      state: stateOf(same, near),
      shorthandTaken,
    };
  });
}

/** What a row says, before anybody has asked whether a bank can hold it. */
function entryOf(raw: Record<string, unknown>): BankEntry {
  const said = (value: unknown) =>
    typeof value === "string" || typeof value === "number" ? String(value).trim() : "";
  return {
    text: said(raw.text),
    shorthand: said(raw.shorthand).replace(/^;/, ""),
    nature: (said(raw.nature).toLowerCase() || "remark") as Nature,
    kind: (said(raw.kind).toLowerCase() || "note") as MarkKind,
    folder: cleanFolder(said(raw.folder)),
    tags: readTags(raw.tags),
    replacement: said(raw.replacement),
    criterion: said(raw.criterion),
    points: said(raw.points),
  };
}

/** Why a bank cannot hold it; null when it can. */
function faultOf({ text, shorthand, nature, kind, points }: BankEntry): string | null {
  if (text === "") return "It has no text.";
  if (text.length > BANK_LIMITS.text) return `It is longer than ${BANK_LIMITS.text} characters.`;
  const inShorthand = faultInShorthand(shorthand);
  if (inShorthand) return inShorthand;
  if (!NATURES.includes(nature)) return `“${nature}” is not remark, request or praise.`;
  if (!(COMMENT_KINDS as readonly string[]).includes(kind))
    return `“${kind}” is not a kind of mark.`;
  if (points !== "" && !SIGNED_POINTS.test(points)) return `“${points}” is not a number of points.`;
  return null;
}

function stateOf(same: unknown, near: unknown): Merged["state"] {
  if (same) return "the same";
  return near ? "nearly the same" : "new";
}
