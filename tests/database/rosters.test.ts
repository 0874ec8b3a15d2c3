import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { zipSync, strToU8 } from "fflate";
import { readOneRoster } from "../../src/core/roster/oneRoster";
import { writeOneRoster } from "@/core/roster/writeOneRoster";
import type { Roster } from "../../src/core/roster/roster";
import { NotFound, Refused } from "../../src/core/refusals";
import type { Endpoint } from "../../src/core/api/endpoint";
import { contract } from "../../src/core/api/contract";
import { renewPassword } from "../../src/server/auth/renewPassword";
import { beginSchool } from "../../src/server/auth/beginSchool";
import { givePassword, prepareNewPassword } from "../../src/server/auth/givePassword";
import { signIn } from "../../src/server/auth/signIn";
import { beginSession } from "../../src/server/auth/sessions";
import { unpack } from "../../src/server/reading/rosterPackage";
import {
  applyRun,
  carryOut,
  lookAtRecords,
  keepRun,
  lookAtRoster,
  exportRoster,
  readRun,
} from "../../src/server/roster/runs";
import {
  answerOn,
  asPerson,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { ask } from "../support/routes";

/** Rosters, through the use-cases; what is hostile is refused whole. */
let database: TestDatabase;
let school: SmallSchool;
let office: ReturnType<typeof asPerson>;
let owner: ReturnType<typeof asPerson>;
const NOW = new Date("2026-10-07T12:00:00Z");

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql);
  office = asPerson(database.sql, school.office);
  owner = asPerson(database.sql, school.owner);
});
afterAll(() => endAnswers(database));

const check = (bytes: Uint8Array | string, name = "roster.zip", complete = true) =>
  office.change(NOW, (call) =>
    lookAtRoster(call, { name, bytes: Buffer.from(bytes), sectionId: null, complete }).then(
      (looked) => keepRun(call, looked),
    ),
  );
async function apply(runId: string, now = NOW) {
  await office.change(now, (call) => applyRun(call, runId));
  await carryOut(school.office, runId, now);
  return office.read(now, (call) => readRun(call, runId));
}
const count = async (table: string) =>
  (await database.sql.unsafe<{ n: number }[]>(`select count(*)::int as n from ${table}`))[0]!.n;
const everyTable = () =>
  Promise.all(
    ["person", "section", "enrolment", "course", "term", "section_teacher", "guardianship"].map(
      count,
    ),
  );

const big = (students: number): Roster => {
  const person = (ref: string, kind: "student" | "teacher", n: number) => ({
    ref,
    sourceId: ref,
    kind,
    name: `Given${n} Family${n}`,
    called: `Given${n}`,
    sortName: `Family${n}, Given${n}`,
    email: `${ref}@big.example`,
    schoolName: ref,
  });
  const sections = Array.from({ length: Math.ceil(students / 25) }, (_, n) => ({
    ref: `bc${n}`,
    sourceId: `bc${n}`,
    name: `Section ${n}`,
    course: `Course ${n % 9}`,
    courseSourceId: `bk${n % 9}`,
    termRef: "bt",
  }));
  return {
    terms: [
      {
        ref: "bt",
        sourceId: "bt",
        name: "whole year",
        startsOn: "2026-09-01",
        endsOn: "2027-06-30",
      },
    ],
    people: [
      person("bt1", "teacher", 0),
      ...Array.from({ length: students }, (_, n) => person(`bs${n}`, "student", n + 1)),
    ],
    sections,
    teachers: sections.map((s) => ({ sectionRef: s.ref, personRef: "bt1", owner: true })),
    enrolments: Array.from({ length: students }, (_, n) =>
      [0, 1, 2, 3].map((k) => ({
        sectionRef: sections[(n + k * 7) % sections.length]!.ref,
        personRef: `bs${n}`,
        joinedOn: "2026-09-01",
        leftOn: null,
      })),
    )
      .flat()
      .filter(
        (e, n, all) =>
          all.findIndex((o) => o.sectionRef === e.sectionRef && o.personRef === e.personRef) === n,
      ),
    guardians: [],
    complete: true,
  };
};
const zipped = (roster: Roster) =>
  zipSync(
    Object.fromEntries(
      [...writeOneRoster(roster, { id: "org", name: "School" }, "2026")].map(([name, text]) => [
        name,
        strToU8(text),
      ]),
    ),
  );

