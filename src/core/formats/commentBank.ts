import Papa from "papaparse";
import { finderIn } from "../comments/alike";
import { faultInShorthand } from "../comments/lookup";
import { fold } from "../text/finding";
import { writeTable } from "./table";
import { SIGNED_POINTS } from "../marks/signedPoints";
import { cleanFolder, cleanTags } from "../comments/folders";
import { COMMENT_KINDS, COMMENT_TABLE, type BankComment } from "../comments/schema";
import { NATURES, type MarkKind, type Nature } from "../marks/schema";

/** The fields of a comment that a file holds, in the order of its columns. */
const FILE_FIELDS = COMMENT_TABLE.flatMap(([name, rule]) =>
  rule.fileColumn === null ? [] : [{ ...rule, name, fileColumn: rule.fileColumn }],
);

type InFile = "text" | "nature" | "folder" | "tags" | "kind" | "replacement" | "criterion";
/** A comment as it stands in a file: nothing is an empty text there. */
export type BankEntry = Pick<BankComment, InFile> & { shorthand: string; points: string };

/** What of a comment goes out of a bank. */
export const toEntry = (comment: BankComment): BankEntry =>
  Object.fromEntries(FILE_FIELDS.map(({ name }) => [name, comment[name] ?? ""])) as BankEntry;

export const BANK_LIMITS = { comments: 5000, text: 4000 } as const;
/** The bank as CSV (RFC 4180: CRLF, quotes doubled), one comment a line under a line of names. */
export function bankToCsv(entries: readonly BankEntry[]): string {
  const rows = entries.map((entry) =>
    FILE_FIELDS.map(({ name }) =>
      String(name === "tags" ? entry.tags.join(", ") : entry[name as InFile]),
    ),
  );
  return writeTable([FILE_FIELDS.map(({ fileColumn }) => fileColumn), ...rows]);
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
  /(^|[,;\t"])\s*"?(text|comment)"?\s*([,;\t]|$)/iu.test(text.split("\n", 1)[0]!.slice(0, 2000));

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

/** What a column may be called, to the field it holds. */
const HEADERS: Readonly<Record<string, string>> = Object.fromEntries(
  FILE_FIELDS.flatMap(({ name, fileColumn, alsoCalled = [] }) =>
    [fileColumn, ...alsoCalled].map((called) => [called, name]),
  ),
);

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
  const nearest = finderIn(bank, 0.85);
  return entries.map((entry): Merged => {
    const same = texts.get(plain(entry.text));
    const near = same ? undefined : nearest(entry.text)[0];
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
  const words = Object.fromEntries(FILE_FIELDS.map(({ name }) => [name, said(raw[name])]));
  return {
    ...(words as unknown as BankEntry),
    shorthand: said(raw.shorthand).replace(/^;/, ""),
    nature: (said(raw.nature).toLowerCase() || "remark") as Nature,
    kind: (said(raw.kind).toLowerCase() || "note") as MarkKind,
    folder: cleanFolder(said(raw.folder)),
    tags: cleanTags(raw.tags),
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
