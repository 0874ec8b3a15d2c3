import { lexer, type Tokens } from "marked";
import { readTags } from "../formats/boundedTags";
import { parseTable } from "../formats/table";
import { RUBRIC_LIMITS, sayLevelPoints, type Criterion, type Level, type Rubric } from "./rubric";

/** A rubric that was pasted: what was understood, and every piece of text that was not. */
export type ReadRubric = {
  rubric: Rubric;
  leftOver: string[];
  from: "HTML" | "Markdown" | "a spreadsheet";
};

/**
 * Reads a rubric from what a teacher has: a table copied from a word processor or a page (HTML), a
 * Markdown table, or cells from a spreadsheet (tabs, semicolons or commas).
 *
 * The first row names the levels, the first column the criteria; every other cell is a descriptor. A
 * "weight" column is taken for what it is. Points stand in the level's head ("Good (3)", "3–4 Good") or,
 * where they differ by row, at the beginning or end of the cell. Heads without any points are counted
 * down to 1. What fits nowhere is returned in `leftOver`, never dropped.
 *
 * @param newId ids for criteria and levels
 */
export function readRubric(pasted: string, newId: () => string): ReadRubric {
  const { rows, from, around } = tableIn(pasted);
  const leftOver = [...around];
  const filled = rows.filter((row) => row.some((cell) => cell.trim() !== ""));
  const [head, ...body] = filled;
  if (!head || body.length === 0)
    return {
      rubric: { criteria: [] },
      leftOver: [...leftOver, ...filled.map(sayRow)].filter(Boolean),
      from,
    };
  const weightColumn = head.findIndex(
    (cell, n) => n > 0 && /^\s*(weight|gewicht|×|x)\s*$/i.test(cell),
  );
  const levelColumns = levelsOf(head, body, weightColumn);
  const columns = levelColumns.slice(0, RUBRIC_LIMITS.levels);
  const beyond = levelColumns.slice(RUBRIC_LIMITS.levels);
  if (beyond.length > 0)
    leftOver.push(
      `columns beyond ${RUBRIC_LIMITS.levels}: ${beyond.map((n) => head[n]).join(", ")}`,
    );
  const reading = { heads: columns.map((n) => readHead(head[n]!)), newId, leftOver };
  const criteria = body.slice(0, RUBRIC_LIMITS.criteria).flatMap((row): Criterion[] => {
    const cells = columns.map((n) => row[n]?.trim() ?? "");
    const title = row[0]?.trim() ?? "";
    leftOver.push(...row.slice(head.length).filter((cell) => cell.trim()));
    if (title !== "")
      return [readCriterion({ title, weight: row[weightColumn] ?? "", cells }, reading)];
    if (cells.some(Boolean)) leftOver.push(cells.filter(Boolean).join(" | "));
    return [];
  });
  leftOver.push(...body.slice(RUBRIC_LIMITS.criteria).map(sayRow));
  return { rubric: { criteria }, leftOver: leftOver.filter((text) => text.trim() !== ""), from };
}

type Reading = { heads: readonly Head[]; newId: () => string; leftOver: string[] };
const sayRow = (row: readonly string[]) => row.join(" | ");

/** The columns that hold levels: all behind the first that hold anything, besides the weights. */
function levelsOf(head: string[], body: string[][], weightColumn: number): number[] {
  const holds = (n: number) => head[n]!.trim() !== "" || body.some((row) => row[n]?.trim());
  return head.flatMap((_, n) => (n > 0 && n !== weightColumn && holds(n) ? [n] : []));
}

type Head = { name: string; points: string | null; most: string | null };
const NUMBER = "(\\d{1,5}(?:[.,]\\d{1,3})?)";
const RANGE = `${NUMBER}(?:\\s*(?:-|–|—|to)\\s*${NUMBER})?`;
const UNIT = "\\s*(?:points?|pts?\\.?|p\\.?)?";

