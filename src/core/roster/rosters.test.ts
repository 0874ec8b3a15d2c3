import { describe, expect, test } from "@jest/globals";
import { writeTable } from "../formats/table";
import { readOneRoster } from "./oneRoster";
import { writeOneRoster } from "./writeOneRoster";
import { ONE_ROSTER, ONE_ROSTER_FILES } from "./oneRosterBinding";
import { planRoster } from "./planRoster";
import { type CurrentRoster } from "./rosterPlan";
import { readPlainRoster } from "./plainRoster";
import { sayProblem, splitName, type Roster } from "./roster";

const NOBODY: CurrentRoster = {
  terms: [],
  people: [],
  sections: [],
  teachers: [],
  enrolments: [],
  guardians: [],
};
const person = (
  ref: string,
  kind: "student" | "teacher" | "guardian",
  given: string,
  family: string,
) => ({
  ref,
  sourceId: ref,
  kind,
  name: `${given} ${family}`,
  called: given,
  sortName: `${family}, ${given}`,
  email: `${ref}@school.example`,
  schoolName: ref,
});
const school: Roster = {
  terms: [
    { ref: "t1", sourceId: "t1", name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" },
  ],
  people: [
    person("ob", "teacher", "Odalys", "Brandt"),
    person("ra", "teacher", "Ruben", "Achterberg"),
    person("s1", "student", "Aoife", "Ní Bhriain"),
    person("s2", "student", "Noor", "Haddad"),
    person("g1", "guardian", "Bríd", "Ní Bhriain"),
  ],
  sections: [
    {
      ref: "c1",
      sourceId: "c1",
      name: "Gannet",
      course: "Earth & Sky 8",
      courseSourceId: "k1",
      termRef: "t1",
    },
  ],
  teachers: [
    { sectionRef: "c1", personRef: "ob", owner: true },
    { sectionRef: "c1", personRef: "ra", owner: false },
  ],
  enrolments: [
    { sectionRef: "c1", personRef: "s1", joinedOn: "2026-09-08", leftOn: null },
    { sectionRef: "c1", personRef: "s2", joinedOn: null, leftOn: "2026-10-12" },
  ],
  guardians: [{ guardianRef: "g1", studentRef: "s1" }],
  complete: true,
};
const files = () => writeOneRoster(school, { id: "school-1", name: "Tern Island School" }, "2026");
/** The same package with something changed in one file. */
const changed = (file: string, from: string | RegExp, to: string) => {
  const package_ = files();
  const text = package_.get(file)!;
  expect(text).toMatch(from);
  return new Map(package_).set(file, text.replace(from, to));
};
const problemsOf = (texts: Map<string, string>) => readOneRoster(texts).problems.map(sayProblem);

describe("a OneRoster 1.2 package", () => {
  test("goes out and comes in as the same roster", () => {
    const { roster, problems } = readOneRoster(files());
    expect(problems).toEqual([]);
    expect(roster).toEqual(school);
  });
  // 1EdTech OneRoster 1.2 CSV binding: columns in their order, required fields and enumerations (from memory of the binding).
  test.each(ONE_ROSTER_FILES)(
    "%s has the binding's head, its required columns filled, and only allowed words",
    (file) => {
      const [head, ...rows] = files()
        .get(file)!
        .trim()
        .split("\r\n")
        .map((line) => line.split(","));
      const { columns, required, words } = ONE_ROSTER[file] as {
        columns: readonly string[];
        required: readonly string[];
        words: Record<string, readonly string[]>;
      };
      expect(head).toEqual([...columns]);
      for (const row of rows.filter((r) => r.length === head!.length)) {
        for (const column of required) expect(row[head!.indexOf(column)]).not.toBe("");
        for (const [column, allowed] of Object.entries(words))
          expect(allowed).toContain(row[head!.indexOf(column)]);
      }
    },
  );
  test("its manifest names every file of the binding, as bulk or absent", () => {
    const manifest = files().get("manifest.csv")!;
    for (const line of [
      "oneroster.version,1.2",
      "manifest.version,1.0",
      "file.users,bulk",
      "file.enrollments,bulk",
      "file.demographics,absent",
      "file.lineItems,absent",
    ])
      expect(manifest).toContain(line);
  });

  test.each([
    [
      "users.csv",
      /^(sourcedId,.*?),givenName/,
      "$1,forename",
      "users.csv, row 1, givenName: The column givenName is missing.",
    ],
    [
      "users.csv",
      "s1,,,true,",
      "s1,,,perhaps,",
      "users.csv, row 4, enabledUser: “perhaps” is not one of true, false.",
    ],
    [
      "users.csv",
      "s2,,,true",
      "s1,,,true",
      "users.csv, row 5, sourcedId: The id s1 stands in row 4 already.",
    ],
    [
      "users.csv",
      "s2@school.example",
      "s1@school.example",
      "users.csv, row 5, email: s1@school.example stands in row 4 already.",
    ],
    [
      "users.csv",
      "s1@school.example",
      "not an address",
      "users.csv, row 4, email: “not an address” is not an e-mail address.",
    ],
    [
      "enrollments.csv",
      ",c1,school-1,s1,",
      ",c9,school-1,s1,",
      "enrollments.csv, row 4, classSourcedId: There is no c9 in classes.csv.",
    ],
    [
      "enrollments.csv",
      ",c1,school-1,s1,student",
      ",c1,school-1,s1,pupil",
      "enrollments.csv, row 4, role: “pupil” is not one of administrator, proctor, student, teacher.",
    ],
    [
      "enrollments.csv",
      "2026-09-08",
      "8.9.2026",
      "enrollments.csv, row 4, beginDate: “8.9.2026” is not a date such as 2026-09-08.",
    ],
    [
      "academicSessions.csv",
      "2026-12-19",
      "2026-09-01",
      "academicSessions.csv, row 2, endDate: It ends (2026-09-01) before it has begun (2026-09-08).",
    ],
    [
      "orgs.csv",
      "school-1,,,Tern Island School,school,,",
      "school-1,,,Tern Island School,school,,school-1",
      "orgs.csv, row 2, parentSourcedId: Its parents run in a circle (school-1).",
    ],
    [
      "roles.csv",
      "primary,student",
      "primary,teacher",
      "enrollments.csv, row 4, role: Aoife Ní Bhriain is enrolled as a student but is a teacher in roles.csv.",
    ],
    [
      "manifest.csv",
      "oneroster.version,1.2",
      "oneroster.version,1.1",
      "manifest.csv, row 3, value: The package is OneRoster 1.1; Almanac reads 1.2.",
    ],
    [
      "manifest.csv",
      "file.users,bulk",
      "file.users,all",
      "manifest.csv, row 24, value: file.users is “all”; it can be absent, bulk or delta.",
    ],
  ])("%s: %s is said with its place", (file, from, to, words) => {
    expect(problemsOf(changed(file, from, to))).toContain(words);
  });
  test("a file that the manifest names and is not there, and no manifest at all", () => {
    const package_ = files();
    package_.delete("users.csv");
    expect(problemsOf(package_)).toContain(
      "users.csv: The manifest names this file, but it is not in the package.",
    );
    package_.delete("manifest.csv");
    expect(problemsOf(package_)[0]).toContain("no manifest.csv");
  });
  test("what is ending is left out; columns of a school's own are no fault", () => {
    const texts = changed("users.csv", "s2,,,true", "s2,tobedeleted,2026-10-01T00:00:00.000Z,true");
    texts.set(
      "orgs.csv",
      texts.get("orgs.csv")!.replace("parentSourcedId\r\n", "parentSourcedId,metadata.colour\r\n"),
    );
    const { roster, problems, notes } = readOneRoster(texts);
    expect(problems).toEqual([]);
    expect(roster.people.map((p) => p.ref)).not.toContain("s2");
    expect(roster.enrolments.map((e) => e.personRef)).toEqual(["s1"]);
    expect(notes.join()).toContain("1 enrolments of people or classes that are ending");
  });
});

describe("a plain table", () => {
  const options = {
    file: "table.csv",
    sections: [
      { ref: "id-g", name: "Gannet", course: "Field Writing" },
      { ref: "id-p", name: "Plover", course: "Field Writing" },
    ],
    complete: false,
  };
  test.each([
    ["comma", "name,e-mail,section\nAoife Ní Bhriain,Aoife@school.example,gannet"],
    [
      "semicolon, other order, more columns",
      "Class;Mail;Name;Shoe size\nGannet;aoife@school.example;Ní Bhriain, Aoife;36",
    ],
    ["tab, no head", "Aoife Ní Bhriain\taoife@school.example\tGannet"],
    [
      "two name columns",
      "First name,Last name,E-mail,Section\nAoife,Ní Bhriain,aoife@school.example,Gannet",
    ],
  ])("%s", (_, text) => {
    const { roster, problems } = readPlainRoster(text, options);
    expect(problems).toEqual([]);
    expect(roster.people).toMatchObject([
      {
        name: "Aoife Ní Bhriain",
        called: "Aoife",
        sortName: "Ní Bhriain, Aoife",
        email: "aoife@school.example",
        kind: "student",
      },
    ]);
    expect(roster.enrolments).toMatchObject([
      { sectionRef: "id-g", personRef: "aoife@school.example" },
    ]);
  });
  test("every problem has its row and column", () => {
    const text = writeTable([
      ["name", "email", "section"],
      ["", "a@b.example", "Gannet"],
      ["B", "", "Gannet"],
      ["C", "c at b", "Gannet"],
      ["D", "d@b.example", "Heron"],
      ["E", "e@b.example", ""],
      ["F", "f@b.example", "Plover"],
      ["Other", "f@b.example", "Gannet"],
    ]);
    expect(readPlainRoster(text, options).problems.map(sayProblem)).toEqual([
      "table.csv, row 2, name: The name is missing.",
      "table.csv, row 3, e-mail: B has no e-mail address; it is how the same student is known again.",
      "table.csv, row 4, e-mail: “c at b” is not an e-mail address.",
      "table.csv, row 5, section: There is no section “Heron” in this term. Add a column “course” to have it made.",
      "table.csv, row 6, section: The section is missing.",
      "table.csv, row 8, e-mail: f@b.example stands for F in row 7 and for Other here.",
    ]);
  });
  test("a column of roles makes teachers teachers, the first of a section its owner; what people are called is kept", () => {
    const text = writeTable([
      ["Role", "name", "Known as", "email", "section"],
      ["Teacher", "Odalys Brandt", "", "ob@b.example", "Gannet"],
      ["staff", "Rubén Aas", "", "ra@b.example", "Gannet"],
      ["pupil", "Sigrún", "Sigga", "s@b.example", "Gannet"],
      ["", "Ole Vik", "", "o@b.example", "Gannet"],
      ["parent", "Una Vik", "", "u@b.example", "Gannet"],
    ]);
    const { roster, problems } = readPlainRoster(text, options);
    expect(roster.people.map(({ kind, name, called }) => [kind, name, called])).toEqual([
      ["teacher", "Odalys Brandt", "Odalys"],
      ["teacher", "Rubén Aas", "Rubén"],
      ["student", "Sigrún", "Sigga"],
      ["student", "Ole Vik", "Ole"],
    ]);
    expect(roster.teachers.map((t) => [t.personRef, t.owner])).toEqual([
      ["ob@b.example", true],
      ["ra@b.example", false],
    ]);
    expect(roster.enrolments.map((e) => e.personRef)).toEqual(["s@b.example", "o@b.example"]);
    expect(problems.map(sayProblem)).toEqual([
      "table.csv, row 6, role: “parent” is no role of a table: it has students and teachers.",
    ]);
    // On a section's page a teacher adds students, and nobody who would see the work of all.
    const pasted = "name,email,role\nA B,a@b.example,teacher";
    expect(
      readPlainRoster(pasted, { ...options, only: "id-g" }).problems.map(sayProblem)[0],
    ).toContain("The owner of the section adds teachers");
  });
  test("one name stays one, however many columns asked for it; a comma in a name parts nothing between tabs", () => {
    const twice = "first name,last name,email\nSigrún,Sigrún,s@b.example";
    const tabs = "Vik, Ole\to@b.example";
    for (const [text, name] of [
      [twice, "Sigrún"],
      [tabs, "Ole Vik"],
    ] as const)
      expect(
        readPlainRoster(text, { ...options, only: "id-g" }).roster.people.map((p) => p.name),
      ).toEqual([name]);
  });
  test("a section is looked for by its course too, is made where one is said, and is asked about where there are two", () => {
    const sections = [
      { ref: "w", name: "7a", course: "Writing" },
      { ref: "g", name: "7a", course: "Geography" },
    ];
    const read = (...rows: string[][]) =>
      readPlainRoster(writeTable([["name", "email", "section", "course"], ...rows]), {
        ...options,
        sections,
      });
    const { roster, problems } = read(
      ["A B", "a@b.example", "7a", "geography"],
      ["C D", "c@b.example", "9x", "Music"],
      ["E F", "e@b.example", "9X", "music"],
    );
    expect(problems).toEqual([]);
    expect(roster.sections).toMatchObject([{ name: "9x", course: "Music" }]);
    expect(roster.enrolments.map((e) => e.sectionRef)).toEqual([
      "g",
      roster.sections[0]!.ref,
      roster.sections[0]!.ref,
    ]);
    expect(read(["A B", "a@b.example", "7a", ""]).problems.map(sayProblem)[0]).toContain(
      "There is more than one section “7a” in this term, of Writing and Geography.",
    );
  });
  test("without sections a table adds people alone", () => {
    const { roster, problems } = readPlainRoster(
      "name,email,role\nA B,a@b.example,teacher",
      options,
    );
    expect([problems, roster.people.length, roster.teachers.length]).toEqual([[], 1, 0]);
  });
  test("names alone are enough for one class; each gets a name to sign in with, the same each time", () => {
    const only = { ...options, only: "id-g" };
    const read = (text: string) =>
      readPlainRoster(text, only).roster.people.map((p) => [p.name, p.schoolName, p.email]);
    expect(read("Zoë Ní Bhriain\nOle Vik\nOle Vik\n김 민준")).toEqual([
      ["Zoë Ní Bhriain", "zoe.ni.bhriain", null],
      ["Ole Vik", "ole.vik", null],
      ["Ole Vik", "ole.vik.2", null],
      ["김 민준", "김.민준", null],
    ]);
    expect(read("Vik, Ole\nAas, Rubén").map(([name]) => name)).toEqual(["Ole Vik", "Rubén Aas"]);
    // In one list some are written this way and some the other.
    expect(read("Ole Vik\nAas, Rubén").map(([name]) => name)).toEqual(["Ole Vik", "Rubén Aas"]);
    expect(read("Name\nOle Vik")).toHaveLength(1);
    expect(readPlainRoster("", only).problems).toHaveLength(1);
  });
  test("a missing column, an empty table, an open quotation mark", () => {
    expect(readPlainRoster("name,section\nA,Gannet", options).problems.map(sayProblem)).toEqual([
      "table.csv, row 1: The table needs a column for the e-mail address.",
    ]);
    expect(readPlainRoster("", options).problems.map(sayProblem)).toEqual([
      "table.csv: There is nothing in this table.",
    ]);
    expect(
      readPlainRoster('name,email,section\n"A,a@b.example,Gannet', options)
        .problems.map(sayProblem)
        .join(),
    ).toContain("quotation mark is not closed");
  });
  test("on a section's page no section column is needed", () => {
    expect(
      readPlainRoster("Aoife,aoife@school.example", { ...options, only: "id-p" }).roster.enrolments,
    ).toMatchObject([{ sectionRef: "id-p" }]);
  });
  test.each([
    ["Aino Kallas-Ferreira", "Aino", "Kallas-Ferreira"],
    ["Sigrún", "Sigrún", ""],
    ["Súilleabháin Ó, Niamh", "Niamh", "Súilleabháin Ó"],
  ])("%s is %s %s", (name, given, family) => expect(splitName(name)).toEqual({ given, family }));
});

describe("a package of changes (delta)", () => {
  const id = (ref: string) => `id-${ref}`;
  /** The school as the package above left it. */
  const current: CurrentRoster = {
    terms: school.terms.map(({ ref, ...t }) => ({ ...t, id: id(ref) })),
    people: school.people.map(({ ref, ...p }) => ({ ...p, id: id(ref) })),
    sections: school.sections.map(({ ref, termRef, ...s }) => ({
      ...{ ...s, id: id(ref) },
      ...{ courseId: "course", termId: id(termRef!) },
    })),
    teachers: school.teachers.map((t) => ({
      ...{ sectionId: id(t.sectionRef), personId: id(t.personRef), owner: t.owner },
    })),
    enrolments: school.enrolments.map((e) => ({
      ...{ sectionId: id(e.sectionRef), personId: id(e.personRef) },
      ...{ joinedOn: e.joinedOn ?? "2026-09-08", leftOn: null },
    })),
    guardians: [],
  };
  const known = {
    people: new Map(school.people.map((p) => [p.ref, p])),
    sections: new Map(school.sections.map((s) => [s.ref, s])),
    terms: new Set(school.terms.map((t) => t.ref)),
  };
  const delta = (files: Record<string, string[][]>) =>
    new Map([
      [
        "manifest.csv",
        writeTable([
          ["propertyName", "value"],
          ["oneroster.version", "1.2"],
          ...Object.keys(files).map((file) => [`file.${file.replace(".csv", "")}`, "delta"]),
        ]),
      ],
      ...Object.entries(files).map(([file, rows]) => [file, writeTable(rows)] as const),
    ]);
  const HEAD = [...ONE_ROSTER["enrollments.csv"].columns];
  const row = (status: string, section: string, person: string) => [
    `${section}-${person}`,
    status,
    "2026-10-01T00:00:00Z",
    section,
    "school-1",
    person,
    "student",
    "false",
    "",
    "",
  ];

  test("holds only what changed: one leaves, one joins, who is known is pointed at, and nobody else goes", () => {
    const [first] = school.enrolments;
    const other = school.sections.find((s) => s.ref !== first!.sectionRef) ?? school.sections[0]!;
    const read = readOneRoster(
      delta({
        "enrollments.csv": [
          HEAD,
          row("tobedeleted", first!.sectionRef, first!.personRef),
          row("active", other.ref, "s2"),
        ],
      }),
      known,
    );
    expect(read.problems).toEqual([]);
    expect(read.roster.complete).toBe(false);
    const plan = planRoster(read.roster, current, "2026-10-07");
    expect(plan.enrolments.end).toEqual([
      { sectionId: id(first!.sectionRef), personId: id(first!.personRef) },
    ]);
    expect([plan.people, plan.teachers.remove, plan.sections]).toEqual([[], [], []]);
    const again = planRoster(
      read.roster,
      { ...current, enrolments: current.enrolments.slice(1) },
      "2026-10-07",
    );
    expect(again.enrolments.end).toEqual([]);
  });
  test("who is to be deleted leaves every class; what nobody has is a problem", () => {
    const users = [
      "sourcedId",
      "status",
      "dateLastModified",
      "enabledUser",
      "username",
      "givenName",
      "familyName",
      "email",
      "agentSourcedIds",
      "primaryOrgSourcedId",
    ];
    const gone = readOneRoster(
      delta({
        "users.csv": [
          users,
          ["s1", "tobedeleted", "2026-10-01T00:00:00Z", "true", "s1", "A", "B", "", "", "school-1"],
        ],
      }),
      known,
    );
    expect(gone.problems).toEqual([]);
    const ends = planRoster(gone.roster, current, "2026-10-07").enrolments.end;
    expect(ends.length).toBe(current.enrolments.filter((e) => e.personId === id("s1")).length);
    const lost = readOneRoster(
      delta({ "enrollments.csv": [HEAD, row("active", "nowhere", "s1")] }),
      known,
    );
    expect(lost.problems.map(sayProblem).join()).toContain("There is no nowhere in classes.csv.");
  });
});

describe("what a file would change", () => {
  /** The school after a plan was carried out, with the file's refs as ids. */
  const after = (roster: Roster): CurrentRoster => ({
    terms: roster.terms.map((t) => ({ ...t, id: t.ref })),
    people: roster.people.map((p) => ({ ...p, id: p.ref })),
    sections: roster.sections.map((s) => ({ ...s, id: s.ref, courseId: "k", termId: "t1" })),
    teachers: roster.teachers.map((t) => ({
      sectionId: t.sectionRef,
      personId: t.personRef,
      owner: t.owner,
    })),
    enrolments: roster.enrolments.map((e) => ({
      sectionId: e.sectionRef,
      personId: e.personRef,
      joinedOn: e.joinedOn ?? "2026-09-08",
      leftOn: e.leftOn,
    })),
    guardians: roster.guardians.map((g) => ({
      guardianId: g.guardianRef,
      studentId: g.studentRef,
    })),
  });
  const plan = (roster: Roster, current: CurrentRoster) =>
    planRoster(roster, current, "2026-10-07");

  test("all of it is new once, and nothing the second time", () => {
    expect(plan(school, NOBODY).counts).toMatchObject({
      terms: { new: 1 },
      people: { new: 5 },
      sections: { new: 1 },
      teachers: { new: 2 },
      enrolments: { new: 2 },
      guardians: { new: 1 },
    });
    const again = plan(school, after(school));
    expect(again.lines).toEqual([]);
    expect(again.problems).toEqual([]);
    expect(again.counts.people).toEqual({ new: 0, changed: 0, gone: 0, unchanged: 5 });
  });
  test("changed, gone and back again are told apart", () => {
    const next: Roster = {
      ...school,
      people: school.people.map((p) =>
        p.ref === "s1" ? { ...p, email: "aoife@school.example" } : p,
      ),
      enrolments: [{ ...school.enrolments[1]!, leftOn: null }],
      teachers: [school.teachers[0]!],
    };
    expect(plan(next, after(school)).lines.map((l) => `${l.what} ${l.words}`)).toEqual([
      "changed Aoife Ní Bhriain: e-mail s1@school.example → aoife@school.example",
      "changed Noor Haddad in Gannet: back again",
      "gone Aoife Ní Bhriain in Gannet: leaves today",
      "gone Ruben Achterberg in Gannet",
    ]);
  });
  test("a file that only adds takes nobody away", () => {
    expect(
      plan({ ...school, enrolments: [], teachers: [], complete: false }, after(school)).lines,
    ).toEqual([]);
  });
  test("a person the school knows by address is the same person, and gets the records' id", () => {
    const known = after(school);
    known.people = known.people.map((p) =>
      p.id === "s1" ? { ...p, id: "x", sourceId: null, schoolName: null } : p,
    );
    known.enrolments = known.enrolments.map((e) =>
      e.personId === "s1" ? { ...e, personId: "x" } : e,
    );
    known.guardians = [{ guardianId: "g1", studentId: "x" }];
    const found = plan(school, known);
    expect(found.lines.map((l) => l.words)).toEqual([
      "Aoife Ní Bhriain: id in the records none → s1, school name none → s1",
    ]);
    expect(found.people).toMatchObject([{ id: "x" }]);
  });
  test("a teacher's table puts people into a section and does not rename them", () => {
    const table: Roster = {
      ...school,
      terms: [],
      sections: [],
      teachers: [],
      guardians: [],
      complete: false,
      people: [
        {
          ...school.people[2]!,
          sourceId: null,
          schoolName: null,
          name: "Somebody Else",
          called: "S",
          sortName: "Else, S",
        },
      ],
      enrolments: [],
    };
    expect(planRoster(table, after(school), "2026-10-07", { peopleStay: true }).lines).toEqual([]);
    expect(planRoster(table, after(school), "2026-10-07").lines).toHaveLength(1);
  });
  test("an address of someone else, or another kind of person, is a problem", () => {
    const known = after({
      ...school,
      people: [
        { ...person("other", "student", "Ugo", "B"), email: "s1@school.example" },
        person("s2", "teacher", "Noor", "Haddad"),
      ],
    } as Roster);
    expect(plan(school, { ...NOBODY, people: known.people }).problems.map((p) => p.words)).toEqual([
      "Aoife Ní Bhriain has the e-mail address s1@school.example, which belongs to Ugo B in this school.",
      "Noor Haddad is a teacher in this school and a student in the file.",
    ]);
  });
});
