import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import type { Shows } from "../../src/core/ledger/shows";
import { callBatchBack, makeBatch } from "../../src/server/handingBack/batches";
import { EMPTY_CELL, type CellWork } from "../../src/core/ledger/cell";
import { gradeOf } from "../../src/core/grades/grade";
import { USUAL_RULES } from "../../src/core/grades/rules";
import type { Sign } from "../../src/core/pieces/flags";
import { feedbackRound } from "../../src/core/rounds/feedbackRound";
import type { Person } from "../../src/server/call";
import { setCounting } from "../../src/server/classes/changeSetUp";
import { ownGrades, setGradeRules, studentGrade } from "../../src/server/grades/grades";
import { ledgerWithGrades } from "../../src/server/ledger/out";
import { handBack } from "../../src/server/handingBack/handBack";
import { addColumn } from "../../src/server/ledger/addColumn";
import { ledgerPage, setLayout } from "../../src/server/ledger/layout";
import { PLAIN_LAYOUT } from "../../src/core/ledger/layout";
import { cellNotes, saveCellNote, writtenBeside } from "../../src/server/ledger/notes";
import { addPrivateNote } from "../../src/server/marking/privateNotes";
import { setShows, showWhatStands } from "../../src/server/ledger/shows";
import { saveCells, type GivenCell } from "../../src/server/ledger/save";
import { ledgerView } from "../../src/server/ledger/view";
import { workView } from "../../src/server/overview/work";
import { readPiece, readVersions } from "../../src/server/life/queries";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { saveFeedback } from "../../src/server/marking/draft";
import { flagMany, setAnonymous, setFlag } from "../../src/server/marking/flag";
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

/** What is typed into the Ledger: one score with the Desk's, drafts, flags, two teachers, and columns on paper. */
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

async function give(title: string, due = "2026-10-14T16:00") {
  const { handOuts } = await owner().change(at(-600), (call) =>
    handOutSimply(call, school.sectionId, {
      title,
      instructions: doc("Write."),
      points: "10",
      due,
    }),
  );
  return handOuts[0]!.id;
}
const pieceOf = async (handOutId: string, n: number) =>
  (
    await database.sql<{ id: string }[]>`
      select id from piece where hand_out_id = ${handOutId} and student_id = ${school.students[n]!.id}`
  )[0]!.id;
const cell = (part: Partial<CellWork>): CellWork => ({ ...EMPTY_CELL, ...part });
const given = (
  pieceId: string,
  now: Partial<CellWork>,
  was: Partial<CellWork> = {},
): GivenCell => ({
  ...{ pieceId, was: cell(was), now: cell(now) },
});
const type = (who: Person, cells: GivenCell[], moment = NOW) =>
  as(who).change(moment, (call) => saveCells(call, school.sectionId, cells));
const view = (moment = NOW) => owner().read(moment, (call) => ledgerView(call, school.sectionId));
const cellAt = async (n: number, column = 0, moment = NOW) => {
  const { rows } = await view(moment);
  return rows.find((row) => row.studentId === school.students[n]!.id)!.cells[column]!;
};
const grade = async (n: number, moment = NOW) => {
  const { grades } = await owner().read(moment, (call) => ledgerWithGrades(call, school.sectionId));
  return grades[school.students[n]!.id]!.percent;
};
const hands = (n: number, id: string, moment: Date) =>
  as(school.students[n]!).change(moment, (call) => handIn(call, id, { doc: doc("Rain.") }, 0));
const back = (id: string, outcome: "final" | "revise" = "final", moment = NOW) =>
  owner().change(moment, (call) =>
    handBack(call, id, { outcome, due: outcome === "revise" ? "2026-10-22T09:05" : null }),
  );

/** Back to revise, which asks that something is said. */
async function toRevise(id: string): Promise<void> {
  await database.sql`update feedback set overall = 'Again, with the hours.' where piece_id = ${id}`;
  await back(id, "revise", at(2));
}

