import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { createHash, randomBytes } from "node:crypto";
import { mkdtemp, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { isMissing } from "../../src/core/pieces/standing";
import { lateness } from "../../src/core/time/lateness";
import { connect } from "../../src/server/db/connection";
import { migrate } from "../../src/server/db/migrate";
import { readBlob, storeBlob } from "../../src/server/blobs/blobs";
import { signIn } from "../../src/server/auth/signIn";
import { hashPassword } from "../../src/server/auth/passwords";
import {
  beginSession,
  endAllSessions,
  endOwnSession,
  listSessions,
  whoIs,
} from "../../src/server/auth/sessions";
import {
  changeOwnPassword,
  giveFirstPasswords,
  givePassword,
  prepareFirstPasswords,
  prepareNewPassword,
  prepareOwnPassword,
} from "../../src/server/auth/givePassword";
import { NotFound } from "../../src/core/refusals";
import { readPiece } from "../../src/server/life/queries";
import { once } from "../../src/server/http/once";
import { readSettings } from "../../src/server/settings";
import {
  asPerson,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";

let database: TestDatabase;
let demo: TestDatabase;
let school: SmallSchool;
beforeAll(async () => {
  [database, demo] = [await testDatabase(), await testDatabase("almanac_demo")];
  school = await smallSchool(database.sql);
});
afterAll(async () => {
  await database?.drop();
  await demo?.drop();
});

const LATER = [
  "0002_handing_out.sql",
  "0003_every_kind_of_work.sql",
  "0004_the_desk.sql",
  "0005_voice.sql",
  "0006_section_notes.sql",
  "0007_flow_and_safety.sql",
  "0008_equal_versions_and_names.sql",
  "0009_put_away_and_first_days.sql",
  "0010_handing_back.sql",
  "0011_looks_and_displays.sql",
  "0012_talk.sql",
  "0013_files_reports_and_grades.sql",
  "0014_ledger.sql",
  "0015_live_and_frozen.sql",
  "0016_columns_shown.sql",
  "0017_scores_typed.sql",
  "0018_desk_second_edition.sql",
  "0019_in_the_writing_and_in_ink.sql",
];

describe("migrations", () => {
  test("two servers starting at once apply each file once", async () => {
    const empty = await testDatabase();
    await empty.sql.unsafe("drop schema public cascade; create schema public");
    const others = [connect(empty.url, 2), connect(empty.url, 2), connect(empty.url, 2)];
    const applied = await Promise.all(others.map((sql) => migrate(sql)));
    expect(applied.flat()).toEqual(["0001_ground.sql", ...LATER]);
    await Promise.all(others.map((sql) => sql.end()));
    await empty.drop();
  });
  test("one that fails changes nothing and is named", async () => {
    const folder = await mkdtemp(path.join(os.tmpdir(), "migrations-"));
    await writeFile(path.join(folder, "0001_ground.sql"), "select 1");
    for (const name of LATER) await writeFile(path.join(folder, name), "select 1");
    await writeFile(
      path.join(folder, "0006_wrong.sql"),
      "create table half_made (id int); select nonsense from nowhere;",
    );
    await expect(migrate(database.sql, folder)).rejects.toThrow(
      /0006_wrong\.sql failed and changed nothing/,
    );
    const [{ there } = { there: true }] = await database.sql<
      { there: boolean }[]
    >`select to_regclass('half_made') is not null as there`;
    expect(there).toBe(false);
  });
});

describe("what the data must never allow", () => {
  const tables = [
    ["version", "words"],
    ["hand_back", "outcome"],
    ["score", "typed"],
    ["message", "body"],
    ["event", "kind"],
  ];
  test.each(tables)("%s refuses to be changed, deleted or emptied", async (table, column) => {
    for (const statement of [
      `update ${table} set ${column} = ${column}`,
      `delete from ${table}`,
      `truncate ${table} cascade`,
    ])
      await expect(demo.sql.unsafe(statement)).rejects.toThrow(/append-only/);
  });
  test.each([
    [
      "a piece twice for one student",
      "insert into piece (id, hand_out_id, student_id) select gen_random_uuid(), hand_out_id, student_id from piece limit 1",
      /unique/,
    ],
    [
      "a second owner",
      "insert into section_teacher (section_id, person_id, role, may_hand_back) select section_id, (select id from person where kind = 'office' limit 1), 'owner', true from section_teacher where role = 'owner' limit 1",
      /section_one_owner/,
    ],
    [
      "closed before it is due",
      "update hand_out set closes_at = due_at - interval '1 minute'",
      /check/,
    ],
    [
      "a due time of one's own that nobody set",
      "update piece set own_due_at = now(), own_due_from = null",
      /piece_own_due/,
    ],
    [
      "points for work that is not scored",
      "update assignment set score_kind = 'words', points_possible = 10",
      /assignment_scored/,
    ],
    [
      "a group with extra time of no unit",
      "update section_group set extra_amount = 2, extra_unit = null",
      /check/,
    ],
    ["a state that is not one", "update piece set state = 'lost'", /check/],
    ["reworking in the first round", "update piece set state = 'reworking', round = 1", /check/],
    [
      "a zone that does not exist",
      "update school set time_zone = 'Mars/Olympus'",
      /unknown time zone/,
    ],
    ["two comments on one key", "update comment set favourite = 1", /comment_favourite/],
    ["a note without words", "update mark set body = '' where kind = 'note'", /check/],
  ])("%s", async (_name, statement, reason) => {
    await expect(demo.sql.unsafe(statement)).rejects.toThrow(reason);
  });
});

describe("the lists' view and the core agree", () => {
  test("lateness and missing of every piece of the demo", async () => {
    const now = new Date();
    const rows = await demo.sql<
      {
        id: string;
        late: boolean;
        awaited: boolean;
        saidMissing: boolean;
        lastMoment: Date;
        handedInAt: Date | null;
        handedInRound: number | null;
        round: number;
      }[]
    >`select id, late, awaited, said_missing, last_moment, handed_in_at, handed_in_round, round from piece_standing`;
    expect(rows.length).toBeGreaterThan(200);
    for (const row of rows) {
      const piece = await readPiece(demo.sql, row.id);
      const missing = row.saidMissing || (row.awaited && now > row.lastMoment);
      expect(missing).toBe(isMissing(piece, now));
      const inThisRound =
        row.handedInAt !== null && row.handedInRound === row.round && piece.state !== "to_revise";
      if (inThisRound)
        expect(row.late).toBe(piece.flag === "late" || lateness(piece, row.handedInAt!).late);
    }
  });
});

describe("files", () => {
  test("are kept once by their SHA-256 and read by range across chunks", async () => {
    const bytes = randomBytes(700_000);
    const stored = await database.sql.begin((tx) =>
      storeBlob(tx, bytes, "application/octet-stream", new Date()),
    );
    expect(stored.toString("hex")).toBe(createHash("sha256").update(bytes).digest("hex"));
    await database.sql.begin((tx) => storeBlob(tx, bytes, "application/octet-stream", new Date()));
    for (const [from, to] of [
      [0, 699_999],
      [0, 0],
      [262_143, 262_144],
      [524_000, 699_999],
      [100, 300_000],
    ] as const) {
      const chunks: Buffer[] = [];
      for await (const chunk of readBlob(database.sql, stored, from, to)) chunks.push(chunk);
      expect(Buffer.concat(chunks).equals(bytes.subarray(from, to + 1))).toBe(true);
    }
    const [{ n } = { n: 0 }] = await database.sql<
      { n: number }[]
    >`select count(*)::int as n from blob_chunk`;
    expect(n).toBe(3);
  });
  test("an empty file is a file", async () => {
    const stored = await database.sql.begin((tx) =>
      storeBlob(tx, Buffer.alloc(0), "text/plain", new Date()),
    );
    const chunks: Buffer[] = [];
    for await (const chunk of readBlob(database.sql, stored)) chunks.push(chunk);
    expect(chunks).toEqual([]);
  });
});

describe("signing in", () => {
  const now = new Date();
  const from = { address: "192.0.2.1" };
  beforeAll(async () => {
    await database.sql`update person set password_hash = ${await hashPassword("tide-gauge")}, school_name = 'odalys' where id = ${school.owner.id}`;
  });
  test("by e-mail or school name, in any case; the token is stored as a hash only", async () => {
    for (const name of ["ODALYS", ` ${school.owner.id}@tern-island.example `]) {
      const { token, to } = await signIn(
        database.sql,
        { name, password: "tide-gauge", ...from },
        now,
      );
      expect(to).toBe("/today");
      expect(await whoIs(database.sql, token, now)).toMatchObject({ id: school.owner.id });
      const [{ n } = { n: 1 }] = await database.sql<
        { n: number }[]
      >`select count(*)::int as n from session where encode(token_hash, 'escape') like ${`%${token}%`}`;
      expect(n).toBe(0);
    }
  });
  test("a wrong password and an unknown account get the same answer", async () => {
    const answers = await Promise.all(
      ["odalys", "nobody"].map((name) =>
        signIn(database.sql, { name, password: "wrong", ...from }, now).catch(
          (error: { status: number; title: string; detail: string }) => [
            error.status,
            error.title,
            error.detail,
          ],
        ),
      ),
    );
    expect(answers[0]).toEqual(answers[1]);
    expect(answers[0]![0 as never]).toBe(401);
  });
  const wrong = (more: object = {}, at = now) =>
    signIn(database.sql, { name: "odalys", password: "wrong", ...from, ...more }, at).catch(
      (error: { status: number }) => error.status,
    );
  const right = (more: object = {}, at = now) =>
    signIn(database.sql, { name: "odalys", password: "tide-gauge", ...from, ...more }, at);
  const forget = () => database.sql`delete from sign_in_failure`;

  test("who guesses waits longer each time, right password or not; who waits gets in", async () => {
    await forget();
    for (let n = 0; n < 5; n += 1) expect(await wrong()).toBe(401);
    expect(await wrong()).toBe(429);
    await expect(right()).rejects.toMatchObject({ status: 429, detail: /5 seconds/ });
    const later = (seconds: number) => new Date(now.getTime() + seconds * 1000);
    expect(await wrong({}, later(6))).toBe(401);
    await expect(right({}, later(7))).rejects.toMatchObject({ status: 429 });
    await expect(right({}, later(20))).resolves.toMatchObject({ to: "/today" });
    // What was counted is forgotten.
    for (let n = 0; n < 5; n += 1) expect(await wrong({}, later(21))).toBe(401);
  });
  test("of fifty guesses at once no more are looked at than of fifty one after the other", async () => {
    await forget();
    const answers = await Promise.all(Array.from({ length: 50 }, () => wrong()));
    expect(answers.filter((status) => status === 401)).toHaveLength(5);
    expect(answers.filter((status) => status === 429)).toHaveLength(45);
  });
  test("the owner is not shut out by others: not from elsewhere, and not on a browser of theirs", async () => {
    await forget();
    const { device } = await right();
    for (let n = 0; n < 30; n += 1) await wrong();
    await expect(right()).rejects.toMatchObject({ status: 429 });
    await expect(right({ address: "198.51.100.7" })).resolves.toMatchObject({ to: "/today" });
    // At the school's own address, behind which someone guesses.
    await expect(right({ device })).resolves.toMatchObject({ to: "/today" });
    // A browser of somebody else's is none of theirs.
    await expect(right({ device: "x".repeat(43) })).rejects.toMatchObject({ status: 429 });
  });
  test("a new password from the office begins without a count", async () => {
    await forget();
    for (let n = 0; n < 12; n += 1) await wrong();
    const office = asPerson(database.sql, school.office);
    const given = await office.prepared(now, prepareNewPassword, (call, made) =>
      givePassword(call, school.owner.id, made),
    );
    const first = await signIn(
      database.sql,
      { name: "odalys", password: given.password, ...from },
      now,
    );
    // It was seen by someone else, so nothing opens before it is changed.
    expect(first.to).toBe("/account");
    const who = (await whoIs(database.sql, first.token, now))!;
    expect(who.mustChange).toBe(true);
    const own = asPerson(database.sql, who);
    const change = (body: { current: string; password: string }) =>
      own.prepared(
        now,
        (call) => prepareOwnPassword(call, body),
        (call, hash) => changeOwnPassword(call, hash, first.token),
      );
    const others = await right({ password: given.password });
    for (const [body, field] of [
      [{ current: "not it", password: "three wet gauges" }, "current"],
      [{ current: given.password, password: "short" }, "password"],
      [{ current: given.password, password: given.password }, "password"],
    ] as const)
      await expect(change(body)).rejects.toMatchObject({ fields: { [field]: expect.anything() } });
    await change({ current: given.password, password: "tide-gauge" });
    expect(await whoIs(database.sql, others.token, now)).toBeNull();
    expect((await whoIs(database.sql, first.token, now))!.mustChange).toBe(false);
    await expect(right()).resolves.toMatchObject({ to: "/today" });
  });
  test("one's own sessions are listed and ended one by one, and nobody else's", async () => {
    const { token } = await right({ about: "Firefox on Linux" });
    const who = (await whoIs(database.sql, token, now))!;
    const list = await asPerson(database.sql, who).read(now, (call) => listSessions(call, token));
    expect(list[0]).toMatchObject({ about: "Firefox on Linux", here: true });
    const other = asPerson(database.sql, school.co);
    await expect(other.change(now, (call) => endOwnSession(call, list[0]!.id))).rejects.toThrow(
      NotFound,
    );
    await asPerson(database.sql, who).change(now, (call) => endOwnSession(call, list[0]!.id));
    expect(await whoIs(database.sql, token, now)).toBeNull();
  });
  test("first passwords for a class: for its students alone, by its teacher or the office, each to be changed", async () => {
    const ids = school.students.map((s) => s.id);
    const give = (who: typeof school.owner, studentIds: string[]) =>
      asPerson(database.sql, who).prepared(
        now,
        (call) => prepareFirstPasswords(call, school.sectionId, studentIds.length),
        (call, made) => giveFirstPasswords(call, school.sectionId, studentIds, made),
      );
    const { passwords } = await give(school.owner, ids);
    expect(passwords).toHaveLength(ids.length);
    expect(new Set(passwords.map((p) => p.password)).size).toBe(ids.length);
    await expect(
      signIn(
        database.sql,
        { name: passwords[0]!.signsInAs, password: passwords[0]!.password, ...from },
        now,
      ),
    ).resolves.toMatchObject({ to: "/account" });
    await expect(give(school.office, ids.slice(0, 1))).resolves.toBeTruthy();
    await expect(give(school.owner, [school.outsider.id])).rejects.toThrow(NotFound);
    await expect(give(school.owner, [school.co.id])).rejects.toThrow(NotFound);
    await expect(give(school.stranger, ids)).rejects.toThrow(NotFound);
    await expect(give(school.students[0]!, ids)).rejects.toThrow(NotFound);
  });
  test("an address that tries many accounts has to slow down, known browsers do not", async () => {
    await forget();
    const { device } = await right();
    for (let n = 0; n < 40; n += 1)
      await database.sql`insert into sign_in_failure (account, address, at) values (${`a${n}`}, '192.0.2.1', ${now})`;
    await expect(
      signIn(database.sql, { name: "fresh", password: "x", ...from }, now),
    ).rejects.toMatchObject({ status: 429 });
    await expect(right({ device })).resolves.toMatchObject({ to: "/today" });
    await expect(right({ address: "192.0.2.2" })).resolves.toMatchObject({ to: "/today" });
    await forget();
  });
  test("sessions end by idling, by age, and everywhere at once", async () => {
    const hours = (n: number) => new Date(now.getTime() + n * 3_600_000);
    const token = await beginSession(database.sql, school.co.id, now);
    expect(await whoIs(database.sql, token, hours(11))).not.toBeNull();
    expect(await whoIs(database.sql, token, hours(22))).not.toBeNull();
    expect(await whoIs(database.sql, token, hours(35))).toBeNull();
    const old = await beginSession(database.sql, school.co.id, now);
    for (let h = 0; h < 14 * 24; h += 10) await whoIs(database.sql, old, hours(h));
    expect(await whoIs(database.sql, old, hours(14 * 24 + 1))).toBeNull();
    const tokens = await Promise.all(
      [1, 2].map(() => beginSession(database.sql, school.co.id, now)),
    );
    await endAllSessions(database.sql, school.co.id);
    expect(await Promise.all(tokens.map((t) => whoIs(database.sql, t, now)))).toEqual([null, null]);
  });
});

describe("asking twice", () => {
  const hash = (text: string) => createHash("sha256").update(text).digest();
  test("the same key runs once, also when both come at the same time", async () => {
    let runs = 0;
    const ask = () =>
      database.sql.begin((tx) =>
        once(
          { tx, who: school.owner, now: new Date() },
          { key: "key-of-a-change", requestHash: hash("a") },
          async () => ({
            run: (runs += 1),
          }),
        ),
      );
    const answers = await Promise.all(Array.from({ length: 8 }, ask));
    expect(runs).toBe(1);
    expect(answers).toEqual(Array.from({ length: 8 }, () => ({ run: 1 })));
  });
  test("a change that failed leaves no record, so that it can be tried again", async () => {
    const ask = (fails: boolean) =>
      database.sql.begin((tx) =>
        once(
          { tx, who: school.owner, now: new Date() },
          { key: "another-key", requestHash: hash("b") },
          async () => {
            if (fails) throw new Error("no");
            return 1;
          },
        ),
      );
    await expect(ask(true)).rejects.toThrow("no");
    await expect(ask(false)).resolves.toBe(1);
  });
  test("a key used for another request is refused", async () => {
    await expect(
      database.sql.begin((tx) =>
        once(
          { tx, who: school.owner, now: new Date() },
          { key: "key-of-a-change", requestHash: hash("c") },
          async () => 1,
        ),
      ),
    ).rejects.toMatchObject({ status: 422 });
  });
});

describe("settings", () => {
  const DATABASE_URL = "postgres://x";
  test("the clock is pinned in tests and the demo, and refused in production", () => {
    expect(
      readSettings({ DATABASE_URL, ALMANAC_MODE: "demo", ALMANAC_CLOCK: "2026-10-14T12:00:00Z" })
        .pinnedClock,
    ).toEqual(new Date("2026-10-14T12:00:00Z"));
    expect(() => readSettings({ DATABASE_URL, ALMANAC_CLOCK: "2026-10-14T12:00:00Z" })).toThrow(
      /refused in production/,
    );
    expect(() =>
      readSettings({ DATABASE_URL, ALMANAC_MODE: "test", ALMANAC_CLOCK: "soon" }),
    ).toThrow(/instant/);
    expect(() => readSettings({ DATABASE_URL, ALMANAC_MODE: "party" })).toThrow(
      /production, demo or test/,
    );
    expect(() => readSettings({})).toThrow(/DATABASE_URL/);
  });
});