/** @example readHead("Good (3–4 points)") // { name: "Good", points: "3", most: "4" } */
function readHead(text: string): Head {
  const found = pointsIn(text);
  return found
    ? { name: found.rest || text.trim(), points: found.points, most: found.most }
    : { name: text.trim(), points: null, most: null };
}

function pointsIn(text: string): { points: string; most: string | null; rest: string } | null {
  const clean = text.replace(/\s+/g, " ").trim();
  const bracket = new RegExp(`[([]\\s*${RANGE}${UNIT}\\s*[)\\]]`, "i").exec(clean);
  const leading = new RegExp(`^${RANGE}${UNIT}(?:\\s*[:=.–-]\\s*|\\s+|$)`, "i").exec(clean);
  const trailing = new RegExp(
    `(?:[:=–-]|\\s)\\s*${RANGE}\\s*(?:points?|pts?\\.?|p\\.?)$`,
    "i",
  ).exec(clean);
  const found = bracket ?? leading ?? trailing;
  if (!found) return null;
  const [low, high] = [found[1]!.replace(",", "."), found[2]?.replace(",", ".") ?? null];
  const backwards = high !== null && Number(high) < Number(low);
  const more = backwards ? low : high;
  return {
    points: backwards ? high : low,
    most: high === low ? null : more,
    rest: clean.replace(found[0], " ").replace(/\s+/g, " ").trim(),
  };
}

type CriterionRow = { title: string; weight: string; cells: readonly string[] };

function readCriterion({ title, weight, cells }: CriterionRow, reading: Reading): Criterion {
  const { heads, newId, leftOver } = reading;
  const inTitle =
    /\s*(?:[×x]\s*(\d+(?:[.,]\d+)?)|\((?:weight\s*)?(\d+(?:[.,]\d+)?)\s*(?:×|x)?\))\s*$/i.exec(
      title,
    );
  const typed = (weight.trim() || inTitle?.[1] || inTitle?.[2] || "1")
    .replace(",", ".")
    .replace(/\s*[×x]\s*/i, "");
  const usable = /^\d{1,5}(\.\d{1,3})?$/.test(typed) && Number(typed) > 0;
  if (!usable) leftOver.push(`weight of “${title}”: ${weight.trim()}`);
  const [name, ...note] = (inTitle ? title.slice(0, inTitle.index) : title).split(/\n+/);
  const counted = heads.every((h) => h.points === null);
  const levels = heads.flatMap((head, n): Level[] => {
    if (!cells[n] && head.name === "") return [];
    const real = counted ? pointsOfCell(cells[n]!) : null;
    const points = head.points ?? String(heads.length - n);
    return [
      real
        ? { id: newId(), name: head.name, ...real }
        : { id: newId(), name: head.name, points, most: head.most, descriptor: cells[n]! },
    ];
  });
  return {
    id: newId(),
    name: name!.trim(),
    note: note.join(" ").trim(),
    weight: usable ? typed : "1",
    levels,
  };
}

