import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { reattach } from "../../src/core/marks/reattach";
import { compareTexts } from "../../src/core/text/compare";
import { comparedTexts, dropOldComparisons, followedMarks } from "../../src/server/text/aligned";
import { endThreads, inThread } from "../../src/server/threads/threads";
import { testDatabase, type TestDatabase } from "../support/database";

let database: TestDatabase;
beforeAll(async () => {
  database = await testDatabase();
});
afterAll(async () => {
  await endThreads();
  await database?.drop();
});

const BEFORE = "It recieves rain from the roof. I think it is wrong.\nOn Monday it was dry.";
const AFTER = "On Monday it was dry.\nIt receives rain from the roof, I think.";
const kept = async () =>
  (await database.sql<{ n: number }[]>`select count(*)::int as n from compared`)[0]!.n;

describe("two texts", () => {
  test("are compared in a thread as they are here, once, and kept", async () => {
    const first = await comparedTexts(database.sql, BEFORE, AFTER);
    expect(first).toEqual(compareTexts(BEFORE, AFTER));
    expect(await kept()).toBe(1);
    await endThreads();
    expect(await comparedTexts(database.sql, BEFORE, AFTER)).toEqual(first);
    expect(await kept()).toBe(1);
    // The other way round is another comparison, also where the texts joined would be the same letters.
    await comparedTexts(database.sql, AFTER, BEFORE);
    expect(await kept()).toBe(2);
  });
  test("marks followed by what was kept stand where they would be put anew", async () => {
    const ranges = [
      { start: 3, end: 11 },
      { start: BEFORE.indexOf("wrong"), end: BEFORE.indexOf("wrong") + 5 },
      { start: BEFORE.indexOf("Monday"), end: BEFORE.indexOf("Monday") + 6 },
      { start: 0, end: 0 },
    ];
    const marks = ranges.map((range, n) => ({ id: String(n), kind: "note", ...range }) as never);
    const handBack = {
      round: 1,
      outcome: "revise" as const,
      content: { versionId: "v", marks, rulings: [] } as never,
    };
    const texts = new Map([["v", BEFORE]]);
    const follow = () => followedMarks(database.sql, { handBacks: [handBack], texts }, AFTER);
    // Of what is gone it is also known where it could be put.
    expect((await follow()).get(1)).toMatchObject(reattach(BEFORE, ranges, AFTER));
    expect((await follow()).get(1)).toEqual((await follow()).get(1));
  });
  test("what takes too long is ended, and the next is answered", async () => {
    const long = Array.from({ length: 60_000 }, (_, n) => `w${(n * 7919) % 5003}`);
    const slow = inThread("compareKept", [long.join(" "), long.reverse().join("\n")], 0.02);
    await expect(slow).rejects.toThrow();
    const { comparison } = await inThread("compareKept", ["a", "a"], 10);
    expect(comparison.lines.map((line) => line.kind)).toEqual(["same"]);
  });
  test("what was kept goes after a season, and is worked out again when asked for", async () => {
    await dropOldComparisons(database.sql, new Date(Date.now() + 130 * 86_400_000));
    expect(await kept()).toBe(0);
    await comparedTexts(database.sql, BEFORE, AFTER);
    expect(await kept()).toBe(1);
  });
});
