import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { strFromU8, unzipSync } from "fflate";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { gradeOf } from "../../src/core/grades/grade";
import { USUAL_RULES, type GradeRules } from "../../src/core/grades/rules";
import type { GradeSource } from "../../src/core/views/gradeViews";
import type { Person } from "../../src/server/call";
import { setCounting } from "../../src/server/classes/changeSetUp";
import { sectionSetUp } from "../../src/server/classes/setUp";
import { setGradeScales } from "../../src/server/office/gradeScales";
import { correctGrade, freezeTerm, openTerm } from "../../src/server/grades/freeze";
import { ownGrades, setGradeRules, studentGrade } from "../../src/server/grades/grades";
import { ledgerOneRoster } from "../../src/server/ledger/oneRoster";
import { ledgerWorkbook } from "../../src/server/ledger/workbook";
import { readTableFile } from "../../src/ui/ledger/readTableFile";
import { ledgerOut, ledgerWithGrades } from "../../src/server/ledger/out";

import { handBack, takeFeedbackBack } from "../../src/server/handingBack/handBack";
import { saveFeedback } from "../../src/server/marking/draft";
import { handIn } from "../../src/server/pieces/moves";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

/** What a grade is made of: which scores, in which term, seen by whom. */
let database: TestDatabase;
let school: SmallSchool;
const NOW = new Date("2026-10-14T15:00:00Z");
const at = (minutes: number) => new Date(NOW.getTime() + minutes * 60_000);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const nothing = /nothing here/i;

beforeAll(async () => {
  database = await testDatabase();
});
afterAll(() => database?.drop());
beforeEach(async () => {
  school = await smallSchool(database.sql, 3);
});

const rules = (part: Partial<GradeRules>) =>
  owner().change(NOW, (call) => setGradeRules(call, school.sectionId, { ...USUAL_RULES, ...part }));
async function give(title: string, points: string, due = "2026-10-14T16:00") {
  const { handOuts } = await owner().change(at(-600), (call) =>
    handOutSimply(call, school.sectionId, { title, instructions: doc("Write."), points, due }),
  );
  return handOuts[0]!.id;
}
const pieceOf = async (handOutId: string, n: number) =>
  (
    await database.sql<{ id: string }[]>`
      select id from piece where hand_out_id = ${handOutId} and student_id = ${school.students[n]!.id}`
  )[0]!.id;
type Back = { score: string; outcome?: "final" | "revise"; tellScore?: boolean };
/** Handed in and handed back with a score. */
async function score(
  handOutId: string,
  n: number,
  { score: typed, outcome = "final", tellScore }: Back,
) {
  const id = await pieceOf(handOutId, n);
  await as(school.students[n]!).change(at(-60), (call) =>
    handIn(call, id, { doc: doc("It rained.") }, 0),
  );
  await owner().change(at(-30), (call) =>
    saveFeedback(call, id, { overall: "Read.", score: typed, picks: {} }, 0),
  );
  const due = outcome === "revise" ? "2026-10-22T09:05" : null;
  await owner().change(NOW, (call) => handBack(call, id, { outcome, due, tellScore }));
  return id;
}
const percent = ({ rules: own, categories, columns, entries }: GradeSource) =>
  gradeOf(own, categories, columns, entries).percent;
const seen = async (n: number, now = at(5)) => {
  const grade = await owner().read(now, (call) =>
    studentGrade(call, {
      ...{ sectionId: school.sectionId, studentId: school.students[n]!.id, term: null },
    }),
  );
  return percent(grade);
};
const own = (who: Person, now = at(5)) => as(who).read(now, ownGrades);
/** The grade as its student sees it, where it is shown. */
const told = async (n: number, now = at(5)) => percent((await own(school.students[n]!, now))[0]!);

