import { mondayOf, PLAIN_CALENDAR, schoolDayFrom } from "../src/core/time/term";
import { addDays, dayOf, wallToInstant } from "../src/core/time/zone";
import { hashPassword } from "../src/server/auth/passwords";
import type { Call, Person } from "../src/server/call";
import type { Tx } from "../src/server/db/connection";
import { setBacks } from "./backs";
import { BANK, SHARED } from "./bank";
import { SCALES, knowAllScreens, setUpClasses } from "./classes";
import { setGradeScales } from "../src/server/office/gradeScales";
import { HAND_OUTS, type DemoHandOut } from "./handouts";
import {
  DEMO_PASSWORD,
  GUARDIANS,
  OFFICE,
  SCHOOL,
  SECTIONS,
  STUDENTS,
  TEACHERS,
  loginOf,
  sortNameOf,
} from "./people";
import { earlierTerm, frozenTerm, seasonOf } from "./earlier";
import { scorePaper } from "./paper";
import { leaveRework } from "./rework";
import { writeLetters } from "./letters";
import { showWork } from "./shown";
import { DemoFiles, makeSets } from "./work";
import { Play, type DemoSection, type DemoStudent } from "./play";
import { emptyPlan } from "../src/core/handouts/plan";
import { beginDraft, newPlan } from "../src/server/handouts/drafts";
import { toDoc } from "./texts/blocks";
import { seeded, seededIds } from "./random";
import { putVoice } from "./voices";

/**
 * Tern Island School, with its term laid around `now` so that it is always in the middle. The same
 * for the same moment: ids, texts and times all come from one seed.
 */
export async function loadSchool(
  tx: Tx,
  now: Date,
): Promise<{ people: number; pieces: number; versions: number }> {
  const random = seeded(`${SCHOOL.name} ${dayOf(now, SCHOOL.zone)}`);
  const newId = seededIds(random, new Date(now.getTime() - 60 * 86_400_000));
  const today = dayOf(now, SCHOOL.zone);
  const schoolId = newId();
  const termId = newId();
  const begins = addDays(today, -56);
  const closures = [
    {
      name: "Harbour Day",
      startsOn: schoolDayFrom(addDays(today, -24), PLAIN_CALENDAR),
      endsOn: schoolDayFrom(addDays(today, -24), PLAIN_CALENDAR),
    },
    // A holiday inside the term, from Thursday over the weekend to Monday.
    {
      name: "Half-term break",
      startsOn: addDays(mondayOf(addDays(today, 22)), 3),
      endsOn: addDays(mondayOf(addDays(today, 22)), 7),
    },
    {
      name: "Teachers’ day",
      startsOn: schoolDayFrom(addDays(today, 11), PLAIN_CALENDAR),
      endsOn: schoolDayFrom(addDays(today, 11), PLAIN_CALENDAR),
    },
  ];
  await tx`insert into school (id, name, time_zone) values (${schoolId}, ${SCHOOL.name}, ${SCHOOL.zone})`;
  await tx`insert into term (id, school_id, name, starts_on, ends_on) values (${termId}, ${schoolId}, ${seasonOf(today)}, ${begins}, ${addDays(begins, 98)})`;
  const earlier = earlierTerm(begins, today);
  await tx`insert into term (id, school_id, name, starts_on, ends_on) values (${newId()}, ${schoolId}, ${earlier.name}, ${earlier.startsOn}, ${earlier.endsOn})`;
  for (const closure of closures)
    await tx`insert into closure (id, school_id, name, starts_on, ends_on) values (${newId()}, ${schoolId}, ${closure.name}, ${closure.startsOn}, ${closure.endsOn})`;

  const passwordHash = await hashPassword(DEMO_PASSWORD);
  const rows: {
    id: string;
    schoolId: string;
    kind: string;
    name: string;
    called: string;
    sortName: string;
    email: string | null;
    schoolName: string | null;
    passwordHash: string;
  }[] = [];
  const used = new Set<string>();
  const add = (kind: Person["kind"], name: string, called: string): Person => {
    let login = loginOf(name);
    for (let n = 2; used.has(login); n += 1) login = `${loginOf(name)}.${n}`;
    used.add(login);
    const id = newId();
    rows.push({
      id,
      schoolId,
      kind,
      name,
      called,
      sortName: sortNameOf(name),
      email:
        kind === "student" ? `${login}@students.${SCHOOL.domain}` : `${login}@${SCHOOL.domain}`,
      schoolName: kind === "student" ? login : null,
      passwordHash,
    });
    return { id, kind, name, called, schoolId, zone: SCHOOL.zone };
  };
  const teachers = new Map(
    TEACHERS.map((t) => [t.key as string, add("teacher", t.name, t.called)]),
  );
  const office = add("office", OFFICE.name, OFFICE.called);
  const students: DemoStudent[] = STUDENTS.map((name, n) => {
    const r = seeded(`student ${n} ${name}`);
    return {
      ...add("student", name, name.split(" ")[0]!),
      slips: r() * 0.55,
      habit: r() * 1.4 - 0.6,
      size: r(),
    };
  });
  const guardians = GUARDIANS.map((g) => ({
    person: add("guardian", g.name, g.name.split(" ")[0]!),
    children: g.children,
  }));
  await tx`insert into person ${tx(rows)}`;
  for (const { person, children } of guardians)
    for (const child of children)
      await tx`insert into guardianship (guardian_id, student_id) values (${person.id}, ${students[child]!.id})`;
  const sections = await makeSections(tx, {
    schoolId,
    termId,
    begins,
    newId,
    teachers,
    students,
    today,
  });
  const comments = await makeBank(
    tx,
    teachers.get("odalys")!.id,
    newId,
    wallToInstant(`${begins}T18:00`, SCHOOL.zone).at,
  );
  const begun = wallToInstant(`${begins}T18:30`, SCHOOL.zone).at;
  await knowAllScreens({ tx, db: tx, now: begun, newId }, teachers.values());
  const rubrics = await setUpClasses({ tx, db: tx, now: begun, newId }, sections, newId);
  await setGradeScales({ tx, db: tx, now: begun, newId, who: office }, { scales: SCALES });
  const calendar = { meetsOn: [1, 2, 3, 4, 5], terms: [], closures };
  const setId = await makeSets({ tx, db: tx, now: begun, newId, who: teachers.get("odalys")! });
  const play = new Play({
    setId,
    files: new DemoFiles(),
    tx,
    now,
    zone: SCHOOL.zone,
    calendar,
    rubrics,
    newId,
    teachers,
    sections,
    comments,
  });
  for (const [n, given] of HAND_OUTS.entries()) {
    const together = (other: DemoHandOut) =>
      other.title === given.title &&
      sections.get(other.section)!.owner.id === sections.get(given.section)!.owner.id;
    if (HAND_OUTS.findIndex(together) === n)
      play.handOut(
        given,
        HAND_OUTS.filter((other) => other !== given && together(other)),
      );
  }
  await play.run();
  const odalys = { tx, db: tx, now, newId, who: teachers.get("odalys")! };
  await leaveRework(odalys);
  await scorePaper(odalys, sections.get("Curlew")!.id);
  await frozenTerm(odalys, sections.get("Curlew")!.id, earlier);
  await leaveDrafts(odalys, sections.get("Curlew")!.id);
  await setBacks(odalys, calendar);
  await writeLetters(odalys);
  await showWork(odalys, calendar);
  const [counts] = await tx<{ people: number; pieces: number; versions: number }[]>`
    select (select count(*)::int from person) as people, (select count(*)::int from piece) as pieces, (select count(*)::int from version) as versions`;
  return counts!;
}