describe("a score typed in the Ledger", () => {
  test("is the Desk's draft: seen by teachers, in their grade, and by nobody else until it is handed back", async () => {
    await owner().change(NOW, (call) =>
      setGradeRules(call, school.sectionId, { ...USUAL_RULES, shown: true }),
    );
    const id = await pieceOf(await give("Notebook"), 0);
    const answer = await type(school.owner, [given(id, { score: "8/20" })]);
    expect(answer.cells).toMatchObject([
      { outcome: "saved", cell: { work: { score: "8/20" }, draft: "4", score: null } },
    ]);
    expect(answer.grades).toMatchObject({ [school.students[0]!.id]: { percent: "40.0" } });
    expect(await grade(0)).toBe("40.0");
    const told = () =>
      as(school.students[0]!).read(NOW, async (call) => {
        const [own] = await ownGrades(call);
        return gradeOf(own!.rules, own!.categories, own!.columns, own!.entries).percent;
      });
    expect(await told()).toBeNull();
    const [draft] =
      await database.sql`select score_typed, points::float from feedback where piece_id = ${id}`;
    expect(draft).toMatchObject({ scoreTyped: "8/20", points: 4 });
    await back(id);
    expect(await cellAt(0)).toMatchObject({ score: "4", draft: null, work: { score: "8/20" } });
    expect(await told()).toBe("40.0");
    await type(school.owner, [given(id, { score: "9" }, { score: "8/20" })]);
    expect(await cellAt(0)).toMatchObject({ score: "4", draft: "9" });
    expect([await grade(0), await told()]).toEqual(["90.0", "40.0"]);
    await type(school.owner, [given(id, {}, { score: "9" })]);
    expect(await cellAt(0)).toMatchObject({ score: "4", draft: "" });
    expect(await grade(0)).toBeNull();
  });

  test("has one history with the Desk's, by whom and when, which nothing can change and no student reads", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    await type(school.owner, [given(id, { score: "7" })]);
    const { revision } = await owner().read(at(1), (call) => cellNotes(call, id));
    await as(school.co).change(at(20), (call) =>
      saveFeedback(call, id, { overall: "", score: "8", picks: {} }, revision),
    );
    await type(school.owner, [given(id, {}, { score: "8" })], at(40));
    const desk = await owner().read(at(41), (call) => deskPiece(call, id));
    expect(desk.typedScores.map(({ typed, by }) => [typed, by])).toEqual([
      ["7", "Odalys Brandt"],
      ["8", "Ruben Achterberg"],
      ["", "Odalys Brandt"],
    ]);
    const { typedScores } = await owner().read(at(41), (call) => cellNotes(call, id));
    expect(typedScores).toEqual(desk.typedScores);
    await expect(
      as(school.students[0]!).read(at(41), (call) => cellNotes(call, id)),
    ).rejects.toThrow(nothing);
    await expect(database.sql`update score_typed set typed = '9'`).rejects.toThrow(/append-only/);
  });

  test("leaves all else of the draft as it is", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    await owner().change(NOW, (call) =>
      saveFeedback(call, id, { overall: "Well seen.", score: "", picks: {}, reason: "why" }, 0),
    );
    await type(school.owner, [given(id, { score: "7" })]);
    const [draft] =
      await database.sql`select overall, score_reason, score_typed from feedback where piece_id = ${id}`;
    expect(draft).toEqual({ overall: "Well seen.", scoreReason: "why", scoreTyped: "7" });
  });

  test("loses what lateness takes off, as it will when it is handed back", async () => {
    await owner().change(NOW, (call) =>
      setCounting(call, school.sectionId, {
        late: { kind: "deduct", percent: "10", per: "day", floorPercent: "0" },
        categories: [],
      }),
    );
    const id = await pieceOf(await give("Notebook"), 0);
    const late = at(26 * 60);
    await hands(0, id, late);
    await type(school.owner, [given(id, { score: "8" })], late);
    const drafted = await grade(0, late);
    await back(id, "final", late);
    expect([drafted, await grade(0, late)]).toEqual(["70.0", "70.0"]);
  });

  test("goes to the round that feedback is about, whatever moves were made", async () => {
    const id = await pieceOf(await give("Letter", "2026-10-30T16:00"), 0);
    // Taken back, as it is before anybody reads it; here the draft is begun already.
    const taken = (state: "started" | "reworking") =>
      database.sql`update piece set state = ${state} where id = ${id}`;
    const moves: (() => Promise<unknown>)[] = [
      () => Promise.resolve(),
      () => hands(0, id, NOW),
      () => taken("started"),
      () => hands(0, id, at(1)),
      () => toRevise(id),
      () => hands(0, id, at(3)),
      () => taken("reworking"),
      () => hands(0, id, at(5)),
      () => back(id, "final", at(6)),
    ];
    for (const [n, move] of moves.entries()) {
      await move();
      const [piece, versions] = [
        await readPiece(database.sql, id),
        await readVersions(database.sql, id),
      ];
      const { round } = feedbackRound(piece, versions);
      const typed = `${n + 1}`;
      const [{ scoreTyped } = { scoreTyped: "" }] = await database.sql<{ scoreTyped: string }[]>`
        select score_typed from feedback where piece_id = ${id} and round_number = ${round}`;
      expect((await cellAt(0, 0, at(9))).work.score).toBe(scoreTyped);
      const { cells } = await type(
        school.owner,
        [given(id, { score: typed }, { score: scoreTyped })],
        at(7),
      );
      expect(cells[0]!.outcome).toBe("saved");
      const rows =
        await database.sql`select score_typed from feedback where piece_id = ${id} and round_number = ${round}`;
      expect(rows).toEqual([{ scoreTyped: typed }]);
    }
  });

  test("that is not understood is refused with the reason, and nothing is begun", async () => {
    const [a, b] = await Promise.all([0, 1].map(async (n) => pieceOf(await give(`W${n}`), n)));
    const { cells } = await type(school.owner, [
      given(a!, { score: "lots" }),
      given(b!, { score: "5" }),
    ]);
    expect(cells.find((one) => one.pieceId === a)).toMatchObject({
      ...{ outcome: "refused", why: expect.stringContaining("is not a score") },
    });
    expect(cells.find((one) => one.pieceId === b)).toMatchObject({ outcome: "saved" });
    expect(await database.sql`select from feedback where piece_id = ${a!}`).toHaveLength(0);
  });
});

