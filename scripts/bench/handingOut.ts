import { uuidv7 } from "uuidv7";
import { emptyPlan, type Plan } from "../../src/core/handouts/plan";
import { writeOneRoster } from "@/core/roster/writeOneRoster";
import type { Roster } from "../../src/core/roster/roster";
import type { Call, Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { handOut } from "../../src/server/handouts/handOut";
import { pack } from "../../src/server/reading/rosterPackage";
import { applyRun, carryOut, keepRun, lookAtRoster, readRun } from "../../src/server/roster/runs";

const change = <T>(sql: Sql, who: Person, work: (call: Call) => Promise<T>): Promise<T> =>
  sql.begin((tx) => work({ tx, db: tx, who, now: new Date(), newId: uuidv7 })) as Promise<T>;
const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};

/** 5,000 users in 200 classes, 20,000 enrolments: a large school, all of it new. */
function largeRoster(): Roster {
  const person = (ref: string, kind: "student" | "teacher", n: number) => ({
    ref,
    sourceId: ref,
    kind,
    name: `Large ${n}`,
    called: "Large",
    sortName: `${n}, Large`,
    email: `${ref}@large.example`,
    schoolName: ref,
  });
  const teachers = Array.from({ length: 100 }, (_, n) => person(`lt${n}`, "teacher", n));
  const students = Array.from({ length: 4900 }, (_, n) => person(`ls${n}`, "student", n));
  const sections = Array.from({ length: 200 }, (_, n) => ({
    ref: `lc${n}`,
    sourceId: `lc${n}`,
    name: `Large ${n}`,
    course: `Large course ${n % 40}`,
    courseSourceId: `lk${n % 40}`,
    termRef: "l-term",
  }));
  const enrolments = students.flatMap((s, n) =>
    [0, 53, 101, 151].map((k) => ({
      sectionRef: `lc${(n + k) % 200}`,
      personRef: s.ref,
      joinedOn: "2026-09-01",
      leftOn: null,
    })),
  );
  return {
    terms: [
      {
        ref: "l-term",
        sourceId: "l-term",
        name: "large",
        startsOn: "2026-09-01",
        endsOn: "2027-06-30",
      },
    ],
    people: [...teachers, ...students],
    sections,
    teachers: sections.map((s, n) => ({
      sectionRef: s.ref,
      personRef: `lt${n % 100}`,
      owner: true,
    })),
    enrolments: [
      ...enrolments,
      ...students.slice(0, 400).map((s, n) => ({
        sectionRef: `lc${(n + 171) % 200}`,
        personRef: s.ref,
        joinedOn: "2026-09-01",
        leftOn: null,
      })),
    ],
    guardians: [],
    complete: true,
  };
}

/** The same rows as bare inserts, for the ratio. */
async function bareInserts(sql: Sql, roster: Roster): Promise<void> {
  await sql.begin(async (tx) => {
    await tx`create temporary table bare_person (id uuid, name text, email text) on commit drop`;
    await tx`create temporary table bare_enrolment (section_ref text, person_ref text) on commit drop`;
    for (let n = 0; n < roster.people.length; n += 1000)
      await tx`insert into bare_person ${tx(roster.people.slice(n, n + 1000).map((p) => ({ id: uuidv7(), name: p.name, email: p.email })))}`;
    for (let n = 0; n < roster.enrolments.length; n += 1000)
      await tx`insert into bare_enrolment ${tx(roster.enrolments.slice(n, n + 1000).map((e) => ({ sectionRef: e.sectionRef, personRef: e.personRef })))}`;
  });
}