describe("a roster comes in", () => {
  test("the sample set of the records: seen first, applied whole, and nothing the second time", async () => {
    const run = await office.change(NOW, (call) =>
      lookAtRecords(call).then((looked) => keepRun(call, looked)),
    );
    expect(run).toMatchObject({
      state: "checked",
      report: {
        problemCount: 0,
        counts: { people: { new: 17 }, sections: { new: 1 }, enrolments: { new: 16 } },
      },
    });
    const before = await everyTable();
    expect(await everyTable()).toEqual(before);
    expect(await apply(run.id)).toMatchObject({ state: "applied" });
    const again = await office.change(NOW, (call) =>
      lookAtRecords(call).then((looked) => keepRun(call, looked)),
    );
    expect([again.changes, again.report.lines]).toEqual([0, []]);
    await expect(office.change(NOW, (call) => applyRun(call, run.id))).rejects.toThrow(
      "applied already",
    );
  });
  test("what goes out comes in without a change", async () => {
    const out = await office.read(NOW, (call) => exportRoster(call));
    const unpacked = await unpack(out);
    if ("fault" in unpacked) throw new Error(unpacked.fault);
    expect(readOneRoster(unpacked.texts).problems).toEqual([]);
    // People and classes made here get their Almanac id as the records' id; nothing else changes.
    const run = await check(out);
    expect(run.report.problems).toEqual([]);
    expect([
      run.report.counts.enrolments.new,
      run.report.counts.enrolments.gone,
      run.report.counts.people.new,
    ]).toEqual([0, 0, 0]);
  });
  test("400 students of four classes each; then one is renamed, one leaves, and all but that is unchanged", async () => {
    const roster = big(400);
    expect((await apply((await check(zipped(roster))).id)).state).toBe("applied");
    expect(
      (
        await database.sql<
          { n: number }[]
        >`select count(*)::int as n from enrolment join person on person.id = student_id where email like '%@big.example'`
      )[0]!.n,
    ).toBe(roster.enrolments.length);
    const next: Roster = {
      ...roster,
      people: roster.people.map((p) =>
        p.ref === "bs7" ? { ...p, name: "New Name", called: "New", sortName: "Name, New" } : p,
      ),
      enrolments: roster.enrolments.filter((e) => e.personRef !== "bs8"),
    };
    const run = await check(zipped(next));
    expect(run.report.counts).toMatchObject({
      people: { new: 0, changed: 1, unchanged: 400 },
      enrolments: { new: 0, gone: 4 },
    });
    await apply(run.id);
    expect((await check(zipped(next))).changes).toBe(0);
    expect(
      (
        await database.sql<
          { leftOn: string }[]
        >`select distinct left_on from enrolment join person on person.id = student_id where email = 'bs8@big.example'`
      ).map((r) => r.leftOn),
    ).toEqual(["2026-10-07"]);
  });
  test("a new person signs in with the password the office gives, shown once", async () => {
    const [person] = await database.sql<
      { id: string }[]
    >`select id from person where school_name = 'bs1'`;
    await expect(
      signIn(database.sql, { name: "bs1", password: "", address: "1" }, NOW),
    ).rejects.toThrow("not right");
    const given = await office.change(NOW, (call) =>
      prepareNewPassword(call).then((made) => givePassword(call, person!.id, made)),
    );
    expect(
      (await signIn(database.sql, { name: "bs1", password: given.password, address: "1" }, NOW)).to,
    ).toBe("/account");
    await expect(
      owner.change(NOW, (call) =>
        prepareNewPassword(call).then((made) => givePassword(call, person!.id, made)),
      ),
    ).rejects.toThrow(NotFound);
  });
  test("a table pasted on a section's page: new students, and those the school knows", async () => {
    const text = "Name;Mail\nStudent 1;new.one@school.example\nZoë Ek;zoe@school.example";
    const run = await owner.change(NOW, (call) =>
      lookAtRoster(call, {
        name: "pasted table",
        bytes: Buffer.from(`\uFEFF${text}`, "utf16le"),
        sectionId: school.sectionId,
        complete: false,
      }).then((looked) => keepRun(call, looked)),
    );
    expect(run.report).toMatchObject({
      encoding: "UTF-16",
      problemCount: 0,
      counts: { people: { new: 2 }, enrolments: { new: 2, gone: 0 } },
    });
    await owner.change(NOW, (call) => applyRun(call, run.id));
    await carryOut(school.owner, run.id, NOW);
    expect((await owner.read(NOW, (call) => readRun(call, run.id))).state).toBe("applied");
    await expect(
      asPerson(database.sql, school.co).read(NOW, (call) => readRun(call, run.id)),
    ).rejects.toThrow(NotFound);
    await expect(
      owner
        .change(NOW, (call) =>
          lookAtRoster(call, {
            name: "x",
            bytes: Buffer.from(zipped(big(25))),
            sectionId: school.sectionId,
            complete: true,
          }).then((looked) => keepRun(call, looked)),
        )
        .then((r) => r.report.problems[0]!.words),
    ).resolves.toContain("office");
  });
});

