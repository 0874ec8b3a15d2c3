import { readBankText } from "./formats/commentBank";
import { readCalendarFile } from "./formats/calendar/calendarFile";
import { htmlToDoc, textToDoc } from "./formats/htmlDoc";
import { readQtiItem } from "./formats/qti/readQti";
import { readAnnotations } from "./formats/readAnnotation";
import { parseTable } from "./formats/table";
import { likeness } from "./comments/alike";
import { faultInShorthand, lookUp, pendingLookup } from "./comments/lookup";
import { slipsBetween } from "./text/finding";
import { fillPlaceholders, slotsOf } from "./comments/placeholders";
import { cleanFolder } from "./comments/folders";
import { wholeComment } from "./comments/schema";
import { cleanFileName } from "./items/kinds";
import { judge } from "./questions/judge";
import { readQuantity } from "./questions/quantity";
import { readPlainRoster } from "./roster/plainRoster";
import { isEmail, splitName } from "./roster/roster";
import { readRubric } from "./rubrics/readRubric";
import { parseScore } from "./scores/parseScore";
import { readScore } from "./scores/scales";
import { sentencesOf } from "./speech/languageModel";
import { readVtt } from "./speech/vtt";
import { formatNote, readNote, sayNote, sentenceAround } from "./text/noteText";
import { countWords } from "./text/plainText";
import { isSafeLink } from "./text/richDoc";
import { sentenceRanges, tokens } from "./text/tokens";
import { stepWord } from "./text/wordSteps";

/** Something that reads what a person typed, pasted or sent, with the most characters it is ever given. */
export type Reader = { name: string; most: number; read: (text: string) => unknown };

const quantity = {
  ...{ id: "q", kind: "number", text: "", points: "1" },
  ...{ value: "5", unit: "min", tolerance: "" },
} as never;
const accepted = {
  ...{ id: "q", kind: "short text", text: "", points: "1" },
  ...{ exactCase: false, exactAccents: false, exactSpaces: false },
};
const ids = () => {
  let n = 0;
  return () => `id ${(n += 1)}`;
};
const refusing = (read: (text: string) => unknown) => (text: string) => {
  try {
    return read(text);
  } catch (error) {
    return error;
  }
};

/** Every reader of the core, each with the length its route lets in. */
export const READERS: readonly Reader[] = [
  { name: "an answer with a unit", most: 4000, read: (t) => judge(quantity, `5 ${t}`) },
  {
    name: "the unit of a question",
    most: 30,
    read: (t) => judge({ ...(quantity as object), unit: t } as never, "5 min"),
  },
  {
    name: "an answer of some words",
    most: 4000,
    read: (t) => judge({ ...accepted, accepted: ["rain"] } as never, t),
  },
  { name: "a quantity", most: 4000, read: readQuantity },
  { name: "a note", most: 4000, read: (t) => [readNote(t), sayNote(t)] },
  { name: "an overall note", most: 20_000, read: (t) => [readNote(t), sayNote(t)] },
  {
    name: "a note that is formatted",
    most: 4000,
    read: (t) => formatNote({ text: t, start: 1, end: t.length - 1 }, "list"),
  },
  { name: "a score", most: 30, read: refusing((t) => parseScore(t, "20")) },
  { name: "a score by letters", most: 30, read: (t) => readScore(t, scale("letters")) },
  { name: "a QTI item", most: 500_000, read: (t) => readQtiItem(t, ids()) },
  { name: "a rubric", most: 200_000, read: (t) => readRubric(t, ids()) },
  { name: "a document's HTML", most: 8_000_000, read: htmlToDoc },
  { name: "a plain text", most: 5_000_000, read: textToDoc },
  { name: "a table", most: 10_000_000, read: parseTable },
  {
    name: "a plain roster",
    most: 2_000_000,
    read: (t) => readPlainRoster(t, { file: "x", complete: false, sections: [] } as never),
  },
  {
    name: "a calendar",
    most: 5_000_000,
    read: (t) => readCalendarFile(t, { from: "2026-01-01", to: "2027-01-01" }, "America/Halifax"),
  },
  { name: "a bank", most: 5_000_000, read: readBankText },
  { name: "annotations", most: 5_000_000, read: refusing((t) => readAnnotations(JSON.parse(t))) },
  { name: "WebVTT", most: 1_000_000, read: readVtt },
  { name: "a search in the bank", most: 500, read: (t) => lookUp(BANK, t) },
  { name: "what is looked up while typing", most: 4000, read: (t) => pendingLookup(t, t.length) },
  { name: "slips", most: 200, read: (t) => slipsBetween(t, `${t}x`, 2) },
  { name: "a shorthand", most: 60, read: faultInShorthand },
  { name: "placeholders", most: 4000, read: (t) => [fillPlaceholders(t, {}), slotsOf(t)] },
  { name: "nearly the same", most: 4000, read: (t) => likeness(t, `${t} x`) },
  { name: "a folder", most: 120, read: cleanFolder },
  { name: "a file's name", most: 1000, read: cleanFileName },
  { name: "a name", most: 200, read: splitName },
  { name: "an address", most: 320, read: isEmail },
  { name: "a link", most: 2000, read: isSafeLink },
  { name: "sentences to be heard", most: 200_000, read: sentencesOf },
  { name: "words", most: 200_000, read: (t) => [tokens(t), countWords(t)] },
  {
    name: "sentences",
    most: 200_000,
    read: (t) => sentenceRanges(t, { start: 0, end: t.length }),
  },
  {
    name: "a sentence around",
    most: 200_000,
    read: (t) => sentenceAround(t, { start: 5, end: 6 }),
  },
  { name: "a step by words", most: 200_000, read: (t) => stepWord(t, null, "next") },
];

