import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { emptyPlan, type Plan, type PlanRow } from "@/core/handouts/plan";
import type { Rubric } from "@/core/rubrics/rubric";
import type { HandOutFormView, RosterRunView, TermView } from "@/core/views/handOutViews";
import { TermSheet } from "../calendar/TermSheet";
import { Chip, RadioLine, SelectField } from "../kit/Choices";
import { HowItWent } from "../piece/handingIn/HowItWent";
import { RosterReport } from "../roster/RosterReport";
import { RubricTable } from "../rubrics/RubricTable";
import { sayDate, sayWall } from "../time";
import { saySize } from "../transfers/saySize";
import { StudentsView } from "./form/StudentsView";

/** What the screens of handing out say, drawn without a browser. */
const text = (element: React.ReactElement) =>
  renderToStaticMarkup(element)
    .replace(/<[^>]+>/g, " ")
    .replace(/\u200b/g, "")
    .replace(/&quot;/g, '"')
    .replace(/&#x27;/g, "'")
    .replace(/\s+/g, " ")
    .trim();

describe("the student's view at the side", () => {
  const form = {
    now: "2026-10-07T09:00",
    sections: [{ id: "g", name: "Gannet" }],
  } as unknown as HandOutFormView;
  const row: PlanRow = {
    sectionId: "g",
    opens: null,
    due: "2026-10-16T16:00",
    closes: null,
    promised: "2026-10-23T15:30",
    audience: { kind: "section" },
    exceptions: [],
  };
  const plan = (change: (p: Plan) => void = () => {}) => {
    const made = emptyPlan([{ ...row }]);
    made.work.title = "Clouds";
    change(made);
    return text(<StudentsView plan={made} form={form} />);
  };
  test("shows title, section, due, points and the promise", () => {
    expect(plan()).toBe(
      "As a student will see it Clouds Gannet · due Fri 16 Oct, 16:00 · 10 points Can be taken back until it is due. To hand in: writing. Promised back Fri 23 Oct, 15:30.",
    );
  });
  test("says what is asked, what is read along, and what is given", () => {
    const said = plan((p) => {
      p.work.emoji = "☁️";
      p.work.wordsLeast = "120";
      p.work.wordsMost = "300";
      p.work.mayTakeBack = false;
      p.work.selfAssessment = { question: "How did it go?", answers: "scale", choices: [] };
      p.work.materials = [
        { id: "1", kind: "file", use: "copy", title: "Sheet", uploadId: "u" },
        { id: "2", kind: "text", use: "copy", title: "Form", doc: p.work.instructions },
      ];
    });
    for (const words of [
      "☁ Clouds",
      "What is handed in stays handed in.",
      "Words: at least 120, at most 300.",
      "The teacher can read along",
      "“How did it go?”",
      "Sheet (your own copy)",
    ])
      expect(said).toContain(words);
    // The text to write in is the piece itself, not a material.
    expect(said).not.toContain("Form");
  });
  test("a version's name and what is other for single students is never in it", () => {
    const said = plan((p) => {
      p.work.versions = [{ id: "v", name: "Secret frame", instructions: p.work.instructions }];
      p.rows[0]!.exceptions = [
        { studentId: "s", due: "2026-10-20T16:00", excused: true, versionId: "v" },
      ];
    });
    expect(said).not.toMatch(/Secret|20 Oct|excused/);
  });
  test("opening later is said, and no points where nothing is scored", () => {
    const said = plan((p) => {
      p.rows[0]!.opens = "2026-10-12T08:00";
      p.counting.kind = "words";
      p.work.parts = [];
    });
    expect(said).toContain("Not to be seen before Mon 12 Oct, 08:00");
    expect(said).toContain("Nothing to hand in");
    expect(said).not.toContain("points");
  });
  test("an empty page draws too", () =>
    expect(text(<StudentsView plan={emptyPlan()} form={form} />)).toContain(
      "(no title yet) (no section yet)",
    ));
});

describe("what a roster would change", () => {
  const none = { new: 0, changed: 0, gone: 0, unchanged: 0 };
  const run = (
    part: Partial<RosterRunView> = {},
    report: Partial<RosterRunView["report"]> = {},
  ): RosterRunView => ({
    id: "r",
    name: "school.zip",
    state: "checked",
    progress: "",
    changes: 3,
    when: "today",
    by: "Pell",
    report: {
      counts: {
        terms: none,
        people: { ...none, new: 2, unchanged: 5 },
        sections: none,
        teachers: none,
        enrolments: { ...none, gone: 1 },
        guardians: none,
      },
      lines: [{ area: "people", what: "new", words: "Aino, student" }],
      problems: [],
      problemCount: 0,
      notes: ["orgs.csv is not needed"],
      encoding: "UTF-16",
      ...report,
    },
    ...part,
  });
  const draw = (given: RosterRunView) =>
    text(<RosterReport run={given} busy={false} onApply={() => {}} />);
  test("counts by kind, the changes by word and sign, notes, and one act", () => {
    const said = draw(run());
    for (const words of [
      "school.zip, read as UTF-16",
      "people 2 5",
      "enrolments 1",
      "+ new Aino, student",
      "△ orgs.csv is not needed",
      "Apply all 3 changes",
      "… and 2 more.",
    ])
      expect(said).toContain(words);
    expect(said).not.toContain("guardians");
  });
  test("with problems there is nothing to press", () => {
    const said = draw(
      run(
        {},
        {
          problemCount: 250,
          problems: [{ where: "users.csv, row 12, email", words: "It is empty, and must not be." }],
        },
      ),
    );
    expect(said).toContain(
      "250 problems. Nothing of it is applied until they are mended. users.csv, row 12, email : It is empty, and must not be. … and 249 more.",
    );
    expect(said).not.toContain("Apply all");
  });
  test.each<[Partial<RosterRunView>, string, boolean]>([
    [{ state: "applied" }, "Applied: 3 changes.", false],
    [{ state: "failed", progress: "The school has changed." }, "The school has changed.", true],
    [{ changes: 0 }, "there is nothing to apply", false],
    [{ state: "applying" }, "school.zip", false],
  ])("%j", (part, words, canApply) => {
    const said = draw(run(part));
    expect(said).toContain(words);
    expect(said.includes("Apply all")).toBe(canApply);
  });
});

describe("a rubric to read", () => {
  const rubric: Rubric = {
    criteria: [
      {
        id: "c",
        name: "Place",
        note: "Could one stand there?",
        weight: "2",
        levels: [
          { id: "a", name: "there", points: "3", most: "4", descriptor: "Every sense." },
          { id: "b", name: "far", points: "1", most: null, descriptor: "" },
        ],
      },
    ],
  };
  test("levels with points or ranges, weights, notes; what was chosen is ticked and said", () => {
    expect(text(<RubricTable rubric={rubric} />)).toBe(
      "Place ×2 Could one stand there? there 3–4 Every sense. far 1",
    );
    expect(
      text(<RubricTable rubric={rubric} picks={{ c: { levelId: "b", points: "1" } }} />),
    ).toContain("✓ far 1");
  });
  test("is a region that can be scrolled by key", () =>
    expect(renderToStaticMarkup(<RubricTable rubric={rubric} />)).toContain(
      'tabindex="0" role="region" aria-label="Rubric"',
    ));
});

describe("the term sheet", () => {
  const item = {
    handOutId: "h",
    title: "☁️ 1 · Clouds",
    sectionId: "g",
    section: "Gannet",
    day: "2026-10-16",
    clock: "16:00",
    what: "due" as const,
    students: 26,
    mayMove: true,
  };
  test("a line a week; a week without school has no number", () => {
    const view: TermView = {
      term: "autumn",
      previous: null,
      next: null,
      weeks: [
        { week: 6, from: "Mon 12 Oct", closed: ["Thanksgiving"], items: [item] },
        { week: null, from: "Mon 9 Nov", closed: ["Autumn break"], items: [] },
      ],
    };
    expect(text(<TermSheet view={view} />)).toContain(
      "6 Mon 12 Oct Fri 16 Oct Gannet ☁️ 1 · Clouds Thanksgiving",
    );
    expect(renderToStaticMarkup(<TermSheet view={view} />)).toContain('aria-label="no school"');
  });
  test("without a term it says who types it in", () =>
    expect(
      text(<TermSheet view={{ term: "", previous: null, next: null, weeks: [] }} />),
    ).toContain("The office types it in"));
});

describe("small parts", () => {
  test("a chip says by sign and by state whether it is chosen", () => {
    const [on, off] = [true, false].map((chosen) =>
      renderToStaticMarkup(
        <Chip chosen={chosen} onToggle={() => {}}>
          Gannet
        </Chip>,
      ),
    );
    expect([
      on!.includes('aria-pressed="true"'),
      on!.includes("✓"),
      off!.includes('aria-pressed="false"'),
      off!.includes("✓"),
    ]).toEqual([true, true, true, false]);
  });
  test("a choice has its name, its error is tied to it", () => {
    const html = renderToStaticMarkup(
      <SelectField label="Late work" error="Choose one." value="a" onChange={() => {}}>
        <option value="a">a</option>
      </SelectField>,
    );
    const id = /<select[^>]* id="([^"]+)"/.exec(html)![1];
    expect(html).toContain(`for="${id}"`);
    expect(html).toContain(`aria-describedby="${id}-error"`);
  });
  test("a line of choices is a group with one checked", () => {
    const html = renderToStaticMarkup(
      <RadioLine
        label="Hand in"
        value="b"
        choices={[
          { value: "a", words: "A" },
          { value: "b", words: "B" },
        ]}
        onChange={() => {}}
      />,
    );
    expect(html.match(/checked/g)).toHaveLength(1);
    expect(html).toContain("<legend");
  });
  test("how it went: the words given, or a scale of five with its ends said", () => {
    const asked = { question: "How did it go?", choices: ["well", " ", "badly"] };
    expect(
      text(
        <HowItWent
          asked={{ ...asked, answers: "words" }}
          said={{ choice: null, words: "" }}
          onSay={() => {}}
        />,
      ),
    ).toBe("How did it go? well badly A sentence, if you like");
    expect(
      text(
        <HowItWent
          asked={{ ...asked, answers: "scale" }}
          said={{ choice: "3", words: "" }}
          onSay={() => {}}
        />,
      ),
    ).toContain("1 2 3 4 5 1: badly · 5: very well");
  });
  test.each([
    ["2026-10-16T16:00", "Fri 16 Oct, 16:00"],
    ["", "…"],
    [null, "…"],
    ["nonsense", "…"],
    ["2026-03-08T02:30", "Sun 8 Mar, 02:30"],
  ])("the wall clock %s is %s on any device", (wall, words) => expect(sayWall(wall)).toBe(words));
  test("days and sizes", () =>
    expect([
      sayDate("2026-10-16"),
      saySize(0),
      saySize(999),
      saySize(25_000),
      saySize(1_250_000),
    ]).toEqual(["Fri 16 Oct", "1 kB", "1 kB", "25 kB", "1.3 MB"]));
});