describe("what counts", () => {
  test("scores that were handed back and what is missing; drafts for teachers alone", async () => {
    const [log, letter] = [await give("Log", "10"), await give("Letter", "10")];
    await rules({ shown: true });
    await score(log, 0, { score: "8" });
    const drafted = await pieceOf(letter, 0);
    await owner().change(NOW, (call) =>
      saveFeedback(call, drafted, { overall: "", score: "1", picks: {} }, 0),
    );
    const later = at(2 * 24 * 60);
    expect([await seen(0), await told(0)]).toEqual(["45.0", "80.0"]);
    // Two days on the letter is missing for its student, and counts as nought until it is left out.
    expect([await seen(0, later), await told(0, later)]).toEqual(["45.0", "40.0"]);
    await rules({ shown: true, missing: "left out" });
    expect([await seen(0, later), await told(0, later)]).toEqual(["45.0", "80.0"]);
    await database.sql`update piece set excused = true where id = ${drafted}`;
    await rules({ shown: true });
    expect([await seen(0, later), await told(0, later)]).toEqual(["80.0", "80.0"]);
    expect(await seen(1)).toBeNull();
  });

  test("by weights, work without a category brings nothing where others have one, and says so", async () => {
    await score(await give("Log", "10"), 0, { score: "8" });
    await owner().change(NOW, (call) =>
      setCounting(call, school.sectionId, {
        late: { kind: "flag" },
        categories: [{ id: null, name: "Letters", weight: "40", drop: 1, shows: "by hand" }],
      }),
    );
    expect(await seen(0)).toBeNull();
    await rules({ way: "points" });
    expect(await seen(0)).toBe("80.0");
  });

  test("taken back it counts no more for the student; for teachers it is a draft again", async () => {
    const log = await give("Log", "10");
    await rules({ shown: true });
    const id = await score(log, 0, { score: "8" });
    await owner().change(at(1), (call) => takeFeedbackBack(call, id));
    expect([await seen(0), await told(0)]).toEqual(["80.0", null]);
  });

  test("work that is due in another term is another grade's", async () => {
    const { schoolId } = school.owner;
    await database.sql`delete from term where school_id = ${schoolId} and id not in (select term_id from course)`;
    await database.sql`
      insert into term (id, school_id, name, starts_on, ends_on)
      values (gen_random_uuid(), ${schoolId}, 'spring before', '2026-02-01', '2026-06-20')`;
    const [now, before] = [await give("Log", "10"), await give("Old log", "10")];
    await score(now, 0, { score: "8" });
    await score(before, 0, { score: "2" });
    await database.sql`update hand_out set due_at = '2026-05-04T16:00Z' where id = ${before}`;
    const asked = { sectionId: school.sectionId, studentId: school.students[0]!.id };
    const of = (term: string | null) =>
      owner().read(at(5), (call) => studentGrade(call, { ...asked, term }));
    expect((await of(null)).terms).toContain("spring before");
    expect(percent(await of(null))).toBe("80.0");
    expect(percent(await of("spring before"))).toBe("20.0");
  });
});

describe("who sees it", () => {
  test("its teachers; the student and their guardian where it is shown, each their own alone", async () => {
    const log = await give("Log", "10");
    await score(log, 0, { score: "8" });
    expect(await own(school.students[0]!)).toEqual([]);
    await rules({ shown: true });
    const [grade] = await own(school.students[0]!);
    expect(percent(grade!)).toBe("80.0");
    expect(JSON.stringify(grade)).not.toContain("Student 2");
    expect((await own(school.guardian)).map(({ student }) => student.name)).toEqual(["Student 1"]);
    expect((await own(school.students[1]!)).map(percent)).toEqual([null]);
    await expect(own(school.owner)).rejects.toThrow(nothing);
    const asked = { sectionId: school.sectionId, studentId: school.students[0]!.id, term: null };
    for (const who of [school.stranger, school.students[0]!, school.guardian])
      await expect(as(who).read(NOW, (call) => studentGrade(call, asked))).rejects.toThrow(nothing);
    await expect(
      owner().read(NOW, (call) => studentGrade(call, { ...asked, studentId: school.stranger.id })),
    ).rejects.toThrow(nothing);
  });

  test("a score that was not told is in the teacher's grade and not in the student's", async () => {
    const log = await give("Log", "10");
    await rules({ shown: true });
    await score(log, 0, { score: "8", outcome: "revise" });
    expect(await seen(0)).toBe("80.0");
    const [grade] = await own(school.students[0]!);
    expect(percent(grade!)).toBeNull();
    expect(JSON.stringify(grade!.entries)).not.toContain('"8"');
    await score(await give("Log 2", "10"), 0, { score: "6", outcome: "revise", tellScore: true });
    expect((await own(school.students[0]!)).map(percent)).toEqual(["60.0"]);
  });

  test("only the owner sets the rules; a scale that does not go down is refused by its step", async () => {
    const set = (who: Person, part: Partial<GradeRules>) =>
      as(who).change(NOW, (call) =>
        setGradeRules(call, school.sectionId, { ...USUAL_RULES, ...part }),
      );
    await expect(set(school.co, {})).rejects.toThrow(nothing);
    await expect(
      set(school.owner, {
        scale: [
          { from: "50", name: "B" },
          { from: "70", name: "A" },
        ],
      }),
    ).rejects.toMatchObject({ fields: { "scale[1]": expect.stringMatching(/go down/) } });
    await set(school.owner, { scale: [{ from: "72,5", name: " A " }] });
    const log = await give("Log", "10");
    await score(log, 0, { score: "8" });
    const ledger = await owner().read(at(5), (call) => ledgerWithGrades(call, school.sectionId));
    expect(ledger.grades[school.students[0]!.id]).toEqual({ percent: "80.0", name: "A" });
  });
});

