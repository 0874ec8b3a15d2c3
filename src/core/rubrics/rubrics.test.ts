import { describe, expect, test } from "@jest/globals";
import { writeTable } from "../formats/table";
import { readRubric, rubricTable } from "./readRubric";
import {
  carryPicks,
  faultsOfRubric,
  possibleOf,
  sayLevelPoints,
  scoreOf,
  type Rubric,
} from "./rubric";

let n = 0;
const newId = () => `id-${(n += 1)}`;
const short = (rubric: Rubric) =>
  rubric.criteria.map((c) => [
    c.name,
    c.weight,
    ...c.levels.map((l) => `${l.name}=${sayLevelPoints(l)}: ${l.descriptor}`),
  ]);

describe("a rubric that is pasted", () => {
  const expected = [
    ["Place", "1", "Good=3: all there", "Fair=2: some", "Weak=1: little"],
    ["Voice", "2", "Good=3: a person", "Fair=2: a speaker", "Weak=1: nobody"],
  ];
  test("cells of a spreadsheet (tabs)", () => {
    const found = readRubric(
      "\tGood (3)\tFair (2)\tWeak (1)\nPlace\tall there\tsome\tlittle\nVoice ×2\ta person\ta speaker\tnobody\n",
      newId,
    );
    expect(found).toMatchObject({ from: "a spreadsheet", leftOver: [] });
    expect(short(found.rubric)).toEqual(expected);
  });
  test("CSV with semicolons, a weight column and decimal commas", () => {
    const found = readRubric(
      "criterion;weight;3 Good;2,5 - 2 Fair;1: Weak\nPlace;1;all there;some;little\nVoice;2;a person;a speaker;nobody",
      newId,
    );
    expect(short(found.rubric)).toEqual([
      ["Place", "1", "Good=3: all there", "Fair=2–2.5: some", "Weak=1: little"],
      ["Voice", "2", "Good=3: a person", "Fair=2–2.5: a speaker", "Weak=1: nobody"],
    ]);
  });
  // GitHub Flavored Markdown, section 4.10 (tables), for the form of the table.
  test("Markdown, with text around it that is shown, not dropped", () => {
    const found = readRubric(
      "Our rubric\n\n| | **Good** (3) | Fair (2 points) | Weak [1] |\n|---|:--:|---|---|\n| Place | all there | some | little |\n| Voice (2×) | a person | a speaker | nobody |\n\nHand it in on Friday.",
      newId,
    );
    expect(short(found.rubric)).toEqual(expected);
    expect(found.leftOver).toEqual(["Our rubric", "Hand it in on Friday."]);
  });
  test("a word processor's table: HTML with styles, spans and paragraphs", () => {
    const html = `<html xmlns:o="urn:x"><head><style>td{mso-x:y}</style></head><body><p>Heading above</p><table class=MsoTable><tr><td></td><td><p class=X>Good<o:p></o:p></p><p>(3)</p></td><td>Fair (2)</td><td>Weak (1)</td></tr>
      <tr><td><b>Place</b></td><td>all&nbsp;there</td><td colspan="2"><ul><li>some</li></ul></td></tr><tr><td>Voice ×2</td><td>a person</td><td>a speaker</td><td>no<i>body</i></td></tr></table></body></html>`;
    const found = readRubric(html, newId);
    expect(found.from).toBe("HTML");
    expect(short(found.rubric)).toEqual([
      ["Place", "1", "Good=3: all there", "Fair=2: some", "Weak=1: some"],
      ["Voice", "2", "Good=3: a person", "Fair=2: a speaker", "Weak=1: nobody"],
    ]);
    expect(found.leftOver).toEqual(["Heading above"]);
  });
  test("points that stand in the cells, and ranges that run backwards", () => {
    const found = readRubric(
      "\tGood\tWeak\nPlace\t(4–3) all there\t(2-1) little\nVoice\t(5 points) a person\t(0) nobody",
      newId,
    );
    expect(short(found.rubric)).toEqual([
      ["Place", "1", "Good=3–4: all there", "Weak=1–2: little"],
      ["Voice", "1", "Good=5: a person", "Weak=0: nobody"],
    ]);
  });
  test("heads without points are counted down; a number at the start of a sentence is not points", () => {
    const found = readRubric(
      "\tGood\tFair\tWeak\nSources\t3 sources are named\tone is\tnone",
      newId,
    );
    expect(short(found.rubric)).toEqual([
      ["Sources", "1", "Good=3: 3 sources are named", "Fair=2: one is", "Weak=1: none"],
    ]);
  });
  test("a row without a criterion, and cells beyond the table, are left over", () => {
    const found = readRubric(
      "\tGood (2)\tWeak (1)\nPlace\ta\tb\tbeyond\n\torphan\t\nVoice\tc\td",
      newId,
    );
    expect(found.rubric.criteria.map((c) => c.name)).toEqual(["Place", "Voice"]);
    expect(found.leftOver).toEqual(["beyond", "orphan"]);
  });
  test.each(["", "just a sentence", "<table></table>", "| only | heads |\n|---|---|"])(
    "%j holds no rubric, and nothing is lost",
    (text) => {
      const found = readRubric(text, newId);
      expect(found.rubric.criteria).toEqual([]);
      expect(found.leftOver.join(" ")).toContain(
        text.startsWith("<") ? "" : text.split("\n")[0]!.replace(/^\| | \|$/g, ""),
      );
    },
  );
  test("30 criteria × 8 levels go in and out of CSV unchanged", () => {
    const rubric: Rubric = {
      criteria: Array.from({ length: 30 }, (_, c) => ({
        id: `c${c}`,
        name: `Criterion ${c + 1}`,
        note: "",
        weight: c % 3 ? "1" : "1.5",
        levels: Array.from({ length: 8 }, (_, l) => ({
          id: `l${c}.${l}`,
          name: `Level ${l + 1}`,
          points: String(8 - l),
          most: l === 0 ? "8.5" : null,
          descriptor: `What ${c}, “${l}”; and, more`,
        })),
      })),
    };
    rubric.criteria.forEach((c) => c.levels.forEach((l, k) => (l.most = k === 0 ? "8.5" : null)));
    const back = readRubric(writeTable(rubricTable(rubric)), newId);
    expect(back.leftOver).toEqual([]);
    expect(short(back.rubric)).toEqual(short(rubric));
  });
});

