import { Invalid } from "../refusals";
import { toDecimal } from "../scores/decimal";
import type { LatePolicy } from "../scores/latePolicy";
import { isScored } from "../scores/scales";
import { plainText } from "../text/plainText";
import { isSafeLink, readRichDoc } from "../text/richDoc";
import { asksForWriting, checkParts } from "./parts";
import type { Counting, Plan, PlanMaterial, PlanRow, PlanVersion, Work } from "./plan";

/** What is wrong, in words, by the field of the form; the same as one types and when it is handed out. */
export type Faults = Record<string, string>;

const MOST_INSTRUCTIONS = 50_000;

/** What is wrong with a plan that is about to be handed out, besides its dates; empty when nothing is. */
export function checkPlan({ work, rows, counting }: Plan): Faults {
  const twice = new Set(rows.map((r) => r.sectionId)).size < rows.length;
  return {
    ...(rows.length === 0 ? { rows: "Choose a section to hand it out to." } : {}),
    ...(twice ? { rows: "A section stands in the table twice." } : {}),
    ...checkWork(work),
    ...checkCounting(counting, rows),
  };
}

/** What is wrong with the work itself; the same for a new hand-out and a changed one. */
function checkWork(work: Work): Faults {
  const parts = Object.entries(checkParts(work.parts));
  return {
    ...(work.title.trim() ? {} : { "work.title": "Give the work a title." }),
    ...checkWording("work.instructions", work.instructions),
    ...checkVersions(work.versions),
    ...checkMaterials(work),
    ...Object.fromEntries(parts.map(([n, words]) => [`work.parts[${n}]`, words])),
    ...checkGoals(work),
  };
}

function checkWording(field: string, doc: unknown): Faults {
  try {
    const { text } = plainText(readRichDoc(doc, "task"));
    if (text.length <= MOST_INSTRUCTIONS) return {};
    return { [field]: "Instructions have 50,000 characters at most." };
  } catch (error) {
    if (error instanceof Invalid) return { [field]: error.message };
    throw error;
  }
}

function checkVersions(versions: readonly PlanVersion[]): Faults {
  const names = versions.map((v) => v.name.trim().toLowerCase());
  const faults = versions.map((version, n): Faults => {
    const field = `work.versions[${n}]`;
    const wording = checkWording(`${field}.instructions`, version.instructions);
    if (!names[n])
      return { ...wording, [`${field}.name`]: "Give this version a name, for you alone." };
    const twice = names.indexOf(names[n]) < n;
    return { ...wording, ...(twice ? { [`${field}.name`]: "Two versions have this name." } : {}) };
  });
  return Object.assign({}, ...faults) as Faults;
}

const isOwnText = (m: PlanMaterial) => m.kind === "text" && m.use === "copy";

function checkMaterials(work: Work): Faults {
  const faults: Faults = {};
  work.materials.forEach((material, n) => {
    const fault = faultOfMaterial(material, asksForWriting(work.parts));
    if (fault) faults[`work.materials[${n}]`] = fault;
  });
  if (work.materials.filter(isOwnText).length > 1)
    faults["work.materials"] =
      "Only one text can be the students’ own copy: it is what their work begins with.";
  return faults;
}

function faultOfMaterial(material: PlanMaterial, isWritten: boolean): string | null {
  if (isOwnText(material) && !isWritten)
    return "A text to write in needs work that is written here.";
  if (material.kind === "link" && !isSafeLink(material.href))
    return "A link begins with https://, http:// or mailto: and has no spaces.";
  return material.title.trim() ? null : "Give this a name.";
}

function checkGoals({ wordsLeast, wordsMost, selfAssessment: self }: Work): Faults {
  const [least, most] = [Number(wordsLeast || 0), Number(wordsMost || 0)];
  const turned = least > 0 && most > 0 && most < least;
  const few = self?.answers === "words" && self.choices.filter((c) => c.trim()).length < 2;
  return {
    ...(turned ? { "work.wordsMost": "The most is less than the least." } : {}),
    ...(few ? { "work.selfAssessment": "Give at least two answers to choose from." } : {}),
  };
}

/** What is wrong with how it counts. @param rows who gets it and when */
function checkCounting(counting: Counting, rows: readonly PlanRow[]): Faults {
  const faults: Faults = { ...(counting.late ? checkLate(counting.late, rows) : {}) };
  const points = toDecimal(counting.points);
  if (isScored(counting.kind) && !(Number(points) > 0))
    faults["counting.points"] =
      "Points are more than 0; choose “words only” for work without a score.";
  if (counting.roundsMost && !/^[1-9]\d?$/.test(counting.roundsMost))
    faults["counting.roundsMost"] = "Rounds are a whole number from 1, or empty.";
  if (Number(toDecimal(counting.winBackPercent)) > 100)
    faults["counting.winBackPercent"] = "This is a percentage from 0 to 100.";
  return faults;
}

const isPercentage = (typed: string) =>
  /^\d{1,3}([.,]\d{1,3})?$/.test(typed) && Number(toDecimal(typed)) <= 100;

function checkLate(late: LatePolicy, rows: readonly PlanRow[]): Faults {
  const faults: Faults = {};
  if (late.kind === "deduct")
    for (const field of ["percent", "floorPercent"] as const)
      if (!isPercentage(late[field]))
        faults[`counting.late.${field}`] = "This is a percentage from 0 to 100.";
  if (late.kind === "closed")
    rows.forEach((row, n) => {
      if (!row.closes)
        faults[`rows[${n}].closes`] = "Say when it closes: nothing is taken after that.";
    });
  return faults;
}
