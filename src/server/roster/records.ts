import { writeOneRoster } from "@/core/roster/writeOneRoster";
import type { Roster } from "@/core/roster/roster";
import { addDays, dayOf } from "@/core/time/zone";
import { pack } from "../reading/rosterPackage";

/**
 * A school records system, as far as Almanac needs one: it can be asked for its roster as a OneRoster
 * package. A real one takes this interface's place; `sampleRecords` is the stand-in that ships.
 */
export type SchoolRecords = {
  name: string;
  fetchRoster: (school: { id: string; name: string; zone: string }, now: Date) => Promise<Buffer>;
};

const FIRST = [
  "Ailbhe",
  "Bastian",
  "Célestine",
  "Dário",
  "Eluned",
  "Fenna",
  "Gaspar",
  "Hanneke",
  "Idris",
  "Jorunn",
  "Kasimir",
  "Liesbeth",
  "Matthías",
  "Noémie",
  "Oddný",
  "Pelle",
];
const LAST = [
  "Arkwright",
  "Bjarnason",
  "Cavalheiro",
  "Dragomir",
  "Eskelinen",
  "Ferrand",
  "Gwilliam",
  "Hochstetler",
  "Ibáñez",
  "Jarlsberg-Moe",
];

/** A new class of 16 with a teacher of its own: everyone is invented. */
export function sampleRoster(today: string): Roster {
  const termRef = "sample-term";
  const teacher = {
    ref: "sample-t-1",
    sourceId: "sample-t-1",
    kind: "teacher" as const,
    name: "Wenche Aamodt",
    called: "Wenche",
    sortName: "Aamodt, Wenche",
    email: "wenche.aamodt@records.example",
    schoolName: "wenche.aamodt",
  };
  const students = FIRST.map((given, n) => {
    const family = LAST[n % LAST.length]!;
    const login = `${given}.${family}`
      .normalize("NFD")
      .replace(/[^a-z.]/gi, "")
      .toLowerCase();
    return {
      ref: `sample-s-${n + 1}`,
      sourceId: `sample-s-${n + 1}`,
      kind: "student" as const,
      name: `${given} ${family}`,
      called: given,
      sortName: `${family}, ${given}`,
      email: `${login}@records.example`,
      schoolName: login,
    };
  });
  const section = {
    ref: "sample-c-1",
    sourceId: "sample-c-1",
    name: "Guillemot",
    course: "Harbour Lab 7",
    courseSourceId: "sample-course-1",
    termRef,
  };
  return {
    terms: [
      {
        ref: termRef,
        sourceId: termRef,
        name: "sample",
        startsOn: addDays(today, -40),
        endsOn: addDays(today, 60),
      },
    ],
    people: [teacher, ...students],
    sections: [section],
    teachers: [{ sectionRef: section.ref, personRef: teacher.ref, owner: true }],
    enrolments: students.map((s) => ({
      sectionRef: section.ref,
      personRef: s.ref,
      joinedOn: addDays(today, -40),
      leftOn: null,
    })),
    guardians: [],
    complete: true,
  };
}

export const sampleRecords: SchoolRecords = {
  name: "sample records (stand-in)",
  async fetchRoster(school, now) {
    // Dates stand on the first of the month, so that the same set comes out for some weeks.
    const month = `${dayOf(now, school.zone).slice(0, 8)}01`;
    return pack(writeOneRoster(sampleRoster(month), school, month.slice(0, 4)));
  },
};
