import { setSetting } from "../src/server/marking/desk/setting";
import { USUAL_RULES, type GradeRules, type GradeScale } from "../src/core/grades/rules";
import { setGradeRules } from "../src/server/grades/grades";
import type { Rubric } from "../src/core/rubrics/rubric";
import type { LatePolicy } from "../src/core/scores/latePolicy";
import type { ExtraTime } from "../src/core/handouts/extraTime";
import type { Meeting } from "../src/core/time/lessons";
import { makeGroup } from "../src/server/classes/members";
import { setCounting, setMeetings } from "../src/server/classes/changeSetUp";
import { addRubric } from "../src/server/rubrics/rubrics";
import type { Call, Person } from "../src/server/call";
import type { DemoSection } from "./play";

const lessons = (starts: string, ends: string, ...weekdays: number[]): Meeting[] =>
  weekdays.map((weekday) => ({ weekday, starts, ends }));

/** When each section meets, its groups (by place on the roster), and how work counts in it. */
const SET_UP: Record<
  string,
  {
    meets: Meeting[];
    groups: { name: string; extra: ExtraTime | null; places: number[] }[];
    late: LatePolicy;
    categories: [string, string][];
  }
> = {
  Gannet: {
    meets: lessons("09:05", "09:55", 1, 3, 5),
    groups: [
      { name: "Extra time", extra: { amount: 2, unit: "school days" }, places: [2, 11, 17] },
      { name: "Barometer readers", extra: null, places: [0, 4, 8, 12, 16, 20] },
      { name: "Rain gauge team", extra: null, places: [1, 4, 9, 13, 22] },
    ],
    late: { kind: "flag" },
    categories: [
      ["Observation", "30"],
      ["Lab reports", "50"],
      ["Posters", "20"],
    ],
  },
  Plover: {
    meets: lessons("10:10", "11:00", 1, 2, 4),
    groups: [{ name: "Extra time", extra: { amount: 1, unit: "school days" }, places: [6, 19] }],
    late: { kind: "flag" },
    categories: [
      ["Observation", "30"],
      ["Lab reports", "70"],
    ],
  },
  Curlew: {
    meets: lessons("11:15", "12:05", 2, 3, 5),
    groups: [{ name: "Second draft circle", extra: null, places: [3, 7, 10, 14] }],
    late: { kind: "flag" },
    categories: [
      ["Long writing", "60"],
      ["Notebook", "15"],
      ["Voice", "25"],
    ],
  },
  Petrel: {
    meets: [...lessons("13:00", "13:50", 1, 4), ...lessons("08:10", "09:00", 3)],
    groups: [],
    late: { kind: "deduct", percent: "10", per: "school day", floorPercent: "50" },
    categories: [
      ["Tables", "40"],
      ["Explaining", "60"],
    ],
  },
  Fulmar: {
    meets: lessons("09:05", "09:55", 2, 4),
    groups: [],
    late: { kind: "flag" },
    categories: [],
  },
};

/** Both kinds of rules, with a scale and without, shown to students and not. */
const GRADES: Record<string, Partial<GradeRules>> = {
  Gannet: { shown: true },
  Plover: { missing: "left out" },
  Curlew: {
    shown: true,
    decimals: 0,
    scale: [
      { from: "90", name: "outstanding" },
      { from: "75", name: "secure" },
      { from: "55", name: "developing" },
      { from: "0", name: "beginning" },
    ],
  },
  Petrel: { way: "points", round: "half even", decimals: 2, shown: true },
};

/** The office's, which Curlew took over. */
export const SCALES: readonly GradeScale[] = [
  { name: "Four steps", decimals: 0, round: "half up", scale: GRADES.Curlew!.scale! },
];

const level = (
  criterion: string,
  name: string,
  points: string,
  descriptor: string,
  most: string | null = null,
) => ({ id: `${criterion}:${name}`, name, points, most, descriptor });