test("the Ledger leaves as a table in which no name is a formula", async () => {
  const log = await give("=Log", "10");
  await score(log, 0, { score: "7,5" });
  await database.sql`update person set called = '=1+1', name = '=1+1' where id = ${school.students[1]!.id}`;
  const response = await owner().read(at(5), (call) => ledgerOut(call, school.sectionId));
  const lines = (await response.text()).split("\r\n");
  expect(lines[0]).toContain("'=Log (of 10)");
  expect(lines[1]).toMatch(/^.*Student 1,7\.5,75\.0,$/);
  expect(lines.join("\n")).not.toMatch(/(^|,)=/m);
  await expect(
    as(school.stranger).read(NOW, (call) => ledgerOut(call, school.sectionId)),
  ).rejects.toThrow(nothing);
});

/** A workbook as another program reads it: LibreOffice's flat XML (OASIS OpenDocument 1.3). */
async function asOpenDocument(bytes: Buffer): Promise<string> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-sheet-"));
  await writeFile(path.join(folder, "ledger.xlsx"), bytes);
  const own = `-env:UserInstallation=file://${folder}/office`;
  const to = ["--headless", "--convert-to", "fods", "--outdir", folder, `${folder}/ledger.xlsx`];
  await promisify(execFile)("soffice", [own, ...to]);
  const text = await readFile(path.join(folder, "ledger.fods"), "utf8");
  await rm(folder, { recursive: true });
  return text;
}

test("as a workbook numbers are numbers, the head is frozen, notes stand at their cells, and no name is a formula", async () => {
  const [log, letter] = [await give("=Log", "10"), await give("Letter", "10")];
  await score(log, 0, { score: "7,5" });
  await database.sql`update person set name = '=1+1' where id = ${school.students[1]!.id}`;
  await database.sql`update piece set excused = true where id = ${await pieceOf(letter, 1)}`;
  const response = await owner().read(at(5), (call) =>
    ledgerWorkbook(call, school.sectionId, null),
  );
  const bytes = Buffer.from(await response.arrayBuffer());
  const sheet = await asOpenDocument(bytes);
  expect(sheet).toMatch(/office:value-type="float" office:value="7\.5"/);
  expect(sheet).toMatch(/office:value-type="string"[^>]*>\s*<text:p>=1\+1</);
  expect(sheet).not.toContain("table:formula");
  expect(sheet).toMatch(/<office:annotation.*?excused/s);
  // ECMA-376, 18.3.1.66: a pane that is frozen.
  const xml = strFromU8(unzipSync(bytes)["xl/worksheets/sheet1.xml"]!);
  expect(xml).toMatch(/<pane (?=[^>]*xSplit="1")(?=[^>]*ySplit="1")[^>]*state="frozen"/);
  // The page's own reader, which is another program too, has it as it left.
  const rows = await readTableFile(new File([bytes], "ledger.xlsx"));
  expect(rows[0]).toEqual([
    ...["student", "=Log (of 10)", "Letter (of 10)", "grade in percent", "grade"],
  ]);
  expect(rows.find(([name]) => name === "=1+1")!.slice(0, 3)).toEqual(["=1+1", "", "ex"]);
  expect(rows.some(([, first]) => first === "7.5")).toBe(true);
});

