import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import type { Person } from "../../src/server/call";
import { handBack } from "../../src/server/handingBack/handBack";
import { addColumn } from "../../src/server/ledger/addColumn";
import { writeLetter } from "../../src/server/letters/write";
import { saveFeedback } from "../../src/server/marking/draft";
import type { Language } from "../../src/core/language/languages";
import { countWeek, setLanguage, setWeekMail, weekView } from "../../src/server/weekSheet/week";
import { mailWeekSheets } from "../../src/server/weekSheet/weekMail";
import {
  answerOn,
  asPerson,
  doc,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

/** The week sheet of guardians: this week and earlier ones, scores that were told, letters, and the mail on Fridays. */
let database: TestDatabase;
let school: SmallSchool;
/** A Wednesday; at the school it is noon. */
const NOW = new Date("2026-10-14T15:00:00Z");
const DAY = 86_400_000;
const day = (n: number) => new Date(NOW.getTime() + n * DAY);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
});
afterAll(() => endAnswers(database));
beforeEach(async () => {
  school = await smallSchool(database.sql, 2);
});

const sheet = (moment = NOW, wanted: string | null = null) =>
  as(school.guardian).read(moment, (call) => weekView(call, wanted));
const titles = async (moment = NOW, wanted: string | null = null) =>
  (await sheet(moment, wanted)).children[0]!.lines.map(({ title }) => title);
const give = (title: string, due: string) =>
  owner().change(day(-20), (call) =>
    handOutSimply(call, school.sectionId, { ...{ title, instructions: doc("Write."), due } }),
  );
/** A quiz on paper, scored for the first student; handed back unless it stays a draft. */
async function quiz(title: string, on: string, back: Date | null): Promise<void> {
  const column = { title, points: "10", on, category: "" };
  const { handOutId } = await owner().change(day(-20), (call) =>
    addColumn(call, school.sectionId, column),
  );
  const [piece] = await database.sql<{ id: string }[]>`
    select id from piece where hand_out_id = ${handOutId} and student_id = ${school.students[0]!.id}`;
  const draft = { overall: "Only for Student.", score: "7", picks: {} };
  await owner().change(day(-3), (call) => saveFeedback(call, piece!.id, draft, 0));
  if (back)
    await owner().change(back, (call) =>
      handBack(call, piece!.id, { outcome: "final", due: null }),
    );
}

describe("the sheet", () => {
  test("this week has what is wanted, whenever it is due; an earlier one what was due or came back in it", async () => {
    await give("Missing letter", "2026-10-02T16:00");
    await give("Next month's log", "2026-11-20T16:00");
    await quiz("Old quiz", "2026-10-06", day(-7));
    expect(await titles()).toEqual(["Missing letter", "Next month's log"]);
    expect(await titles(NOW, "2026-10-07")).toEqual(["Old quiz"]);
    expect(await titles(NOW, "2026-09-30")).toEqual(["Missing letter"]);
    const earlier = await sheet(NOW, "2026-10-07");
    expect([earlier.present, earlier.earlier, earlier.later]).toEqual([
      ...[false, "2026-09-28", "2026-10-12"],
    ]);
    expect(earlier.children[0]!.lines).toMatchObject([
      { score: "7 / 10", back: expect.any(String) },
    ]);
  });

  test("a day that is to come, long ago or none at all is this week", async () => {
    for (const wanted of ["2026-10-14", "2027-01-01", "2001-01-01"])
      expect((await sheet(NOW, wanted)).present).toBe(true);
  });

  test("a week ends by the school's clock, also where it is put back within it", async () => {
    await give("Due on Sunday night", "2026-11-01T23:50");
    await give("Due on Monday", "2026-11-02T00:10");
    const later = day(30);
    expect(await titles(later, "2026-10-26")).toEqual(["Due on Sunday night"]);
    expect(await titles(later, "2026-11-02")).toEqual(["Due on Monday"]);
  });

  test("drafts, feedback and another's child are on no sheet; a letter to the guardian is", async () => {
    await quiz("Drafted quiz", "2026-10-13", null);
    await owner().change(day(-1), (call) =>
      writeLetter(call, school.sectionId, {
        ...{ handOutId: null, studentIds: school.students.map(({ id }) => id), to: "guardians" },
        ...{ subject: "Wet boots", body: "Please bring {name} dry ones." },
      }),
    );
    const week = await sheet();
    expect(week.children).toMatchObject([
      {
        lines: [{ title: "Drafted quiz", score: null, back: null }],
        letters: [{ subject: "Wet boots", body: "Please bring Student dry ones.", unread: true }],
      },
    ]);
    expect(JSON.stringify(week)).not.toContain("Only for Student");
    expect((await sheet(day(7), "2026-10-14")).children[0]!.letters).toHaveLength(1);
    expect((await sheet(day(7))).children[0]!.letters).toHaveLength(0);
    for (const who of [school.students[0]!, school.owner, school.office])
      await expect(as(who).read(NOW, (call) => weekView(call))).rejects.toThrow(/nothing here/i);
  });
});