const RUBRICS: {
  name: string;
  criteria: {
    name: string;
    note: string;
    weight: string;
    levels: [string, string, string, string?][];
  }[];
}[] = [
  {
    name: "Letter from a place",
    criteria: [
      {
        name: "The place",
        note: "Could a stranger stand there?",
        weight: "2",
        levels: [
          ["there", "4", "Every sense has something to do; nothing could be anywhere else."],
          ["nearly there", "3", "The place is clear; a detail or two would do anywhere."],
          ["in sight", "2", "We are told about it more than we see it."],
          ["far off", "1", "It could be any place."],
        ],
      },
      {
        name: "The change",
        note: "What was, what is",
        weight: "1",
        levels: [
          ["both and why", "4", "Then, now, and what lies between."],
          ["both", "3", "Then and now stand side by side."],
          ["one", "2", "Only one of the two is shown."],
          ["none", "1", "We do not learn what changed."],
        ],
      },
      {
        name: "A voice",
        note: "One person speaks",
        weight: "1",
        levels: [
          ["a person", "4", "They speak as nobody else would."],
          ["a speaker", "3", "They speak, and it moves the letter on."],
          ["a quotation", "2", "There are quotation marks."],
          ["nobody", "1", "Nobody speaks."],
        ],
      },
      {
        name: "Sentences",
        note: "",
        weight: "1",
        levels: [
          ["carried", "3", "They vary, and carry the reader.", "4"],
          ["clear", "2", "Clear; of one length."],
          ["in the way", "1", "The reader must go back."],
        ],
      },
    ],
  },
  {
    name: "Lab report",
    criteria: [
      {
        name: "Could be done again",
        note: "",
        weight: "1",
        levels: [
          ["fully", "4", "Amounts, times and places are all there."],
          ["mostly", "3", "One thing must be guessed."],
          ["partly", "2", "Several must."],
          ["not yet", "0", "We do not know what was done."],
        ],
      },
      {
        name: "What was seen",
        note: "",
        weight: "1",
        levels: [
          ["measured", "4", "Numbers with units, in a table."],
          ["described", "3", "Clear words, few numbers."],
          ["mixed in", "1", "Seeing and guessing are one."],
        ],
      },
      {
        name: "What it means",
        note: "",
        weight: "2",
        levels: [
          ["follows", "4", "It follows from what was seen, and says how sure."],
          ["fits", "3", "It fits what was seen."],
          ["stands alone", "1", "It would stand there without the experiment."],
        ],
      },
    ],
  },
];

/** Sets the sections up as their owners would, through the application's own use-cases. @returns the ids of the rubrics by name */
export async function setUpClasses(
  call: Omit<Call, "who">,
  sections: ReadonlyMap<string, DemoSection>,
  newId: () => string,
): Promise<Map<string, { id: string; rubric: Rubric }>> {
  for (const [name, section] of sections) {
    const { meets, groups, late, categories } = SET_UP[name]!;
    const owner = { ...call, who: section.owner };
    await setMeetings(owner, section.id, meets);
    await setCounting(owner, section.id, {
      late,
      categories: categories.map(([category, weight], n) => ({
        ...{ id: null, name: category, weight },
        // Of what is written often, the poorest one is dropped.
        drop: n === 0 ? 1 : 0,
        shows: "by hand" as const,
      })),
    });
    if (GRADES[name]) await setGradeRules(owner, section.id, { ...USUAL_RULES, ...GRADES[name] });
    for (const group of groups)
      await makeGroup(owner, section.id, {
        name: group.name,
        extra: group.extra,
        students: group.places.map((n) => section.students[n]!.id),
      });
  }
  const rubrics = new Map<string, { id: string; rubric: Rubric }>();
  for (const { name, criteria } of RUBRICS) {
    const rubric: Rubric = {
      criteria: criteria.map((c) => ({
        ...c,
        id: newId(),
        levels: c.levels.map(([levelName, points, descriptor, most]) => ({
          ...level(c.name, levelName, points, descriptor, most ?? null),
          id: newId(),
        })),
      })),
    };
    rubrics.set(name, {
      id: (await addRubric({ ...call, who: sections.get("Gannet")!.owner }, { name, rubric })).id,
      rubric,
    });
  }
  return rubrics;
}

/** They have worked with Almanac since the term began: no screen needs to be explained. */
export async function knowAllScreens(
  call: Omit<Call, "who">,
  teachers: Iterable<Person>,
): Promise<void> {
  for (const who of teachers) await setSetting({ ...call, who }, { name: "guides", value: ["*"] });
}