test("as OneRoster it is a package of three files under the names of the school's records", async () => {
  await score(await give("Log", "10"), 0, { score: "7,5" });
  await database.sql`update section set source_id = 'sis-class' where id = ${school.sectionId}`;
  await database.sql`update person set source_id = ${`sis-${school.students[0]!.id}`} where id = ${school.students[0]!.id}`;
  const response = await owner().read(at(5), (call) =>
    ledgerOneRoster(call, school.sectionId, null),
  );
  const files = unzipSync(new Uint8Array(await response.arrayBuffer()));
  expect(Object.keys(files).sort()).toEqual([
    ...["categories.csv", "lineItems.csv", "manifest.csv", "results.csv"],
  ]);
  const results = strFromU8(files["results.csv"]!);
  expect(results).toContain(`sis-${school.students[0]!.id}`);
  expect(results).toContain("fully graded,7.5,");
  expect(strFromU8(files["lineItems.csv"]!)).toContain("sis-class");
});

describe("frozen grades", () => {
  const TERM = "autumn";
  const freeze = (who = owner()) =>
    who.change(at(10), (call) => freezeTerm(call, school.sectionId, { term: TERM }));
  const correct = (n: number, reason = "A page was found.") =>
    owner().change(at(30), (call) =>
      correctGrade(
        call,
        { sectionId: school.sectionId, studentId: school.students[n]!.id },
        { term: TERM, reason },
      ),
    );
  const opened = (n: number) =>
    owner().read(at(40), (call) =>
      studentGrade(call, {
        ...{ sectionId: school.sectionId, studentId: school.students[n]!.id, term: TERM },
      }),
    );
  beforeEach(async () => {
    await rules({ shown: true });
  });

  test("a later score moves nothing that is shown, until it is taken in with a reason, which is listed", async () => {
    const [log, letter] = [await give("Log", "10"), await give("Letter", "10")];
    const piece = await score(log, 0, { score: "8" });
    await score(letter, 0, { score: "10" });
    expect(await freeze()).toEqual({ frozen: 3 });
    await owner().change(at(20), (call) => takeFeedbackBack(call, piece));
    expect([percent(await opened(0)), await told(0, at(40))]).toEqual(["90.0", "90.0"]);
    const shown = await opened(0);
    expect(shown.frozen).toMatchObject({ by: "Odalys Brandt", corrections: [] });
    expect(shown.frozen!.now).toContain("100.0");
    const ledger = await owner().read(at(40), (call) => ledgerWithGrades(call, school.sectionId));
    expect(ledger.grades[school.students[0]!.id]).toMatchObject({
      percent: "90.0",
      frozen: { now: expect.stringContaining("100.0") as unknown as string },
    });
    expect(await correct(0)).toEqual({ grade: "100.0" });
    const after = await opened(0);
    expect([percent(after), await told(0, at(40))]).toEqual(["100.0", "100.0"]);
    expect(after.frozen).toMatchObject({
      now: null,
      corrections: [
        {
          from: expect.stringContaining("90.0") as unknown as string,
          to: expect.stringContaining("100.0") as unknown as string,
          reason: "A page was found.",
          by: "Odalys Brandt",
        },
      ],
    });
    await expect(correct(0)).rejects.toMatchObject({
      fields: { reason: expect.stringMatching(/same grade/) as unknown as string },
    });
  });

  test("rules that change later do not change it; a draft is not in it", async () => {
    const [log, letter] = [await give("Log", "10"), await give("Letter", "10")];
    await score(log, 0, { score: "8" });
    const drafted = await pieceOf(letter, 0);
    await owner().change(NOW, (call) =>
      saveFeedback(call, drafted, { overall: "", score: "1", picks: {} }, 0),
    );
    await freeze();
    await rules({ shown: true, scale: [{ from: "0", name: "Whatever" }] });
    const shown = await opened(0);
    expect([percent(shown), shown.rules.scale.some(({ name }) => name === "Whatever")]).toEqual([
      "80.0",
      false,
    ]);
  });

  test("only once, only by the owner, and opened again scores count as before", async () => {
    await score(await give("Log", "10"), 0, { score: "8" });
    await freeze();
    await expect(freeze()).rejects.toThrow(/frozen already/);
    for (const who of [school.outsider, school.stranger, school.students[0]!])
      await expect(freeze(as(who))).rejects.toThrow(nothing);
    await owner().change(at(50), (call) =>
      openTerm(call, school.sectionId, { term: TERM, reason: "Too early." }),
    );
    expect((await opened(0)).frozen).toBeNull();
    const ledger = await owner().read(at(51), (call) => ledgerWithGrades(call, school.sectionId));
    expect(ledger.opened).toMatchObject([{ by: "Odalys Brandt", reason: "Too early." }]);
    await expect(
      owner().change(at(51), (call) =>
        openTerm(call, school.sectionId, { term: TERM, reason: "Again." }),
      ),
    ).rejects.toThrow(/not frozen/);
    expect(await freeze()).toEqual({ frozen: 3 });
  });

  test("an earlier term's columns stand in its own Ledger, its frozen grade with the student's others", async () => {
    await database.sql`
      insert into term (id, school_id, name, starts_on, ends_on)
      values (${crypto.randomUUID()}, ${school.owner.schoolId}, 'Summer', '2026-04-01', '2026-06-30')`;
    const log = await give("Log", "10");
    const old = await give("Old map", "10");
    await score(old, 0, { score: "7" });
    await score(log, 0, { score: "8" });
    await database.sql`update hand_out set due_at = '2026-05-04T16:00:00Z', closes_at = null where id = ${old}`;
    await owner().change(at(60), (call) => freezeTerm(call, school.sectionId, { term: "Summer" }));
    const titles = async (term: string | null) =>
      (
        await owner().read(at(61), (call) => ledgerWithGrades(call, school.sectionId, term))
      ).columns.map(({ title }) => title);
    expect(await titles(null)).toEqual(["Log"]);
    expect(await titles("Summer")).toEqual(["Old map"]);
    const grades = await own(school.students[0]!, at(61));
    expect(grades.map((grade) => [grade.term, percent(grade)])).toEqual([
      [TERM, "80.0"],
      ["Summer", "70.0"],
    ]);
  });
});

