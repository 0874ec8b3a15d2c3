import { afterAll, beforeAll, beforeEach, expect, test } from "@jest/globals";
import ICAL from "ical.js";
import type { Person } from "../../src/server/call";
import { movePromise } from "../../src/server/handouts/changeHandOut";
import { handBack } from "../../src/server/handingBack/handBack";
import { saveFeedback } from "../../src/server/marking/draft";
import {
  readingPlan,
  readingPlanFile,
  setReadingTimes,
} from "../../src/server/overview/readingPlan";
import { handIn } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

/** The reading plan: what waits, in the time there is; a promise that is moved; promises that were kept. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let pieces: string[];
/** Wednesday 14 October, 12:00 in Halifax. */
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
  const { handOuts } = await owner().change(at(-48), (call) =>
    handOutSimply(call, school.sectionId, {
      ...{ title: "Log", instructions: doc("Write."), points: "10" },
      ...{ due: "2026-10-14T11:00", promised: "2026-10-15T16:00" },
    }),
  );
  handOutId = handOuts[0]!.id;
  const rows = await database.sql<{ id: string; studentId: string }[]>`
    select id, student_id from piece where hand_out_id = ${handOutId}`;
  pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
  for (const [n, id] of pieces.entries())
    await as(school.students[n]!).change(at(-2), (call) =>
      handIn(call, id, { doc: doc("It rained."), answers: {} }, 0),
    );
});
const plan = (now = NOW) => owner().read(now, readingPlan);
const times = (given: { weekday: number; starts: string; ends: string }[]) =>
  owner().change(NOW, (call) => setReadingTimes(call, { times: given }));

test("own times are planned with; what does not fit says what would help, and a moved promise is what students see", async () => {
  // Thursday for five minutes less than three pieces at four minutes, and Friday.
  await times([
    { weekday: 4, starts: "10:00", ends: "10:10" },
    { weekday: 5, starts: "10:00", ends: "11:00" },
  ]);
  const before = await plan();
  expect(before.sittings.map(({ day, from, reads }) => [day, from, reads[0]!.pieces])).toEqual([
    ["tomorrow", "10:00", 2],
    [expect.stringMatching(/16 Oct/), "10:00", 1],
  ]);
  expect(before).toMatchObject({ own: true, guessed: true });
  const [outlook] = before.outlooks;
  expect(outlook).toMatchObject({ late: 1, minutesShort: 4, broken: false });
  expect(outlook!.better).toMatch(/^2026-10-16T/);
  await owner().change(NOW, (call) => movePromise(call, handOutId, { promised: outlook!.better! }));
  expect((await plan()).outlooks[0]).toMatchObject({ late: 0, better: null });
  const seen = await as(school.students[0]!).read(NOW, (call) => pieceView(call, pieces[0]!));
  expect(JSON.stringify(seen)).toContain("16 Oct");
  await expect(
    owner().change(NOW, (call) => movePromise(call, handOutId, { promised: "2026-10-14T09:00" })),
  ).rejects.toThrow(/before it is due/);
  await expect(
    as(school.outsider).change(NOW, (call) =>
      movePromise(call, handOutId, { promised: "2026-10-20T09:00" }),
    ),
  ).rejects.toThrow(/nothing here/i);
});

test("without own times it is planned between lessons, on days with school alone", async () => {
  await database.sql`
    insert into meeting ${database.sql(
      ["09:00", "11:00"].flatMap((starts, n) =>
        [4, 6].map((weekday) => ({
          ...{ id: crypto.randomUUID(), sectionId: school.sectionId, weekday, starts },
          ends: n === 0 ? "10:00" : "12:00",
        })),
      ),
    )}`;
  const { own, times: found, sittings } = await plan();
  expect([own, found[0]]).toEqual([false, { weekday: 4, starts: "10:00", ends: "11:00" }]);
  expect(sittings.map(({ day }) => day)).toEqual(["tomorrow"]);
  await expect(times([{ weekday: 1, starts: "11:00", ends: "10:00" }])).rejects.toMatchObject({
    fields: { "times[0]": "It ends before it begins." },
  });
});

test("a promise is kept when all that came in time was back by then", async () => {
  const back = (id: string, when: Date) =>
    owner().change(when, async (call) => {
      await saveFeedback(call, id, { overall: "Read.", score: "8", picks: {} }, 0);
      await handBack(call, id, { outcome: "final", due: null });
    });
  await back(pieces[0]!, at(1));
  await back(pieces[1]!, at(2));
  // Promised for Thursday at 16:00; where the last one comes on Friday, it was not kept.
  expect((await plan(at(40))).kept).toEqual({ kept: 0, of: 1 });
  const { handOuts } = await owner().change(at(3), (call) =>
    handOutSimply(call, school.sectionId, {
      ...{ title: "Map", instructions: doc("Draw."), points: "10" },
      ...{ due: "2026-10-15T09:00", promised: "2026-10-16T16:00" },
    }),
  );
  await back(pieces[2]!, at(41));
  // Nobody handed the map in: there is nothing that could be back too late.
  expect(handOuts).toHaveLength(1);
  expect((await plan(at(72))).kept).toEqual({ kept: 1, of: 2 });
});

test("as iCalendar another program reads its stretches (ical.js; RFC 5545)", async () => {
  await times([{ weekday: 4, starts: "10:00", ends: "10:30" }]);
  const response = await owner().read(NOW, readingPlanFile);
  const calendar = new ICAL.Component(ICAL.parse(await response.text()));
  const [event] = calendar.getAllSubcomponents("vevent").map((one) => new ICAL.Event(one));
  expect(event!.startDate.toJSDate()).toEqual(new Date("2026-10-15T13:00:00Z"));
  expect(event!.endDate.toJSDate()).toEqual(new Date("2026-10-15T13:12:00Z"));
  expect(event!.summary).toContain("3 × Log");
  for (const who of [school.students[0]!, school.guardian])
    await expect(as(who).read(NOW, readingPlanFile)).rejects.toThrow(/nothing here/i);
});