/** On the Shelf: a page kept to be used each term, and one that was left half done. */
async function leaveDrafts(call: Call, sectionId: string): Promise<void> {
  const kept = emptyPlan();
  await beginDraft(call, {
    id: call.newId(),
    kept: true,
    plan: {
      ...kept,
      work: {
        ...kept.work,
        title: "First letter of the term",
        emoji: "📮",
        instructions: toDoc([
          { kind: "paragraph", text: "Who are you when nobody from school is looking? One page." },
        ]),
      },
    },
  });
  const half = await newPlan(call, [sectionId]);
  await beginDraft(call, {
    id: call.newId(),
    kept: false,
    plan: { ...half, work: { ...half.work, title: "Fog, described by ear" } },
  });
}

type Making = {
  schoolId: string;
  termId: string;
  begins: string;
  newId: () => string;
  teachers: Map<string, Person>;
  students: DemoStudent[];
  today: string;
};

async function makeSections(
  tx: Tx,
  { schoolId, termId, begins, newId, teachers, students, today }: Making,
): Promise<Map<string, DemoSection>> {
  const courses = new Map<string, string>();
  const sections = new Map<string, DemoSection>();
  let next = 0;
  for (const { name, course, owner, co, size } of SECTIONS) {
    const key = `${course} ${owner}`;
    if (!courses.has(key)) {
      courses.set(key, newId());
      await tx`insert into course (id, school_id, term_id, name) values (${courses.get(key)!}, ${schoolId}, ${termId}, ${course})`;
    }
    const id = newId();
    await tx`insert into section (id, course_id, name) values (${id}, ${courses.get(key)!}, ${name})`;
    await tx`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${id}, ${teachers.get(owner)!.id}, 'owner', true)`;
    if (co)
      await tx`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${id}, ${teachers.get(co)!.id}, 'co-teacher', false)`;
    // Every student is in one of these; names are dealt out so that no section is one end of the alphabet.
    const roster = Array.from(
      { length: size },
      () => students[(next++ * 37) % students.length]!,
    ).sort((a, b) => a.name.localeCompare(b.name));
    for (const [n, student] of roster.entries()) {
      const joined = name === "Plover" && n === 11 ? addDays(today, -15) : begins;
      // Two students of each section are read to.
      await tx`insert into enrolment (section_id, student_id, joined_on, read_aloud) values (${id}, ${student.id}, ${joined}, ${n === 3 || n === 12})`;
    }
    sections.set(name, {
      id,
      owner: teachers.get(owner)!,
      co: co ? teachers.get(co)! : null,
      students: roster,
    });
  }
  return sections;
}

async function makeBank(
  tx: Tx,
  ownerId: string,
  newId: () => string,
  createdAt: Date,
): Promise<Map<string, string>> {
  const [course] = await tx<
    { id: string }[]
  >`select id from course where name = 'Earth & Sky 8' limit 1`;
  const rows = BANK.map((comment) => {
    const share = SHARED[comment.folder] ?? "own";
    return {
      id: newId(),
      ownerId,
      ...comment,
      share,
      courseId: share === "course" ? course!.id : null,
      createdAt,
    };
  });
  await tx`insert into comment ${tx(rows)}`;
  // Three of them are spoken as well.
  const call = { tx, db: tx, who: { id: ownerId } as Person, now: createdAt, newId };
  for (const [shorthand, key] of [
    ["aloud", "bank-1"],
    ["unit", "bank-2"],
    ["show", "bank-3"],
  ] as const) {
    await tx`update comment set clip_id = ${await putVoice(call, key, null, { corrected: true, alone: true })} where owner_id = ${ownerId} and shorthand = ${shorthand}`;
  }
  return new Map(rows.map((row) => [row.shorthand, row.id]));
}