describe("what is written beside a cell", () => {
  const notes = (id: string) => owner().read(NOW, (call) => cellNotes(call, id));
  const write = (who: Person, id: string, was: string, note: string) =>
    as(who).change(NOW, (call) => saveCellNote(call, id, { was, note }));

  test("to the student is the Desk's overall note: a score typed meanwhile is kept beside it", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    await type(school.owner, [given(id, { score: "7" })]);
    await write(school.owner, id, "", "Count the *hours* too.");
    const [draft] =
      await database.sql`select overall, score_typed from feedback where piece_id = ${id}`;
    expect(draft).toEqual({ overall: "Count the *hours* too.", scoreTyped: "7" });
    expect((await cellAt(0)).noted).toEqual({ kept: 0, toStudent: true });
    await expect(write(school.co, id, "", "Another.")).rejects.toMatchObject({
      theirs: { note: "Count the *hours* too." },
    });
    expect((await notes(id)).note).toBe("Count the *hours* too.");
  });

  test("private is counted at the cell, leaves with the teacher's workbook, and is nobody else's", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    await owner().change(NOW, (call) =>
      addPrivateNote(call, id, { about: "piece", body: "Ask at home.", uploads: [] }),
    );
    await owner().change(NOW, (call) =>
      addPrivateNote(call, id, { about: "student", body: "Reads well.", uploads: [] }),
    );
    expect((await cellAt(0)).noted).toEqual({ kept: 1, toStudent: false });
    expect((await cellAt(1)).noted).toBeNull();
    expect((await notes(id)).kept.map(({ body }) => body)).toEqual(["Ask at home.", "Reads well."]);
    const beside = await owner().read(NOW, (call) => writtenBeside(call, school.sectionId));
    expect([...beside]).toEqual([[id, expect.stringMatching(/^Private, .*: Ask at home\.$/)]]);
    for (const who of [school.students[0]!, school.stranger])
      await expect(as(who).read(NOW, (call) => cellNotes(call, id))).rejects.toThrow(nothing);
  });
});

