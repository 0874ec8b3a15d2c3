import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { HOW_DID_IT_GO } from "../../src/core/handouts/plan";
import type { Person } from "../../src/server/call";
import { extendMany } from "../../src/server/handouts/extendMany";
import { handBack } from "../../src/server/handingBack/handBack";
import { setAnonymous } from "../../src/server/marking/flag";
import { saveFeedback } from "../../src/server/marking/draft";
import { markLookedAt } from "../../src/server/handingBack/lookedAt";
import { sendBatch } from "../../src/server/handingBack/sendBatch";
import { readFigures } from "../../src/server/overview/figures";
import { sectionOverTime } from "../../src/server/overview/overTime";
import { handOutSheet } from "../../src/server/overview/sheet";
import { studentPage } from "../../src/server/overview/student";
import { tickList } from "../../src/server/overview/tickList";
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

/** A hand-out's sheet: one due time for many, how soon work came back, how it went, and a term in figures. */
let database: TestDatabase;
let school: SmallSchool;
let handOut: string;
let pieces: string[];
const NOW = new Date("2026-10-14T15:00:00Z");
const at = (hours: number) => new Date(NOW.getTime() + hours * 3_600_000);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);

beforeAll(async () => {
  database = await testDatabase();
});
afterAll(() => database?.drop());
beforeEach(async () => {
  school = await smallSchool(database.sql, 3);
  const { handOuts } = await owner().change(at(-30), (call) =>
    handOutSimply(call, school.sectionId, {
      ...{ title: "Notebook", instructions: doc("Write."), points: "10" },
      due: "2026-10-15T16:00",
    }),
  );
  handOut = handOuts[0]!.id;
  const rows = await database.sql<{ id: string }[]>`
    select piece.id from piece join person on person.id = student_id
    where hand_out_id = ${handOut} order by person.sort_name`;
  pieces = rows.map(({ id }) => id);
});

const hands = (n: number, moment: Date) =>
  as(school.students[n]!).change(moment, (call) =>
    handIn(call, pieces[n]!, { doc: doc("Rain.") }, 0),
  );
const back = async (n: number, moment: Date, score = "8") => {
  const draft = { overall: "Good.", score, picks: {} };
  await owner().change(moment, (call) => saveFeedback(call, pieces[n]!, draft, 0));
  await owner().change(moment, (call) =>
    handBack(call, pieces[n]!, { outcome: "final", due: null }),
  );
};

describe("one due time for many", () => {
  const extend = (due: string | null, ids = pieces.slice(0, 2), who = school.owner) =>
    as(who).change(NOW, (call) => extendMany(call, handOut, { pieceIds: ids, due, tell: true }));
  const dues = async () => {
    const rows = await database.sql<{ due: Date }[]>`
      select standing.due from piece_standing standing join person on person.id = student_id
      where hand_out_id = ${handOut} order by person.sort_name`;
    return rows.map(({ due }) => due.toISOString());
  };
  const [plain, later] = ["2026-10-15T19:00:00.000Z", "2026-10-17T19:00:00.000Z"];

  test("is set, told once and taken off again, for those chosen alone", async () => {
    expect(await extend("2026-10-17T16:00")).toMatchObject({ changed: 2 });
    expect(await dues()).toEqual([later, later, plain]);
    expect(await extend("2026-10-17T16:00")).toMatchObject({ changed: 0 });
    const told = await database.sql`select from piece_notice where piece_id = any(${pieces})`;
    expect(told).toHaveLength(2);
    expect(await extend(null)).toMatchObject({ changed: 2 });
    expect(await dues()).toEqual([plain, plain, plain]);
  });

  test("takes pieces by the ids of pages that show names, where the Desk hides them", async () => {
    await owner().change(NOW, (call) => setAnonymous(call, handOut, { anonymous: true }));
    const { lines } = await owner().read(NOW, (call) => handOutSheet(call, handOut));
    await extend("2026-10-17T16:00", [lines[0]!.pieceId]);
    expect(await dues()).toEqual([later, plain, plain]);
  });

  test.each([
    ["2026-02-31T10:00", "not a date"],
    ["2026-10-01T10:00", "before it opens"],
  ])("%s is refused, and nobody has another", async (due, why) => {
    await expect(extend(due)).rejects.toMatchObject({
      fields: { due: expect.stringContaining(why) },
    });
    expect(new Set(await dues())).toEqual(new Set([plain]));
  });

  test("is for who may except; a piece of another hand-out stays", async () => {
    await expect(extend(null, pieces, school.co)).rejects.toThrow();
    await expect(extend(null, pieces, school.stranger)).rejects.toThrow(/nothing here/i);
    const { handOuts } = await owner().change(NOW, (call) =>
      handOutSimply(call, school.sectionId, { title: "Other", instructions: doc("Write.") }),
    );
    const [other] = await database.sql<{ id: string }[]>`
      select id from piece where hand_out_id = ${handOuts[0]!.id} limit 1`;
    expect(await extend("2026-10-17T16:00", [other!.id])).toMatchObject({ changed: 0 });
  });
});