describe("the school's own roster", () => {
  test("written out and sent in again it changes nothing, and can be applied", async () => {
    const out = await office.read(NOW, (call) => exportRoster(call));
    const run = await check(out, "own.zip");
    expect(run.report.problems).toEqual([]);
    expect(run.report.lines).toEqual([]);
    expect(run.changes).toBe(0);
    await office.change(NOW, (call) => applyRun(call, run.id));
    await carryOut(school.office, run.id, NOW);
    expect((await office.read(NOW, (call) => readRun(call, run.id))).state).toBe("applied");
  });
});

describe("a new school", () => {
  test("begins with its office, who can sign in; nonsense begins nothing", async () => {
    const given = {
      school: "Skerry School",
      zone: "Europe/Dublin",
      name: "Una Rowe",
      email: "Una@skerry.example",
    };
    const { password } = await beginSchool(database.sql, given, new Date("2026-09-20T12:00:00Z"));
    expect(
      (await signIn(database.sql, { name: "una@skerry.example", password, address: "2" }, NOW)).to,
    ).toBe("/account");
    await expect(
      beginSchool(database.sql, { ...given, zone: "Mars/Olympus" }, new Date()),
    ).rejects.toThrow("not a time zone");
    await expect(beginSchool(database.sql, { ...given, email: "una" }, new Date())).rejects.toThrow(
      "not an e-mail address",
    );
    expect(await database.sql`select id from school where name = 'Skerry School'`).toHaveLength(1);
  });
});

describe("the way back in", () => {
  test("who keeps a school and forgot their password gets a new one by a command; nobody else does", async () => {
    const given = {
      school: "Alone",
      zone: "Europe/Dublin",
      name: "Ida Ek",
      email: "ida@alone.example",
      alone: true,
    };
    const made = await beginSchool(database.sql, given, new Date("2026-09-20T12:00:00Z"));
    const signInWith = (password: string) =>
      signIn(database.sql, { name: given.email, password, address: "3" }, NOW);
    expect((await signInWith(made.password)).to).toBe("/account");
    const again = await renewPassword(database.sql, "IDA@alone.example");
    await expect(signInWith(made.password)).rejects.toThrow();
    expect((await signInWith(again.password)).to).toBe("/account");
    const [teacher] = await database.sql<
      { email: string }[]
    >`select email from person where kind = 'teacher' and id = ${school.owner.id}`;
    await expect(renewPassword(database.sql, teacher!.email)).rejects.toThrow(
      "Nobody who keeps a school",
    );
    // A term is there, so that a class can be made at once.
    expect(
      await database.sql`select term.id from term join school on school.id = school_id where school.name = 'Alone' and '2026-09-20' between starts_on and ends_on`,
    ).toHaveLength(1);
  });
});

