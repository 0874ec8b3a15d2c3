import { Parser } from "htmlparser2";
import { lexer, type Tokens } from "marked";
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
      leftOver: [...leftOver, ...filled.map((row) => row.join(" | "))].filter(Boolean),
      from,
    };
  const weightColumn = head.findIndex(
    (cell, n) => n > 0 && /^\s*(weight|gewicht|×|x)\s*$/i.test(cell),
  );
  const columns = head
    .map((_, n) => n)
    .filter(
      (n) =>
        n > 0 &&
        n !== weightColumn &&
        (head[n]!.trim() !== "" || body.some((row) => row[n]?.trim())),
    );
  const heads = columns.slice(0, RUBRIC_LIMITS.levels).map((n) => readHead(head[n]!));
  if (columns.length > RUBRIC_LIMITS.levels)
    leftOver.push(
      `columns beyond ${RUBRIC_LIMITS.levels}: ${columns
        .slice(RUBRIC_LIMITS.levels)
        .map((n) => head[n])
        .join(", ")}`,
    );
  const criteria: Criterion[] = [];
  for (const row of body.slice(0, RUBRIC_LIMITS.criteria)) {
    const cells = columns.slice(0, heads.length).map((n) => row[n]?.trim() ?? "");
    const extra = row.slice(head.length).filter((cell) => cell.trim());
    if (extra.length > 0) leftOver.push(...extra);
    if (!row[0]?.trim() && cells.every((cell) => !cell)) continue;
    if (!row[0]?.trim()) {
      leftOver.push(cells.filter(Boolean).join(" | "));
      continue;
    }
    criteria.push(
      readCriterion(
        row[0].trim(),
        weightColumn === -1 ? "" : (row[weightColumn] ?? ""),
        heads,
        cells,
        newId,
        leftOver,
      ),
    );
  }
  if (body.length > RUBRIC_LIMITS.criteria)
    leftOver.push(...body.slice(RUBRIC_LIMITS.criteria).map((row) => row.join(" | ")));
  return { rubric: { criteria }, leftOver: leftOver.filter((text) => text.trim() !== ""), from };
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
  return {
    points: backwards ? high : low,
    most: high === null || high === low ? null : backwards ? low : high,
    rest: clean.replace(found[0], " ").replace(/\s+/g, " ").trim(),
  };
}

function readCriterion(
  title: string,
  weight: string,
  heads: readonly Head[],
  cells: readonly string[],
  newId: () => string,
  leftOver: string[],
): Criterion {
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
    const own = counted ? pointsIn(cells[n]!) : null;
    // A descriptor that merely begins with a number ("3 sources are named") is not points.
    const real =
      own && own.rest !== cells[n] && /[(:[\]]|points?|pts?/i.test(cells[n]!.slice(0, 24))
        ? own
        : null;
    if (!cells[n] && head.name === "") return [];
    return [
      {
        id: newId(),
        name: head.name,
        points: real?.points ?? head.points ?? String(heads.length - n),
        most: real ? real.most : head.most,
        descriptor: real ? real.rest : cells[n]!,
      },
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

/** The first table in what was pasted, and the text around it. */
function tableIn(pasted: string): { rows: string[][]; from: ReadRubric["from"]; around: string[] } {
  if (/<table[\s>]/i.test(pasted)) return { ...tableInHtml(pasted), from: "HTML" };
  const tokens = /^\s*\|?.*\|.*\n\s*\|?\s*:?-+/m.test(pasted) ? lexer(pasted) : [];
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

const plainMarkdown = (text: string) =>
  text
    .replace(/<br\s*\/?>/gi, "\n")
    .replace(/(\*\*|__|`)/g, "")
    .replace(/\\([|*_])/g, "$1")
    .trim();

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
  const parser = new Parser({
    onopentag(name, attributes) {
      if (name === "style" || name === "script" || name === "title") hidden += 1;
      if (name === "table") depth += 1;
      if (depth !== 1) return;
      if (name === "tr") rows.push([]);
      if ((name === "td" || name === "th") && rows.length > 0) {
        fill();
        cell = {
          text: "",
          columns: spanOf(attributes.colspan, RUBRIC_LIMITS.levels),
          rows: spanOf(attributes.rowspan, RUBRIC_LIMITS.criteria),
        };
      }
      if (cell && (name === "br" || name === "p" || name === "li") && cell.text) cell.text += "\n";
    },
    ontext(text) {
      if (hidden) return;
      if (cell) cell.text += text.replace(/[\s\u00a0]+/g, " ");
      else if (depth === 0 && text.trim()) around.push(text.trim());
    },
    onclosetag(name) {
      if (name === "style" || name === "script" || name === "title") hidden -= 1;
      if (name === "table") depth -= 1;
      if ((name === "td" || name === "th") && cell && depth === 1) {
        const text = cell.text
          .replace(/ *\n */g, "\n")
          .replace(/ +/g, " ")
          .trim();
        for (let n = 0; n < cell.columns; n += 1) {
          const row = rows.at(-1)!;
          spans[row.length] = { left: cell.rows - 1, text };
          row.push(text);
        }
        cell = null;
      }
      if (name === "tr" && depth === 1 && rows.length > 0) fill();
    },
  });
  parser.write(html);
  parser.end();
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