describe("two teachers in one Ledger", () => {
  test("one thing changed by both is a conflict that names the other; two things are both kept", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    await type(school.co, [given(id, { score: "5" })]);
    const mine = await type(school.owner, [given(id, { score: "8" })]);
    expect(mine.cells).toMatchObject([
      { outcome: "conflict", by: "Ruben Achterberg", cell: { work: { score: "5" } } },
    ]);
    const flagged = await type(school.owner, [given(id, { flag: "away" })]);
    expect(flagged.cells).toMatchObject([
      { outcome: "saved", cell: { work: { score: "5", flag: "away" } } },
    ]);
    // The answer was lost on the way, and it is asked for again.
    expect((await type(school.owner, [given(id, { flag: "away" })])).cells[0]!.outcome).toBe(
      "saved",
    );
  });

  test("a co-teacher who may not hand back may not excuse; the other cells are kept", async () => {
    const handOut = await give("Notebook");
    const [a, b] = [await pieceOf(handOut, 0), await pieceOf(handOut, 1)];
    const { cells } = await type(school.co, [
      given(a, { excused: true }),
      given(b, { score: "6" }),
    ]);
    const outcomes = new Map(cells.map((one) => [one.pieceId, one.outcome]));
    expect([outcomes.get(a), outcomes.get(b)]).toEqual(["refused", "saved"]);
    await type(school.owner, [given(a, { excused: true })]);
    expect((await cellAt(0)).moon.excused).toBe(true);
    expect(await database.sql`select words from piece_notice where piece_id = ${a}`).toHaveLength(
      1,
    );
  });

  test("who is not of the section, a piece of another and one twice change nothing", async () => {
    const id = await pieceOf(await give("Notebook"), 0);
    for (const who of [school.stranger, school.students[0]!, school.office, school.guardian])
      await expect(type(who, [given(id, { score: "5" })])).rejects.toThrow(nothing);
    const elsewhere = (call: Parameters<typeof saveCells>[0]) =>
      saveCells(call, school.otherSectionId, [given(id, { score: "5" })]);
    await expect(owner().change(NOW, elsewhere)).rejects.toThrow(nothing);
    await expect(as(school.stranger).change(NOW, elsewhere)).rejects.toThrow(nothing);
    await expect(
      type(school.owner, [given(id, { score: "5" }), given(id, { score: "6" })]),
    ).rejects.toThrow("twice");
    expect(await database.sql`select from feedback where piece_id = ${id}`).toHaveLength(0);
  });

  test("while names are hidden a cell has no piece, no draft and takes nothing", async () => {
    const handOut = await give("Notebook");
    const id = await pieceOf(handOut, 0);
    await hands(0, id, NOW);
    await owner().change(NOW, (call) => setAnonymous(call, handOut, { anonymous: true }));
    await owner().change(NOW, (call) =>
      saveFeedback(call, id, { overall: "", score: "8", picks: {} }, 0),
    );
    expect(await cellAt(0)).toMatchObject({ pieceId: null, draft: null, work: EMPTY_CELL });
    expect(await grade(0)).toBeNull();
    await expect(type(school.owner, [given(id, { score: "5" }, { score: "8" })])).rejects.toThrow(
      nothing,
    );
  });
});

