import { expect, test } from "@jest/globals";
import { loadSchool } from "../../demo/school";
import { answerOn, testDatabase } from "../support/database";

test("the demo school of one moment is always the same, and holds every state", async () => {
  const now = new Date("2026-10-21T12:41:00Z");
  // Both at once: most of the time PostgreSQL is waited for.
  const load = async (n: number): Promise<unknown> => {
    const database = await testDatabase();
    answerOn(database);
    await database.sql.begin((tx) => loadSchool(tx, now));
    // One id of a piece is chance on purpose: nothing else leads to it.
    const digest = (table: string, order: string) =>
      database.sql.unsafe(
        `select md5(string_agg((to_jsonb(t) - 'by_name')::text, ';' order by ${order})) as digest from ${table} t`,
      );
    const digests = await Promise.all([
      digest("version", "id"),
      digest("mark", "id"),
      digest("piece", "id"),
      digest("hand_back", "id"),
      digest("message", "id"),
      digest("answer", "mark_id"),
    ]);
    if (n === 1) {
      const states = await database.sql<
        { state: string; round: number }[]
      >`select distinct state, round from piece`;
      for (const state of [
        "not_opened",
        "started",
        "handed_in",
        "handed_back",
        "to_revise",
        "reworking",
      ])
        expect(states.some((s) => s.state === state)).toBe(true);
      expect(Math.max(...states.map((s) => s.round))).toBe(3);
      const [facts] = await database.sql<
        {
          late: number;
          missing: number;
          excused: number;
          extended: number;
          drafted: number;
          asked: number;
          outs: number;
        }[]
      >`
        select
          count(*) filter (where late)::int as late, count(*) filter (where awaited and last_moment < ${now})::int as missing, count(*) filter (where excused)::int as excused,
          (select count(*)::int from piece where own_due_at is not null) as extended, count(*) filter (where drafted)::int as drafted, count(*) filter (where asked)::int as asked, count(distinct hand_out_id)::int as outs
        from piece_standing`;
      for (const [what, count] of Object.entries(facts!))
        expect({ what, some: count > 0 }).toEqual({ what, some: true });
      expect(facts!.outs).toBeGreaterThanOrEqual(8);
    }
    await database.drop();
    return digests;
  };
  const [first, second] = await Promise.all([load(0), load(1)]);
  expect(first).toEqual(second);
  // Two whole schools are made; with both cores busy that takes minutes.
}, 400_000);