/** Points that a cell begins or ends with; a descriptor that merely begins with a number ("3 sources are named") has none. */
function pointsOfCell(cell: string): Pick<Level, "points" | "most" | "descriptor"> | null {
  const own = pointsIn(cell);
  if (!own || own.rest === cell || !/[(:[\]]|points?|pts?/i.test(cell.slice(0, 24))) return null;
  return { points: own.points, most: own.most, descriptor: own.rest };
}

/** The first table in what was pasted, and the text around it. */
function tableIn(pasted: string): { rows: string[][]; from: ReadRubric["from"]; around: string[] } {
  if (/<table[\s>]/i.test(pasted)) return { ...tableInHtml(pasted), from: "HTML" };
  const tokens = holdsMarkdownTable(pasted) ? lexer(pasted) : [];
  const table = tokens.find((t) => t.type === "table") as Tokens.Table | undefined;
  if (table) {
    const rows = [table.header, ...table.rows].map((row) =>
      row.map((cell) => plainMarkdown(cell.text)),
    );
    const around = tokens.filter((t) => t !== table && t.type !== "space").map((t) => t.raw.trim());
    return { rows, from: "Markdown", around };
  }
  return { rows: parseTable(pasted).rows.map((r) => r.cells), from: "a spreadsheet", around: [] };
}

/** A line with an upright stroke, and under it one of strokes, colons and dashes alone. */
function holdsMarkdownTable(pasted: string): boolean {
  const lines = pasted.split("\n");
  return lines.some(
    (line, n) =>
      line.includes("|") && /^[\s|:-]*-[\s|:-]*$/.test(lines[n + 1]?.slice(0, 1000) ?? ""),
  );
}

const plainMarkdown = (text: string) =>
  text
    .replace(/<br\s*\/?>/gi, "\n")
    .replace(/(\*\*|__|`)/g, "")
    .replace(/\\([|*_])/g, "$1")
    .trim();

const UNSEEN = new Set(["style", "script", "title"]);
const CELLS = new Set(["td", "th"]);
const LINES = new Set(["br", "p", "li"]);

/** Cells that span columns or rows are laid out as the table shows them. */
function tableInHtml(html: string): { rows: string[][]; around: string[] } {
  const rows: string[][] = [];
  const around: string[] = [];
  const spans: { left: number; text: string }[] = [];
  let depth = 0;
  let cell: { text: string; columns: number; rows: number } | null = null;
  let hidden = 0;
  const fill = () => {
    const row = rows.at(-1)!;
    while (spans[row.length] && spans[row.length]!.left > 0) {
      const span = spans[row.length]!;
      span.left -= 1;
      row.push(span.text);
    }
  };
  const openCell = (attributes: Record<string, string>) => {
    fill();
    cell = {
      text: "",
      columns: spanOf(attributes.colspan, RUBRIC_LIMITS.levels),
      rows: spanOf(attributes.rowspan, RUBRIC_LIMITS.criteria),
    };
  };
  const closeCell = (closing: NonNullable<typeof cell>) => {
    const text = closing.text
      .replace(/ *\n */g, "\n")
      .replace(/ +/g, " ")
      .trim();
    for (let n = 0; n < closing.columns; n += 1) {
      const row = rows.at(-1)!;
      spans[row.length] = { left: closing.rows - 1, text };
      row.push(text);
    }
    cell = null;
  };
  readTags(html, {
    onopentag(name, attributes) {
      if (UNSEEN.has(name)) hidden += 1;
      if (name === "table") depth += 1;
      if (depth !== 1) return;
      if (name === "tr") rows.push([]);
      if (CELLS.has(name) && rows.length > 0) openCell(attributes);
      if (LINES.has(name) && cell?.text) cell.text += "\n";
    },
    ontext(text) {
      if (hidden) return;
      if (cell) cell.text += text.replace(/[\s\u00a0]+/g, " ");
      else if (depth === 0 && text.trim()) around.push(text.trim());
    },
    onclosetag(name) {
      if (UNSEEN.has(name)) hidden -= 1;
      if (name === "table") depth -= 1;
      if (CELLS.has(name) && cell && depth === 1) closeCell(cell);
      if (name === "tr" && depth === 1 && rows.length > 0) fill();
    },
  });
  return { rows, around };
}

const spanOf = (text: string | undefined, most: number) =>
  Math.min(most, Math.max(1, Number(text) || 1));

/** The rubric as a table again, in the form that `readRubric` reads: levels of the first criterion name the columns. */
export function rubricTable({ criteria }: Rubric): string[][] {
  const width = Math.max(0, ...criteria.map((c) => c.levels.length));
  const widest = criteria.find((c) => c.levels.length === width);
  const head = ["criterion", "weight", ...(widest?.levels ?? []).map((l) => l.name)];
  return [
    head,
    ...criteria.map((c) => [
      [c.name, c.note].filter(Boolean).join("\n"),
      c.weight,
      ...c.levels.map((l) => `(${sayLevelPoints(l)}) ${l.descriptor}`),
    ]),
  ];
}