describe("flags", () => {
  test("late and missing are said where no date says it, and count so; a score takes the place of missing", async () => {
    await owner().change(NOW, (call) => addColumn(call, school.sectionId, PAPER));
    const [handOut] = await database.sql<
      { id: string }[]
    >`select id from hand_out where section_id = ${school.sectionId}`;
    const id = await pieceOf(handOut!.id, 0);
    expect((await cellAt(0)).moon).toMatchObject({ late: false, missing: false });
    await owner().change(NOW, (call) => setFlag(call, id, { flag: "missing" }));
    expect((await cellAt(0)).moon).toMatchObject({ late: false, missing: true });
    expect(await grade(0)).toBe("0.0");
    const detail = await owner().read(NOW, (call) =>
      studentGrade(call, {
        sectionId: school.sectionId,
        studentId: school.students[0]!.id,
        term: null,
      }),
    );
    expect(detail.entries).toMatchObject([{ state: "missing" }]);
    await type(school.owner, [given(id, { score: "7", flag: "late" }, { flag: "missing" })]);
    expect((await cellAt(0)).moon).toMatchObject({ late: true, missing: false });
    expect(await grade(0)).toBe("70.0");
  });
});

test("what the dates call late, a teacher calls on time: the deduction goes, also of what is drafted", async () => {
  await owner().change(NOW, (call) =>
    setCounting(call, school.sectionId, {
      late: { kind: "deduct", percent: "10", per: "day", floorPercent: "0" },
      categories: [],
    }),
  );
  const id = await pieceOf(await give("Notebook"), 0);
  await hands(0, id, at(26 * 60));
  await type(school.owner, [given(id, { score: "9" })], at(27 * 60));
  expect((await cellAt(0, 0, at(28 * 60))).moon.late).toBe(true);
  expect(await grade(0, at(28 * 60))).toBe("80.0");
  const late = { score: "9" };
  await type(school.owner, [given(id, { ...late, flag: "on time" }, late)], at(28 * 60));
  expect((await cellAt(0, 0, at(29 * 60))).moon.late).toBe(false);
  expect(await grade(0, at(29 * 60))).toBe("90.0");
  await back(id, "final", at(30 * 60));
  expect((await cellAt(0, 0, at(31 * 60))).score).toBe("9");
});

describe("flags for many at once, from the sheet", () => {
  test("each has its line of history once; a score stays; excused tells its student", async () => {
    const handOut = await give("Notebook");
    const ids = await Promise.all([0, 1, 2].map((n) => pieceOf(handOut, n)));
    await type(school.owner, [given(ids[0]!, { score: "5", flag: "away" })]);
    const flag = (sign: Sign | null, who = school.owner) =>
      as(who).change(NOW, (call) => flagMany(call, handOut, { pieceIds: ids, sign }));
    expect(await flag("away")).toEqual({ changed: 2 });
    expect(await flag("away")).toEqual({ changed: 0 });
    expect(await flag("excused")).toEqual({ changed: 3 });
    expect((await cellAt(0)).work).toEqual({ score: "5", flag: null, excused: true });
    await expect(flag("excused", school.co)).rejects.toThrow("owner");
    // A co-teacher takes flags off, not excuses.
    expect(await flag(null, school.co)).toEqual({ changed: 0 });
    expect(await flag(null)).toEqual({ changed: 3 });
    await expect(flag("late", school.stranger)).rejects.toThrow(nothing);
    const notices = await database.sql`select from piece_notice where piece_id = any(${ids})`;
    expect(notices).toHaveLength(6);
  });
  test("none reaches a piece of another hand-out, or one that is read without its name", async () => {
    const [one, other] = [await give("Notebook"), await give("Letter")];
    const [mine, theirs] = [await pieceOf(one, 0), await pieceOf(other, 0)];
    await owner().change(NOW, (call) => setAnonymous(call, one, { anonymous: true }));
    const done = await owner().change(NOW, (call) =>
      flagMany(call, one, { pieceIds: [mine, theirs], sign: "late" }),
    );
    expect(done).toEqual({ changed: 0 });
  });
});