describe("what is wrong is named, and changes nothing", () => {
  const csv = (rows: string) => `name,email,section\n${rows}`;
  const bomb = () => zipSync({ "manifest.csv": new Uint8Array(60_000_000) }, { level: 9 });
  const outside = () => {
    const zip = Buffer.from(zipSync({ "aa/users.csv": strToU8("sourcedId") }, { level: 0 }));
    for (let at = zip.indexOf("aa/users.csv"); at !== -1; at = zip.indexOf("aa/users.csv", at + 1))
      zip.write("../users.csv", at);
    return zip;
  };
  const lying = () => {
    const zip = Buffer.from(zipSync({ "manifest.csv": strToU8("x".repeat(5000)) }));
    const central = zip.indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    zip.writeUInt32LE(10, central + 24);
    return zip;
  };
  test.each<[string, () => Uint8Array | string, RegExp]>([
    ["a path outside the zip", outside, /leads outside/],
    ["a zip that grows a thousand times", bomb, /would grow more than 200 times/],
    ["a zip that lies about its sizes", lying, /damaged/],
    ["half a zip", () => zipped(big(25)).slice(0, 900), /not a zip file that can be read/],
    [
      "a zip of something else",
      () => zipSync({ "letter.txt": strToU8("hello") }),
      /no manifest.csv/,
    ],
    [
      "a picture",
      () => new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0, 0]),
      /neither a zip nor a table/,
    ],
    ["an unknown section", () => csv("A,a@x.example,Heron"), /no section “Heron”/],
    ["no e-mail", () => csv("A,,Gannet"), /no e-mail address/],
    ["nothing", () => "", /nothing in this table/],
  ])("%s", async (name, make, words) => {
    const before = await everyTable();
    const run = await check(make(), name);
    expect(run.report.problems.map((p) => p.words).join("\n")).toMatch(words);
    await expect(office.change(NOW, (call) => applyRun(call, run.id))).rejects.toThrow(Refused);
    expect(await everyTable()).toEqual(before);
  });
  test("a file of 200 MB is refused before it is read", async () => {
    const token = await beginSession(database.sql, school.office.id, new Date());
    const answer = await ask(contract.checkRoster as Endpoint, {
      token,
      bytes: new Uint8Array(31_000_000),
      fileName: "huge.zip",
    });
    expect(answer.status).toBe(413);
    expect(await answer.json()).toMatchObject({
      title: "This file is too large: 31 MB, and 30 MB is the most.",
      detail: "Nothing was changed.",
    });
  });
  test("a file that went wrong meanwhile changes nothing", async () => {
    const roster = big(25);
    const run = await check(
      zipped({
        ...roster,
        people: roster.people.map((p) => ({
          ...p,
          ref: `v${p.ref}`,
          sourceId: `v${p.ref}`,
          email: `v${p.email}`,
          schoolName: `v${p.ref}`,
        })),
        sections: [],
        teachers: [],
        enrolments: [],
        complete: false,
      }),
    );
    await database.sql`insert into person (id, school_id, kind, name, called, sort_name, email) values (gen_random_uuid(), ${school.owner.schoolId}, 'guardian', 'In The Way', 'In', 'Way', 'vbs3@big.example')`;
    const before = await everyTable();
    expect(await apply(run.id)).toMatchObject({
      state: "failed",
      progress: expect.stringContaining("The school has changed"),
    });
    expect(await everyTable()).toEqual(before);
  });
});
