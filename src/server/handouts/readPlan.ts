import { checkDates, isWall, type HandOutDates } from "@/core/handouts/checkDates";
import { asksForWriting, checkParts } from "@/core/handouts/parts";
import type { Counting, Plan, PlanRow, Work } from "@/core/handouts/plan";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { isScored } from "@/core/scores/scales";
import { Invalid } from "@/core/refusals";
import { isSafeLink, picturesOf, readRichDoc } from "@/core/text/richDoc";
import { plainText } from "@/core/text/plainText";
import { wallToInstant } from "@/core/time/zone";

type Faults = Record<string, string>;

/** The dates of a row as instants; a fault is named by its field of the form. */
export function readDates(
  row: Pick<PlanRow, "opens" | "due" | "closes" | "promised">,
  now: Date,
  zone: string,
  at: string,
  faults: Faults,
  pastIsMeant: boolean,
): HandOutDates {
  const instant = (field: "opens" | "due" | "closes" | "promised") => {
    const wall = row[field];
    if (!wall) return null;
    if (isWall(wall)) return wallToInstant(wall, zone).at;
    faults[`${at}.${field}`] = "This is not a date and a time.";
    return null;
  };
  const due = instant("due");
  if (!row.due) faults[`${at}.due`] = "Say when it is due.";
  const dates = {
    opensAt: instant("opens") ?? now,
    dueAt: due ?? now,
    closesAt: instant("closes"),
    promisedAt: instant("promised"),
  };
  if (due)
    for (const [field, words] of Object.entries(checkDates(dates, now, pastIsMeant)))
      faults[`${at}.${field}`] ??= words;
  return dates;
}

/** What is wrong with the work itself; the same for a new hand-out and a changed one. */
export function checkWork(work: Work, faults: Faults): void {
  if (!work.title.trim()) faults["work.title"] = "Give the work a title.";
  const docs = [
    ["work.instructions", work.instructions] as const,
    ...work.versions.map((v, n) => [`work.versions[${n}].instructions`, v.instructions] as const),
  ];
  for (const [field, doc] of docs) {
    try {
      if (plainText(readRichDoc(doc, { pictures: true })).text.length > 50_000)
        faults[field] = "Instructions have 50,000 characters at most.";
    } catch (error) {
      if (error instanceof Invalid) faults[field] = error.message;
      else throw error;
    }
  }
  const names = new Set<string>();
  work.versions.forEach((version, n) => {
    const name = version.name.trim().toLowerCase();
    if (!name) faults[`work.versions[${n}].name`] = "Give this version a name, for you alone.";
    else if (names.has(name)) faults[`work.versions[${n}].name`] = "Two versions have this name.";
    names.add(name);
  });
  work.materials.forEach((m, n) => {
    if (!m.title.trim()) faults[`work.materials[${n}]`] = "Give this a name.";
    if (m.kind === "link" && !isSafeLink(m.href))
      faults[`work.materials[${n}]`] =
        "A link begins with https://, http:// or mailto: and has no spaces.";
    if (m.kind === "text" && m.use === "copy" && !asksForWriting(work.parts))
      faults[`work.materials[${n}]`] = "A text to write in needs work that is written here.";
  });
  if (work.materials.filter((m) => m.kind === "text" && m.use === "copy").length > 1)
    faults["work.materials"] =
      "Only one text can be the students’ own copy: it is what their work begins with.";
  for (const [n, words] of Object.entries(checkParts(work.parts)))
    faults[`work.parts[${n}]`] = words;
  const [least, most] = [Number(work.wordsLeast || 0), Number(work.wordsMost || 0)];
  if (least && most && most < least) faults["work.wordsMost"] = "The most is less than the least.";
  if (
    work.selfAssessment &&
    work.selfAssessment.answers === "words" &&
    work.selfAssessment.choices.filter((c) => c.trim()).length < 2
  )
    faults["work.selfAssessment"] = "Give at least two answers to choose from.";
}

export function checkCounting(counting: Counting, rows: readonly PlanRow[], faults: Faults): void {
  const points = toDecimal(counting.points);
  if (isScored(counting.kind) && (points === "" || Number(points) === 0))
    faults["counting.points"] =
      "Points are more than 0; choose “words only” for work without a score.";
  const late = counting.late;
  if (late?.kind === "deduct") {
    for (const [field, value] of [
      ["percent", late.percent],
      ["floorPercent", late.floorPercent],
    ] as const) {
      if (!/^\d{1,3}([.,]\d{1,3})?$/.test(value) || Number(toDecimal(value)) > 100)
        faults[`counting.late.${field}`] = "This is a percentage from 0 to 100.";
    }
  }
  if (late?.kind === "closed")
    rows.forEach(
      (row, n) =>
        !row.closes &&
        (faults[`rows[${n}].closes`] = "Say when it closes: nothing is taken after that."),
    );
  if (counting.roundsMost && !/^[1-9]\d?$/.test(counting.roundsMost))
    faults["counting.roundsMost"] = "Rounds are a whole number from 1, or empty.";
  if (Number(toDecimal(counting.winBackPercent)) > 100)
    faults["counting.winBackPercent"] = "This is a percentage from 0 to 100.";
}

export const toDecimal = (text: string): string => text.trim().replace(",", ".");

/** Late policy with its numbers as decimals. */
export function cleanPolicy(late: LatePolicy): LatePolicy {
  return late.kind === "deduct"
    ? {
        ...late,
        percent: toDecimal(late.percent),
        floorPercent: toDecimal(late.floorPercent || "0"),
      }
    : late;
}

/** Every upload a plan refers to, with the version it is for (null: for everyone). */
export function uploadsOf(
  plan: Plan,
): { uploadId: string; versionId: string | null; picture: boolean }[] {
  return [
    ...picturesOf(plan.work.instructions).map((uploadId) => ({
      uploadId,
      versionId: null,
      picture: true,
    })),
    ...plan.work.versions.flatMap((v) =>
      picturesOf(v.instructions).map((uploadId) => ({ uploadId, versionId: v.id, picture: true })),
    ),
    ...plan.work.materials.flatMap((m) =>
      m.kind === "file" ? [{ uploadId: m.uploadId, versionId: null, picture: false }] : [],
    ),
  ];
}