const PAPER = { title: "Quiz on tides", points: "10", on: "2026-10-02", category: "" };
describe("how a teacher lays the Ledger out", () => {
  const page = (beside: string[] = []) =>
    owner().read(NOW, (call) => ledgerPage(call, school.sectionId, { term: null, beside }));

  test("what is kept of it in one place leaves the rest as it is, and is nobody else's", async () => {
    const [one, two] = [await give("One"), await give("Two")];
    const lay = (layout: Parameters<typeof setLayout>[2]) =>
      owner().change(NOW, (call) => setLayout(call, school.sectionId, layout));
    await lay({ hidden: [one], group: "week" });
    await lay({ widths: [{ id: two, px: 200 }] });
    await lay({ sort: { by: two, down: true } });
    const { layout, columns } = await page();
    expect(layout).toMatchObject({ hidden: [one], group: "week", sort: { by: two, down: true } });
    expect(columns.map(({ handOutId, width }) => [handOutId, width])).toEqual([[two, 200]]);
    const theirs = await as(school.co).read(NOW, (call) =>
      ledgerPage(call, school.sectionId, { term: null }),
    );
    expect(theirs.layout).toEqual(PLAIN_LAYOUT);
  });

  test("a section of others is not to be had beside one's own", async () => {
    await give("One");
    await expect(page([school.otherSectionId])).rejects.toThrow(nothing);
    await expect(
      as(school.stranger).read(NOW, (call) =>
        ledgerPage(call, school.otherSectionId, { term: null, beside: [school.sectionId] }),
      ),
    ).rejects.toThrow(nothing);
  });
});

describe("a column for work off the screen", () => {
  test("stands on its day, also one that is over, for everybody, and asks nothing of them", async () => {
    await owner().change(NOW, (call) => addColumn(call, school.sectionId, PAPER));
    const { columns, rows } = await view();
    expect(columns).toMatchObject([{ title: "Quiz on tides", possible: "10", onPaper: true }]);
    expect(rows.map((row) => row.cells[0]?.moon.missing)).toEqual([false, false, false]);
  });
  test.each([
    [{ points: "many" }, "points"],
    [{ points: "0" }, "points"],
    [{ on: "2026-02-31" }, "on"],
    [{ title: " " }, "title"],
  ])("%j is said at its field, and nothing is made", async (part, field) => {
    const made = owner().change(NOW, (call) =>
      addColumn(call, school.sectionId, { ...PAPER, ...part }),
    );
    await expect(made).rejects.toMatchObject({ fields: { [field]: expect.any(String) } });
    expect((await view()).columns).toEqual([]);
  });
  test("is the owner's and trusted co-teachers' to make", async () => {
    for (const who of [school.co, school.stranger, school.students[0]!])
      await expect(
        as(who).change(NOW, (call) => addColumn(call, school.sectionId, PAPER)),
      ).rejects.toThrow();
  });
});

