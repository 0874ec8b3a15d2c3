import { randomBytes } from "node:crypto";
import { connect, type Sql, type Tx } from "../../src/server/db/connection";
import { gathering } from "../../src/server/db/gathering";
import type { Call, Person, ReadCall } from "../../src/server/call";
import { endThreads } from "../../src/server/threads/threads";
import { uuidv7 } from "uuidv7";

/** The test cluster, started by scripts/test.mjs; its database "almanac_template" is migrated and empty. */
const CLUSTER = process.env.ALMANAC_TEST_CLUSTER ?? "";

export type TestDatabase = { url: string; sql: Sql; drop: () => Promise<void> };

/** A database of this test's own, copied from a template ("almanac_template": empty, "almanac_demo": the demo school). */
export async function testDatabase(
  template: "almanac_template" | "almanac_demo" = "almanac_template",
): Promise<TestDatabase> {
  if (!CLUSTER)
    throw new Error("There is no test cluster. Run these tests through npm: npm run test:database");
  const name = `t_${randomBytes(6).toString("hex")}`;
  const admin = connect(`${CLUSTER}/postgres`, 1);
  await admin.unsafe(`create database ${name} template ${template}`);
  const url = `${CLUSTER}/${name}`;
  const sql = connect(url, 8);
  // What a test hands back goes at once, unless it sets that itself.
  if (template === "almanac_demo")
    await sql`
      insert into person_setting (person_id, name, value, changed_at)
      select id, 'desk.hold', '0', now() from person where kind = 'teacher'
      on conflict do nothing`;
  return {
    url,
    sql,
    drop: async () => {
      await endThreads();
      await sql.end({ timeout: 2 });
      await admin.unsafe(`drop database if exists ${name} with (force)`);
      await admin.end({ timeout: 2 });
    },
  };
}

/** Lets the routes of the application answer in this process, on this database. */
export function answerOn(database: TestDatabase): void {
  process.env.DATABASE_URL = database.url;
  process.env.ALMANAC_MODE = "test";
  process.env.ALMANAC_LOG = "silent";
}

/** Ends what `answerOn` began, and drops the database. */
export async function endAnswers(database: TestDatabase | undefined): Promise<void> {
  await globalThis.almanacHub?.end();
  await globalThis.almanacSql?.end({ timeout: 1 });
  await database?.drop();
}

/** Runs a use-case as the routes do: one transaction, a clock, fresh ids. */
export function asPerson(sql: Sql, who: Person) {
  return {
    change: <T>(now: Date, work: (call: Call) => Promise<T>): Promise<T> =>
      sql.begin((tx: Tx) => work({ tx, db: tx, who, now, newId: uuidv7 })) as Promise<T>,
    read: <T>(now: Date, work: (call: ReadCall) => Promise<T>): Promise<T> =>
      work({ db: gathering(sql), who, now }),
    /** What is slow first, then the change with what came of it, as a route does. */
    prepared: async <R, T>(
      now: Date,
      prepare: (call: ReadCall) => Promise<R>,
      work: (call: Call, ready: R) => Promise<T>,
    ): Promise<T> => {
      const ready = await prepare({ db: sql, who, now });
      return sql.begin((tx: Tx) =>
        work({ tx, db: tx, who, now, newId: uuidv7 }, ready),
      ) as Promise<T>;
    },
  };
}

export type SmallSchool = {
  zone: string;
  owner: Person;
  co: Person;
  stranger: Person;
  office: Person;
  guardian: Person;
  students: Person[];
  outsider: Person;
  sectionId: string;
  otherSectionId: string;
};

/** A school just large enough for every standing there is. */
export async function smallSchool(sql: Sql, students = 3): Promise<SmallSchool> {
  const zone = "America/Halifax";
  const [schoolId, termId, courseId, sectionId, otherSectionId] = [
    uuidv7(),
    uuidv7(),
    uuidv7(),
    uuidv7(),
    uuidv7(),
  ];
  const person = (kind: Person["kind"], name: string): Person => ({
    id: uuidv7(),
    kind,
    name,
    called: name.split(" ")[0]!,
    schoolId,
    zone,
  });
  const school: SmallSchool = {
    zone,
    owner: person("teacher", "Odalys Brandt"),
    co: person("teacher", "Ruben Achterberg"),
    stranger: person("teacher", "Imke Solheim"),
    office: person("office", "Pell Okonjo"),
    guardian: person("guardian", "Katri Kallas"),
    students: Array.from({ length: students }, (_, n) => person("student", `Student ${n + 1}`)),
    outsider: person("student", "Outsider"),
    sectionId,
    otherSectionId,
  };
  const everyone = [
    school.owner,
    school.co,
    school.stranger,
    school.office,
    school.guardian,
    ...school.students,
    school.outsider,
  ];
  await sql.begin(async (tx) => {
    await tx`insert into school (id, name, time_zone) values (${schoolId}, 'Tern Island School', ${zone})`;
    await tx`insert into term (id, school_id, name, starts_on, ends_on) values (${termId}, ${schoolId}, 'autumn', '2026-09-08', '2026-12-18')`;
    const rows = everyone.map((p) => ({
      id: p.id,
      schoolId,
      kind: p.kind,
      name: p.name,
      called: p.called,
      sortName: p.name,
      email: `${p.id}@tern-island.example`,
      passwordHash: "-",
    }));
    await tx`insert into person ${tx(rows)}`;
    await tx`insert into guardianship (guardian_id, student_id) values (${school.guardian.id}, ${school.students[0]!.id})`;
    await tx`insert into course (id, school_id, term_id, name) values (${courseId}, ${schoolId}, ${termId}, 'Earth & Sky 8')`;
    await tx`insert into section (id, course_id, name) values (${sectionId}, ${courseId}, 'Gannet'), (${otherSectionId}, ${courseId}, 'Fulmar')`;
    await tx`
      insert into section_teacher (section_id, person_id, role, may_hand_back)
      values (${sectionId}, ${school.owner.id}, 'owner', true), (${sectionId}, ${school.co.id}, 'co-teacher', false), (${otherSectionId}, ${school.stranger.id}, 'owner', true)`;
    const enrolments = [
      ...school.students.map((s) => ({ sectionId, studentId: s.id, joinedOn: "2026-09-08" })),
      { sectionId: otherSectionId, studentId: school.outsider.id, joinedOn: "2026-09-08" },
    ];
    await tx`insert into enrolment ${tx(enrolments)}`;
  });
  return school;
}

export const doc = (...paragraphs: string[]) => ({
  type: "doc",
  content: paragraphs.map((text) => ({ type: "paragraph", content: [{ type: "text", text }] })),
});