describe("the mail of the week", () => {
  const letters = async () =>
    (
      await database.sql<{ mime: Buffer }[]>`
        select mime from mail where person_id = ${school.guardian.id} order by id`
    ).map(({ mime }) => mime.toString());
  /** Fridays at the school's 14:59 and 15:00, and the Saturday. */
  const [before, friday, saturday] = [
    new Date("2026-10-16T17:59:00Z"),
    new Date("2026-10-16T18:00:00Z"),
    new Date("2026-10-17T18:00:00Z"),
  ];

  test("goes once, on Friday at three, with numbers and without a word of the work", async () => {
    await give("Secret letter", "2026-10-02T16:00");
    await give("Secret log", "2026-11-20T16:00");
    expect(await as(school.guardian).read(friday, (call) => countWeek(call))).toEqual({
      due: 1,
      missing: 1,
      back: 0,
    });
    await mailWeekSheets(database.sql, before);
    expect(await letters()).toHaveLength(0);
    await Promise.all([1, 2, 3].map(() => mailWeekSheets(database.sql, friday)));
    await mailWeekSheets(database.sql, friday);
    await mailWeekSheets(database.sql, saturday);
    const [text, ...more] = await letters();
    expect(more).toEqual([]);
    expect(text).toContain("1 is missing");
    expect(text).not.toContain("Secret");
    await mailWeekSheets(database.sql, new Date(friday.getTime() + 7 * DAY));
    expect(await letters()).toHaveLength(2);
  });

  test("does not go to who switched it off, nor where the sheet is empty", async () => {
    await mailWeekSheets(database.sql, friday);
    expect(await letters()).toHaveLength(0);
    await give("Secret letter", "2026-10-02T16:00");
    await as(school.guardian).change(friday, (call) => setWeekMail(call, { on: false }));
    await mailWeekSheets(database.sql, new Date(friday.getTime() + 7 * DAY));
    expect(await letters()).toHaveLength(0);
    expect((await sheet()).mail.on).toBe(false);
  });

  test("is in the language that was chosen, and so is the sheet; whoever chose nothing reads English", async () => {
    await give("Secret letter", "2026-10-02T16:00");
    expect((await sheet()).language).toBe("en");
    await as(school.guardian).change(friday, (call) => setLanguage(call, { language: "fr" }));
    const [{ language }] = await database.sql<[{ language: Language }]>`
      select language from person where id = ${school.guardian.id}`;
    const guardian: Person = { ...school.guardian, language };
    const shown = await as(guardian).read(friday, (call) => weekView(call));
    expect(shown.words).toMatch(/^du lun\. 12 oct\. au dim\. 18 oct\.$/);
    expect(shown.children[0]!.lines[0]!.state).toBe("pas encore ouvert, manquant");
    await mailWeekSheets(database.sql, friday);
    expect((await letters())[0]).toContain("1 travail manque");
  });
  test("only guardians choose it, each for themselves", async () => {
    for (const who of [school.owner, school.students[0]!])
      await expect(
        as(who).change(NOW, (call) => setLanguage(call, { language: "fr" })),
      ).rejects.toThrow();
    const rows =
      await database.sql`select id from person where language <> 'en' and school_id = ${school.owner.schoolId}`;
    expect(rows).toEqual([]);
  });
});