describe("when students see the scores of a column", () => {
  type When = { shows: Shows; on?: string };
  async function paper({ shows, on = "" }: When, by = school.owner) {
    const { handOutId } = await owner().change(NOW, (call) =>
      addColumn(call, school.sectionId, PAPER),
    );
    await as(by).change(NOW, (call) => setShows(call, handOutId, { shows, on: on || null }));
    const ids = await Promise.all([0, 1, 2].map((n) => pieceOf(handOutId, n)));
    await type(school.owner, [given(ids[0]!, { score: "7" }), given(ids[1]!, { excused: true })]);
    return { handOutId, ids };
  }
  const show = (minutes: number) => showWhatStands(database.sql, at(minutes));
  const told = async () => (await cellAt(0)).score;

  test("typed: ten minutes after the last change, once, with the note; a later change goes again", async () => {
    const { ids } = await paper({ shows: "typed" });
    expect([await show(9), await told()]).toEqual([0, null]);
    expect([await show(10), await told()]).toEqual([1, "7"]);
    expect(await show(60)).toBe(0);
    await owner().change(at(70), (call) =>
      saveCellNote(call, ids[0]!, { was: "", note: "Count the hours, {name}." }),
    );
    await type(school.owner, [given(ids[0]!, { score: "8" }, { score: "7" })], at(75));
    expect([await show(84), await show(85), await show(200)]).toEqual([0, 1, 0]);
    const backs = await database.sql<{ points: number; overall: string }[]>`
      select (content->>'points')::float as points, content->>'overall' as overall
      from hand_back where piece_id = ${ids[0]!} order by number`;
    expect([...backs]).toEqual([
      { points: 7, overall: "" },
      { points: 8, overall: expect.stringMatching(/^Count the hours, Student/) },
    ]);
  });

  test("date: not before its day has begun at the school; never: not at all, by whatever way", async () => {
    await paper({ shows: "date", on: "2026-10-16" });
    const midnight = (new Date("2026-10-16T03:00:00Z").getTime() - NOW.getTime()) / 60_000;
    expect([await show(midnight - 1), await show(midnight)]).toEqual([0, 1]);
    const { ids } = await paper({ shows: "never" });
    expect(await show(50_000)).toBe(0);
    await expect(back(ids[0]!)).rejects.toThrow("for teachers only");
    expect(await grade(0)).toBe("70.0");
  });

  test("what waits for nobody's hand is on no pile; work that is handed in has no such rule", async () => {
    const piles = async () =>
      (
        await database.sql`select from piece_standing where section_id = ${school.sectionId} and pile = 'drafted'`
      ).length;
    await paper({ shows: "never" });
    expect(await piles()).toBe(0);
    const mine = await as(school.students[0]!).read(NOW, (call) => workView(call));
    expect(JSON.stringify(mine)).not.toContain(PAPER.title);
    await paper({ shows: "by hand" });
    expect(await piles()).toBe(1);
    const digital = await give("Letter");
    const set = (who: Person, id: string) =>
      as(who).change(NOW, (call) => setShows(call, id, { shows: "typed", on: null }));
    await expect(set(school.owner, digital)).rejects.toThrow("go back with the feedback");
    await expect(set(school.co, digital)).rejects.toThrow();
  });

  test("nothing goes in the name of somebody who may no longer hand back, nor what an act has taken up", async () => {
    const { handOutId, ids } = await paper({ shows: "typed" });
    const role = (mayHandBack: boolean) => database.sql`
      update section_teacher set may_hand_back = ${mayHandBack}
      where section_id = ${school.sectionId} and person_id = ${school.co.id}`;
    await role(true);
    await as(school.co).change(NOW, (call) =>
      setShows(call, handOutId, { shows: "typed", on: null }),
    );
    await role(false);
    expect(await show(30)).toBe(0);
    await role(true);
    const batch = await owner().change(at(31), (call) =>
      makeBatch(call, {
        ...{ pieceIds: [ids[0]!], outcome: "final", due: null, at: null, hold: 600 },
        ...{ message: "", scores: "now", scoresAt: null },
      }),
    );
    expect(await show(32)).toBe(0);
    await owner().change(at(33), (call) => callBatchBack(call, batch.id));
    expect(await show(34)).toBe(1);
  });

  test("a new column begins as its category says, unless it says otherwise", async () => {
    await owner().change(NOW, (call) =>
      setCounting(call, school.sectionId, {
        late: { kind: "flag" },
        categories: [{ id: null, name: "Quizzes", weight: "10", drop: 0, shows: "typed" }],
      }),
    );
    const made = (part: object) =>
      owner().change(NOW, (call) =>
        addColumn(call, school.sectionId, { ...PAPER, category: "Quizzes", ...part }),
      );
    await made({});
    await made({ shows: "never", on: "2026-10-03" });
    const { columns } = await view();
    expect(columns.map((column) => column.shows.when)).toEqual(["typed", "never"]);
  });
});