/** Bringing in a large school, seen first and then applied, and the same file again. */
export async function rosterLines(sql: Sql, office: Person): Promise<string[]> {
  const roster = largeRoster();
  const bytes = pack(writeOneRoster(roster, { id: "org", name: "Large" }, "2026"));
  const bare = await seconds(() => bareInserts(sql, roster));
  let runId = "";
  const look = () =>
    change(sql, office, (call) =>
      lookAtRoster(call, { name: "large.zip", bytes, sectionId: null, complete: true }).then(
        (looked) => keepRun(call, looked),
      ),
    ).then((run) => (runId = run.id));
  const seen = await seconds(look);
  const applied = await seconds(async () => {
    await change(sql, office, (call) => applyRun(call, runId));
    await carryOut(office, runId, new Date());
  });
  const run = await readRun({ db: sql, who: office, now: new Date() }, runId);
  if (run.state !== "applied")
    throw new Error(
      `The roster was not applied: ${run.progress} ${JSON.stringify(run.report.problems.slice(0, 3))}`,
    );
  const again = await seconds(look);
  return [
    `- Bringing in a roster of ${roster.people.length.toLocaleString("en")} users and ${roster.enrolments.length.toLocaleString("en")} enrolments (OneRoster zip of ${Math.round(bytes.length / 1000)} kB): looked at in ${seen.toFixed(1)} s, applied in ${applied.toFixed(1)} s (target: under 20 s together; the same rows as bare inserts: ${bare.toFixed(1)} s, ratio ${((seen + applied) / bare).toFixed(0)}); the same file again is seen to change nothing in ${again.toFixed(1)} s.`,
  ];
}

function plan(title: string, sectionIds: readonly string[], due: string): Plan {
  const { work, counting } = emptyPlan();
  return {
    work: { ...work, title },
    rows: sectionIds.map((sectionId) => ({
      sectionId,
      opens: null,
      due,
      closes: null,
      promised: null,
      audience: { kind: "section" },
      exceptions: [],
    })),
    counting,
  };
}

/** Handing out to one and to six sections of 30 students. */
export async function handOutLines(sql: Sql, teacher: Person): Promise<string[]> {
  const [course] = await sql<
    { id: string }[]
  >`select course_id as id from section join section_teacher on section_id = section.id where person_id = ${teacher.id} limit 1`;
  const sections: string[] = [];
  for (let n = 0; n < 6; n += 1) {
    const id = uuidv7();
    sections.push(id);
    await sql`insert into section (id, course_id, name) values (${id}, ${course!.id}, ${`Six ${n}`})`;
    await sql`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${id}, ${teacher.id}, 'owner', true)`;
    await sql`insert into enrolment (section_id, student_id, joined_on) select ${id}, id, '2026-09-01' from person where school_name like 'many.%' order by school_name limit 30 offset ${n * 30}`;
  }
  const due = new Date(Date.now() + 6 * 86_400_000).toISOString().slice(0, 16);
  const median = async (to: readonly string[]) => {
    const times: number[] = [];
    for (let n = 0; n < 9; n += 1)
      times.push(
        await seconds(() =>
          change(sql, teacher, (call) =>
            handOut(call, {
              plan: plan(`Bench to ${to.length}, ${n}`, to, due),
              draftId: null,
              pastIsMeant: false,
            }),
          ),
        ),
      );
    return times.sort((a, b) => a - b)[4]! * 1000;
  };
  const [one, six] = [await median(sections.slice(0, 1)), await median(sections)];
  return [
    `- Handing out to 6 sections of 30 students: ${six.toFixed(0)} ms; to one of them: ${one.toFixed(0)} ms (ratio ${(six / one).toFixed(1)}).`,
  ];
}

/** Sixty hand-outs within this month, for the calendar page. */
export async function fillMonth(sql: Sql, teacher: Person): Promise<void> {
  const sections = await sql<
    { id: string }[]
  >`select section.id from section join section_teacher on section_id = section.id where person_id = ${teacher.id} and section.name in ('Gannet', 'Plover', 'Curlew', 'Petrel') order by section.name`;
  const month = new Date().toISOString().slice(0, 7);
  for (let n = 0; n < 60; n += 1) {
    const due = `${month}-${String(1 + (n % 28)).padStart(2, "0")}T16:00`;
    await change(sql, teacher, (call) =>
      handOut(call, {
        plan: plan(`Month ${n}`, [sections[n % sections.length]!.id], due),
        draftId: null,
        pastIsMeant: true,
      }),
    );
  }
}
