import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Person } from "../../src/server/call";
import { setAnonymous } from "../../src/server/marking/flag";
import { find } from "../../src/server/search/find";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

/** Search from any screen: what is found is what one may see, and leads to it. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
const now = new Date("2026-11-02T15:00:00Z");
const found = async (who: Person, text: string) =>
  (await asPerson(database.sql, who).read(now, (call) => find(call, text))).map(
    ({ kind, words, about }) => `${kind}: ${words} (${about})`,
  );

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 3);
  for (const [n, name] of ["Wilhelmina Aster", "Odd Bramblé", "Ines Corrie"].entries())
    await database.sql`update person set name = ${name} where id = ${school.students[n]!.id}`;
  const { handOuts } = await asPerson(database.sql, school.owner).change(now, (call) =>
    handOutSimply(call, school.sectionId, { title: "Lighthouse log", instructions: doc("Write.") }),
  );
  handOutId = handOuts[0]!.id;
});
afterAll(() => database?.drop());

describe("search", () => {
  test("a teacher finds a student, a hand-out, and by both a piece that leads to the Desk", async () => {
    expect(await found(school.owner, "wilhelmnia")).toEqual([
      expect.stringMatching(/^student: Wilhelmina Aster/),
    ]);
    expect(await found(school.owner, "lightho")).toEqual([
      expect.stringMatching(/^handOut: Lighthouse log/),
    ]);
    const hits = await asPerson(database.sql, school.owner).read(now, (call) =>
      find(call, "bramble log"),
    );
    const [piece] = await database.sql<{ id: string }[]>`
      select id from piece where student_id = ${school.students[1]!.id}`;
    expect(hits).toMatchObject([
      { kind: "piece", href: `/desk?pile=all&handOut=${handOutId}&piece=${piece!.id}` },
    ]);
  });

  test("others find nothing of it, and a student only their own work", async () => {
    for (const who of [school.outsider, school.stranger, school.guardian])
      expect(await found(who, "wilhelmina log")).toEqual([]);
    expect(await found(school.students[0]!, "aster")).toEqual([]);
    expect(await found(school.students[0]!, "lighthouse")).toEqual([
      expect.stringMatching(/^piece: Lighthouse log/),
    ]);
    expect(await found(school.office, "aster")).toEqual([
      expect.stringMatching(/^person: Wilhelmina Aster \(student/),
    ]);
    expect(await found(school.office, "lighthouse")).toEqual([]);
  });

  test("a piece that is read without its name is not found by it", async () => {
    await asPerson(database.sql, school.owner).change(now, (call) =>
      setAnonymous(call, handOutId, { anonymous: true }),
    );
    expect((await found(school.owner, "bramble log")).filter((h) => h.startsWith("piece"))).toEqual(
      [],
    );
    await asPerson(database.sql, school.owner).change(now, (call) =>
      setAnonymous(call, handOutId, { anonymous: false }),
    );
  });

  test("what is taken off, or not open yet for a student, is not found", async () => {
    const early = new Date("2026-10-01T12:00:00Z");
    const hits = await asPerson(database.sql, school.students[0]!).read(early, (call) =>
      find(call, "lighthouse"),
    );
    expect(hits).toEqual([]);
    await database.sql`update piece set removed_at = ${now} where student_id = ${school.students[2]!.id}`;
    expect(await found(school.owner, "corrie log")).toEqual([]);
    expect(await found(school.students[2]!, "log")).toEqual([]);
  });

  test("whatever is typed, it answers", async () => {
    for (const text of ["", " ", "%_\\", "'", "\u0000", "x".repeat(10_000), "a ".repeat(500)])
      expect(Array.isArray(await found(school.owner, text))).toBe(true);
  });
});