test("a scale of the school is the office's to set, and a section's to take; a later change moves nothing there", async () => {
  const scale = (step: string) => ({
    ...{ name: "Two steps", decimals: 0 as const, round: "half up" as const },
    scale: [
      { from: "50", name: step },
      { from: "0", name: "not yet" },
    ],
  });
  const set = (who: Person, step: string) =>
    as(who).change(NOW, (call) => setGradeScales(call, { scales: [scale(step)] }));
  await set(school.office, "pass");
  for (const who of [school.owner, school.students[0]!])
    await expect(set(who, "mine")).rejects.toThrow(/nothing here/i);
  await expect(
    as(school.office).change(NOW, (call) =>
      setGradeScales(call, { scales: [scale("a"), scale("b")] }),
    ),
  ).rejects.toMatchObject({ fields: { "scales[1].name": "Two scales have this name." } });
  const setUp = () => owner().read(NOW, (call) => sectionSetUp(call, school.sectionId));
  const { gradeScales, gradeRules } = await setUp();
  expect(gradeScales).toEqual([scale("pass")]);
  const { name: _, ...taken } = gradeScales[0]!;
  await owner().change(NOW, (call) =>
    setGradeRules(call, school.sectionId, { ...gradeRules, ...taken }),
  );
  await set(school.office, "changed");
  expect((await setUp()).gradeRules.scale[0]).toEqual({ from: "50", name: "pass" });
});
