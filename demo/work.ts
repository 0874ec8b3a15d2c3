import { readFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import { zipSync, strToU8 } from "fflate";
import { aPart, WRITING, type Part } from "../src/core/handouts/parts";
import type { Answers, Question } from "../src/core/questions/question";
import type { RichDoc } from "../src/core/text/richDoc";
import type { Person, Call } from "../src/server/call";
import { storeBlob } from "../src/server/blobs/blobs";
import { inspect, type Inspected } from "../src/server/items/inspect";
import { storeItem } from "../src/server/items/items";
import { planRenditions } from "../src/server/items/renditions";
import { addSet } from "../src/server/questions/sets";
import { inFolder } from "../src/server/programs/jail";
import { writeFile } from "node:fs/promises";
import { anyOf, between, chance, type Random } from "./random";
import type { Block } from "./texts/blocks";

/** What the demo's hand-outs ask for beside writing, and the files and answers students give. */
export type DemoPart =
  "writing" | "graph" | "sketch" | "report" | "forecast" | "film" | "tide questions";

/** Ids of parts are the same in every demo, so that a draft can name them. */
const id = (n: number) => `00000000-0000-7000-8000-00000000010${n}`;

export function partsOf(names: readonly DemoPart[], setId: string): Part[] {
  return names.map((name): Part => {
    switch (name) {
      case "writing":
        return WRITING;
      case "graph":
        return aPart(id(1), "photos", { label: "a picture of the graph" });
      case "sketch":
        return aPart(id(2), "photos", { label: "your cloud sketch" });
      case "report":
        return aPart(id(3), "files", { label: "the report", types: ["document", "pdf"] });
      case "forecast":
        return aPart(id(4), "sound", { label: "the forecast, spoken", minutes: 1 });
      case "film":
        return aPart(id(5), "film", { label: "the film", minutes: 2 });
      case "tide questions":
        return aPart(id(6), "questions", { label: "the tide table", setId, show: "handed back" });
    }
  });
}

const choices = (prefix: string, texts: readonly string[]) =>
  texts.map((text, n) => ({ id: `00000000-0000-7000-8000-0000000${prefix}0${n}`, text }));
const qid = (n: number) => `00000000-0000-7000-8000-0000000020${String(n).padStart(2, "0")}`;

/** The tide table of one invented day: high 06:12, 2.45 m; low 12:31, 0.35 m; high 18:40, 2.30 m. */
export const TIDE_QUESTIONS: Question[] = [
  {
    id: qid(1),
    kind: "short text",
    text: "When is the first high water of the day?",
    points: "1",
    accepted: ["06:12", "6:12", "6.12"],
    exactCase: false,
    exactAccents: false,
    exactSpaces: false,
  },
  {
    id: qid(2),
    kind: "number",
    text: "How high is it?",
    points: "1",
    value: "2.45",
    unit: "m",
    tolerance: "",
  },
  {
    id: qid(3),
    kind: "number",
    text: "What is the range from this high water to the low water after it?",
    points: "2",
    value: "2.10",
    unit: "m",
    tolerance: "0.02",
  },
  {
    id: qid(4),
    kind: "number",
    text: "How long does the water take to fall?",
    points: "2",
    value: "379",
    unit: "min",
    tolerance: "2",
  },
  {
    id: qid(5),
    kind: "one choice",
    text: "Which kind of tide is it, two days after full moon?",
    points: "1",
    choices: choices("31", ["nearly a spring tide", "nearly a neap tide", "one cannot know"]),
    right: choices("31", [""])[0]!.id,
  },
  {
    id: qid(6),
    kind: "several choices",
    text: "What makes the water stand higher than the table says?",
    points: "2",
    choices: choices("32", [
      "wind towards the land",
      "high air pressure",
      "low air pressure",
      "a full moon in the sky at noon",
    ]),
    right: [0, 2].map((n) => choices("32", ["", "", "", ""])[n]!.id),
  },
  matching(),
  {
    id: qid(8),
    kind: "ordering",
    text: "Put the hours of this day in order, from the most water on the sandbar to the least.",
    points: "1",
    items: choices("35", ["06:12", "09:00", "11:00", "12:31"]),
  },
  {
    id: qid(9),
    kind: "free text",
    text: "Would you cross the sandbar by your own answers? Say when, and why.",
    points: "2",
    lines: 4,
  },
];

function matching(): Question {
  const left = choices("33", ["spring tide", "neap tide", "slack water"]);
  const right = choices("34", [
    "the largest range",
    "the smallest range",
    "no current for a while",
  ]);
  return {
    id: qid(7),
    kind: "matching",
    text: "Give each word its meaning.",
    points: "3",
    left,
    right,
    pairs: Object.fromEntries(left.map((l, n) => [l.id, right[n]!.id])),
  };
}

export const makeSets = async (call: Call): Promise<string> =>
  (await addSet(call, { name: "Reading the tide table", questions: TIDE_QUESTIONS })).id;

/** Answers as a class gives them: mostly right, units forgotten, one place mixed up with another. */
export function tideAnswers(random: Random, slips: number): Answers {
  const sure = () => !chance(random, 0.1 + slips * 0.4);
  const c = (n: number) => TIDE_QUESTIONS.find((q) => q.id === qid(n))!;
  const order = (c(8) as Extract<Question, { kind: "ordering" }>).items.map((i) => i.id);
  const match = c(7) as Extract<Question, { kind: "matching" }>;
  const given: Answers[string] = {
    [qid(1)]: sure()
      ? anyOf(random, ["06:12", "6:12", " 6:12 "])
      : anyOf(random, ["18:40", "6:21"]),
    [qid(2)]: sure()
      ? anyOf(random, ["2.45 m", "2,45 m", "245 cm", "2.45m"])
      : anyOf(random, ["2.45", "2.30 m", "2.45 cm"]),
    [qid(3)]: sure()
      ? anyOf(random, ["2.1 m", "2.10 m", "210 cm"])
      : anyOf(random, ["2.8 m", "2.1", "1.95 m"]),
    [qid(4)]: sure()
      ? anyOf(random, ["379 min", "6.32 h", "378 min"])
      : anyOf(random, ["6.19 h", "6 h", "379"]),
    [qid(5)]: (c(5) as Extract<Question, { kind: "one choice" }>).choices[sure() ? 0 : 1]!.id,
    [qid(6)]: (c(6) as Extract<Question, { kind: "several choices" }>).choices
      .filter((_, n) => (n === 0 ? true : n === 2 ? sure() : !sure()))
      .map((x) => x.id),
    [qid(7)]: Object.fromEntries(
      match.left.map((l, n) => [l.id, match.right[sure() ? n : (n + 1) % 3]!.id]),
    ),
    [qid(8)]: sure() ? order : [order[1]!, order[0]!, order[2]!, order[3]!],
    [qid(9)]: anyOf(random, [
      "Yes, between 11:00 and half past one, then it is under 0.6 m.",
      "Only around low water. I would be back before two because the ferry is not going to wait.",
      "I would not, with that wind.",
      "Yes at 12:31, but with boots.",
    ]),
  };
  if (chance(random, slips * 0.5)) delete given[qid(4)];
  if (chance(random, slips * 0.3)) delete given[qid(9)];
  return { [id(6)]: given };
}

type Known = { looked: Inspected; sha256: Buffer; size: number };

/** Blocks that stand in a student's writing beside its words. */
export type Beside = { early: RichDoc["content"][number]; last: RichDoc["content"][number] };

/** Gives files to pieces. Each distinct file is looked into once, by the application's own inspection. */
export class DemoFiles {
  private readonly known = new Map<string, Promise<Known>>();

  private async look(
    call: Omit<Call, "who">,
    key: string,
    name: string,
    part: Part,
    make: () => Promise<Buffer>,
  ): Promise<Known> {
    const found = this.known.get(key);
    if (found) return found;
    const fresh = (async () => {
      const given = await make();
      const looked = await inFolder(async (folder) => {
        await writeFile(path.join(folder, "given"), given);
        return inspect(folder, "given", name, part, {
          file: 1e9,
          piece: 1e9,
          student: 1e9,
          recordingMinutes: 10,
        });
      });
      const bytes = looked.bytes ?? given;
      return {
        looked: { ...looked, bytes: null },
        sha256: await storeBlob(call.tx, bytes, looked.mediaType, call.now),
        size: bytes.length,
      };
    })();
    this.known.set(key, fresh);
    return fresh;
  }

  async give(
    call: Omit<Call, "who">,
    student: Person,
    pieceId: string,
    names: readonly DemoPart[],
    random: Random,
    blocks: readonly Block[],
  ): Promise<void> {
    for (const part of partsOf(
      names.filter((n) => n !== "writing" && n !== "tide questions"),
      "",
    )) {
      // Not everyone thinks of everything; but nobody hands in nothing.
      if (names.includes("writing") && chance(random, 0.08)) continue;
      for (const file of this.filesFor(part, student, random, blocks)) {
        const { looked, ...stored } = await this.look(call, file.key, file.name, part, file.make);
        await storeItem(
          { ...call, who: student },
          { id: call.newId(), pieceId, partId: part.id, replaces: null },
          {
            ...looked,
            name: looked.kind === "photo" ? file.name.replace(/\.\w+$/, ".jpg") : file.name,
          },
          stored,
        );
        await planRenditions({ ...call, who: student }, stored.sha256, looked);
      }
    }
  }

  /** A letter read aloud, and where the writer looked things up: both stand in the writing itself. */
  async putBeside(call: Omit<Call, "who">, student: Person, pieceId: string): Promise<Beside> {
    const name = "read aloud.webm";
    const { looked, ...stored } = await this.look(call, "forecast-1.webm", name, WRITING, () =>
      readFile(path.join(process.cwd(), "demo/files/forecast-1.webm")),
    );
    const item = call.newId();
    await storeItem(
      { ...call, who: student },
      { id: item, pieceId, partId: WRITING.id, replaces: null, inText: true },
      { ...looked, name },
      stored,
    );
    await planRenditions({ ...call, who: student }, stored.sha256, looked);
    return {
      early: { type: "file", attrs: { item, as: "sound", name } },
      last: {
        type: "linkCard",
        attrs: { href: "https://harbour.example/then-and-now" },
        content: [{ type: "text", text: "The harbour then and now: the pictures I wrote from" }],
      },
    };
  }

  private filesFor(
    part: Part,
    student: Person,
    random: Random,
    blocks: readonly Block[],
  ): { key: string; name: string; make: () => Promise<Buffer> }[] {
    const file = (name: string, as: string) => ({
      key: name,
      name: as,
      make: () => readFile(path.join(process.cwd(), "demo/files", name)),
    });
    if (part.label.includes("graph")) {
      const n = between(random, 1, 8);
      return [
        {
          key: `graph ${n}`,
          name: `IMG_${1200 + between(random, 1, 700)}.jpg`,
          make: () => drawGraph(n),
        },
      ];
    }
    if (part.label.includes("sketch"))
      return Array.from({ length: between(random, 1, 2) }, (_, k) => ({
        n: between(random, 1, 6),
        k,
      })).map(({ n, k }) => ({
        key: `sketch ${n}`,
        name: `sky ${k + 1}.jpg`,
        make: () => drawSketch(n),
      }));
    if (part.kind === "sound")
      return [file(`forecast-${between(random, 1, 3)}.webm`, "Recording.webm")];
    if (part.kind === "film") return [file("rain-gauge.webm", "our rain gauge.webm")];
    // Each report is its own document, with the student's own words.
    return [
      {
        key: `report ${student.id}`,
        name: `evaporation ${student.called.toLowerCase()}.docx`,
        make: () => Promise.resolve(writeReport(blocks)),
      },
    ];
  }
}

const paper = (inner: string, tilt: number, shade: number) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="1200"><rect width="900" height="1200" fill="#6d5a45"/><g transform="rotate(${tilt} 450 600)"><rect x="70" y="70" width="760" height="1060" fill="#f3eee2"/>${inner}</g><defs><linearGradient id="s"><stop offset="0" stop-color="#000" stop-opacity="${shade}"/><stop offset="0.7" stop-color="#000" stop-opacity="0"/></linearGradient></defs><rect width="900" height="1200" fill="url(#s)"/></svg>`,
    ),
  )
    .jpeg({ quality: 72 })
    .toBuffer();

/** A week's rain as bars, drawn by hand on squared paper and photographed a little askew. */
export function drawGraph(n: number): Promise<Buffer> {
  const squares =
    Array.from(
      { length: 18 },
      (_, k) => `<path d="M${130 + k * 38} 160V1050" stroke="#b9c6cf" stroke-width="1"/>`,
    ).join("") +
    Array.from(
      { length: 23 },
      (_, k) => `<path d="M110 ${180 + k * 38}H790" stroke="#b9c6cf" stroke-width="1"/>`,
    ).join("");
  const bars = Array.from({ length: 7 }, (_, k) => ({
    x: 170 + k * 86,
    h: ((k * 137 + n * 211) % 17) * 38 + (n % 2 ? 8 : 0),
  }))
    .map(
      ({ x, h }) =>
        `<rect x="${x}" y="${980 - h}" width="52" height="${h}" fill="#28568a" opacity="0.75" stroke="#222" stroke-width="3"/>`,
    )
    .join("");
  const days = ["M", "T", "W", "T", "F", "S", "S"]
    .map(
      (d, k) =>
        `<text x="${186 + k * 86}" y="1030" font-family="sans-serif" font-size="34" fill="#333">${d}</text>`,
    )
    .join("");
  return paper(
    `${squares}<path d="M150 160V985H790" fill="none" stroke="#222" stroke-width="5"/>${bars}${days}${n % 3 ? `<text x="150" y="140" font-family="sans-serif" font-size="34" fill="#333">rain in mm</text>` : ""}`,
    (n % 5) * 1.6 - 3,
    0.15 + (n % 4) * 0.1,
  );
}

function drawSketch(n: number): Promise<Buffer> {
  const puff = (x: number, y: number, s: number) =>
    `<path d="M${x} ${y}q${20 * s} ${-60 * s} ${70 * s} ${-30 * s}q${40 * s} ${-70 * s} ${90 * s} ${-10 * s}q${60 * s} ${-20 * s} ${50 * s} ${40 * s}z" fill="none" stroke="#3a3a3a" stroke-width="5"/>`;
  const clouds = Array.from({ length: 3 + (n % 3) }, (_, k) =>
    puff(140 + ((k * 197 + n * 61) % 430), 300 + k * 170, 0.8 + ((k + n) % 3) * 0.3),
  ).join("");
  return paper(
    `${clouds}<text x="140" y="150" font-family="sans-serif" font-size="36" fill="#333">${["7:50", "noon", "17:00", "break", "lamp on", "16:10"][n - 1]}, ${["W", "SW", "N", "NW", "S", "W"][n - 1]}</text>`,
    (n % 4) * 1.2 - 2,
    0.2,
  );
}

/** A plain word-processor document of a student's text. */
function writeReport(blocks: readonly Block[]): Buffer {
  const xml = (text: string) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;");
  const run = (text: string, bold = false) =>
    `<w:r>${bold ? "<w:rPr><w:b/></w:rPr>" : ""}<w:t xml:space="preserve">${xml(text)}</w:t></w:r>`;
  const para = (text: string, style = "") =>
    `<w:p>${style ? `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>` : ""}${run(text, style !== "")}</w:p>`;
  const body = blocks
    .map((b) =>
      b.kind === "table"
        ? `<w:tbl><w:tblPr><w:tblBorders><w:insideH w:val="single" w:sz="4"/><w:insideV w:val="single" w:sz="4"/><w:top w:val="single" w:sz="4"/><w:bottom w:val="single" w:sz="4"/><w:left w:val="single" w:sz="4"/><w:right w:val="single" w:sz="4"/></w:tblBorders></w:tblPr>${b.rows.map((r) => `<w:tr>${r.map((cell) => `<w:tc><w:tcPr><w:tcW w:w="3000" w:type="dxa"/></w:tcPr>${para(cell)}</w:tc>`).join("")}</w:tr>`).join("")}</w:tbl>`
        : para(b.text, b.kind === "heading" ? "Heading1" : ""),
    )
    .join("");
  const types = `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.styles+xml"/></Types>`;
  const rels = (inner: string) =>
    `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${inner}</Relationships>`;
  const office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
  const styles = `<?xml version="1.0"?><w:styles xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:style w:type="paragraph" w:styleId="Heading1"><w:name w:val="heading 1"/><w:rPr><w:b/><w:sz w:val="30"/></w:rPr></w:style></w:styles>`;
  return Buffer.from(
    zipSync(
      {
        "[Content_Types].xml": strToU8(types),
        "_rels/.rels": strToU8(
          rels(
            `<Relationship Id="r1" Type="${office}/officeDocument" Target="word/document.xml"/>`,
          ),
        ),
        "word/_rels/document.xml.rels": strToU8(
          rels(`<Relationship Id="r2" Type="${office}/styles" Target="styles.xml"/>`),
        ),
        "word/styles.xml": strToU8(styles),
        "word/document.xml": strToU8(
          `<?xml version="1.0"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`,
        ),
      },
      { mtime: new Date("2026-01-01T00:00:00Z") },
    ),
  );
}