describe("scoring with a rubric", () => {
  const level = (id: string, points: string, most: string | null = null) => ({
    id,
    name: id,
    points,
    most,
    descriptor: "",
  });
  const rubric: Rubric = {
    criteria: [
      {
        id: "place",
        name: "Place",
        note: "",
        weight: "2",
        levels: [level("p4", "4"), level("p2", "2")],
      },
      {
        id: "voice",
        name: "Voice",
        note: "",
        weight: "1",
        levels: [level("v", "3", "4"), level("v0", "0")],
      },
    ],
  };
  test("points are brought to the possible points", () => {
    expect(possibleOf(rubric)).toBe("12");
    expect(
      scoreOf(
        rubric,
        { place: { levelId: "p2", points: "2" }, voice: { levelId: "v", points: "3.5" } },
        "50",
      ),
    ).toBe("31.25");
    expect(scoreOf(rubric, { place: { levelId: "p4", points: "4" } }, "50")).toBeNull();
  });
  test("choices go over to a newer version as far as they are still there", () => {
    const newer: Rubric = {
      criteria: [{ ...rubric.criteria[0]!, levels: [level("p4", "5")] }, rubric.criteria[1]!],
    };
    expect(
      carryPicks(
        { place: { levelId: "p4", points: "4" }, voice: { levelId: "v", points: "3.5" } },
        newer,
      ),
    ).toEqual({
      kept: { place: { levelId: "p4", points: "5" }, voice: { levelId: "v", points: "3.5" } },
      lost: 0,
    });
    expect(carryPicks({ place: { levelId: "p2", points: "2" } }, newer)).toEqual({
      kept: {},
      lost: 1,
    });
  });
  test("what cannot be used is said", () => {
    expect(faultsOfRubric(rubric)).toEqual([]);
    expect(faultsOfRubric({ criteria: [] })).toEqual(["A rubric needs a criterion."]);
    expect(
      faultsOfRubric({
        criteria: [
          {
            ...rubric.criteria[0]!,
            name: " ",
            weight: "0",
            levels: [level("x", "4", "3"), level("y", "many")],
          },
        ],
      }),
    ).toHaveLength(4);
  });
});