const scale = (kind: "letters") => ({ kind, possible: "20", steps: null }) as never;
const BANK = Array.from({ length: 300 }, (_, n) => ({
  ...wholeComment({ text: `Say where the gauge stood, and how high, ${n}.` }),
  ...{ id: String(n), usedCount: 0, shorthand: `gauge${n}` },
}));

/** What has stopped one reader or another, here or elsewhere: repeated until it is as long as is let in. */
export const HOSTILE: readonly string[] = [
  "min ",
  "min·",
  "m^2 s^-1 ",
  "(((((",
  ")",
  "[a](",
  "![",
  "[[",
  "> ",
  ">",
  "- ",
  "1. ",
  "* a\n",
  "  - x\n    ",
  "**a",
  "*_",
  "_a_ ",
  "`",
  "~~",
  "|a",
  "a|b\n-|-\n",
  "\\",
  "<",
  "<a ",
  "<b>",
  "<div><p>",
  "</p>",
  "<!--",
  "<![CDATA[",
  "&amp;",
  "&#",
  "{",
  "{name} ",
  "{{",
  "[",
  '["a",',
  '{"a":',
  '"',
  '""",',
  "'",
  ",",
  ";",
  "\t",
  "\n",
  "\r",
  "\r\n\r\n",
  " ",
  "\u00a0",
  " \n",
  "a",
  "a ",
  "A. ",
  ".",
  "..",
  "a.b-",
  "'’",
  "1",
  "1 ",
  "1e",
  "-",
  "%",
  "@",
  "a@b.",
  "a@a@",
  "http://",
  "https://a.b/?",
  "www.",
  "://",
  "/",
  "../",
  "0",
  "00:00 --> ",
  "00:00.000 --> 00:01.000\nx\n\n",
  "BEGIN:VEVENT\n",
  "BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART:20260101\nRRULE:FREQ=SECONDLY\nEND:VEVENT\n",
  "\u0301",
  "e\u0301",
  "\ud83d\ude00",
  "\ud800",
  "\udc00",
  "\u0000",
  "\u202e",
  "ﷺ",
  "ß",
  "İ",
  "東",
  "ا ",
  "x^",
  "\u2028",
];

/** One of them, as long as `most`, with an end that does not fit the beginning: what undoes a backtracking reader. */
export const hostile = (unit: string, most: number, end = "!"): string =>
  unit.repeat(Math.ceil(most / unit.length)).slice(0, Math.max(0, most - end.length)) + end;