describe("in figures", () => {
  const figures = () => owner().read(at(200), (call) => readFigures(call, handOut));

  test("how soon work came back: from the last hand-in of a round to its first hand-back", async () => {
    expect((await figures()).turnaround).toBeNull();
    await hands(0, at(0));
    await back(0, at(5));
    await hands(1, at(1));
    await back(1, at(50));
    await hands(2, at(2));
    await back(2, at(26));
    expect((await figures()).turnaround).toEqual({
      ...{ backs: 3, middle: "1 day", longest: "2 days 1 h" },
    });
  });

  test("how it went: what was chosen with the newest hand-in, in numbers", async () => {
    await database.sql`
      update assignment set self_assessment = ${database.sql.json(HOW_DID_IT_GO as never)}
      where id = (select assignment_id from hand_out where id = ${handOut})`;
    const say = (n: number, moment: Date, choice: string, words = "") =>
      as(school.students[n]!).change(moment, (call) =>
        handIn(
          call,
          pieces[n]!,
          { doc: doc(`Rain ${moment.getTime()}.`), self: { choice, words } },
          0,
        ),
      );
    expect((await figures()).went).toBeNull();
    await say(0, at(0), "easily");
    await say(1, at(1), "I got stuck", "The hours.");
    expect((await figures()).went).toEqual({
      question: "How did it go?",
      choices: [
        { choice: "easily", count: 1 },
        { choice: "with some effort", count: 0 },
        { choice: "it was hard", count: 0 },
        { choice: "I got stuck", count: 1 },
      ],
      words: 1,
    });
  });

  test("a student over the term, and a class by weeks: what came back counts, a draft does not", async () => {
    await hands(0, at(40));
    await back(0, at(50), "7");
    await hands(1, at(1));
    const page = await owner().read(at(200), (call) => studentPage(call, school.students[0]!.id));
    expect(page.course).toMatchObject({
      scores: [{ title: "Notebook", on: "2026-10-15", percent: 70 }],
      categories: [{ category: "", pieces: 1, percent: 70 }],
    });
    const { weeks } = await owner().read(at(200), (call) =>
      sectionOverTime(call, school.sectionId),
    );
    expect(weeks).toMatchObject([{ monday: "2026-10-12", pieces: 3, late: 1, missing: 1 }]);
    expect((await figures()).scores).toMatchObject({ count: 1 });
  });
});

describe("what needs no feedback", () => {
  const mark = (ids: string[], who = school.owner) =>
    as(who).change(at(20), (call) => markLookedAt(call, { pieceIds: ids, words: "Looked at." }));
  const states = async () =>
    (
      await database.sql<{ state: string }[]>`
        select state from piece where id = any(${pieces}) order by array_position(${pieces}::uuid[], id)`
    ).map(({ state }) => state);

  test("goes back with a word, after the time in which it can be called back; the rest is left", async () => {
    await hands(0, at(0));
    await hands(1, at(1));
    await owner().change(at(2), (call) =>
      saveFeedback(call, pieces[1]!, { overall: "Half read.", score: "", picks: {} }, 0),
    );
    const { batch, left } = await mark(pieces);
    expect({ left, waits: batch.pieceIds }).toEqual({ left: 2, waits: [pieces[0]] });
    expect(await states()).toEqual(["handed_in", "handed_in", "not_opened"]);
    await sendBatch(database.sql, { batchId: batch.id }, at(21));
    expect(await states()).toEqual(["handed_back", "handed_in", "not_opened"]);
    const [kept] = await database.sql`select overall from feedback where piece_id = ${pieces[1]!}`;
    expect(kept).toEqual({ overall: "Half read." });
    await expect(mark(pieces)).rejects.toThrow("Nothing was changed");
    await expect(mark([pieces[1]!], school.co)).rejects.toThrow();
  });

  test("the list has what is in, questions beside it, and nobody else's", async () => {
    await hands(0, at(0));
    const list = (who = school.owner) => as(who).read(at(3), (call) => tickList(call));
    expect(await list()).toMatchObject([
      { pieceId: pieces[0], isIn: true, drafted: false, asks: false, came: expect.any(String) },
    ]);
    await database.sql`
      insert into message (id, piece_id, author_id, body, sent_at)
      values (gen_random_uuid(), ${pieces[2]!}, ${school.students[2]!.id}, 'Which day?', ${at(1)})`;
    expect(await list()).toMatchObject([{ asks: false }, { isIn: false, asks: true, came: null }]);
    expect(await list(school.stranger)).toEqual([]);
  });
});
