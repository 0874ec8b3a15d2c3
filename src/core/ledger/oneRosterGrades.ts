import { writeTable } from "../formats/table";
import { writeManifest } from "../roster/writeOneRoster";
import type { LedgerCell, LedgerColumn } from "../views/ledgerViews";

/**
 * The files of the 1EdTech OneRoster 1.2 CSV binding that hold scores: their columns in the order of the binding, and the
 * words it allows. Written from memory of the binding (sections on categories.csv, lineItems.csv and results.csv).
 */
export const GRADE_FILES = {
  "categories.csv": ["sourcedId", "status", "dateLastModified", "title", "weight"],
  "lineItems.csv": [
    ...["sourcedId", "status", "dateLastModified", "title", "description", "assignDate", "dueDate"],
    ...["classSourcedId", "categorySourcedId", "gradingPeriodSourcedId"],
    ...["resultValueMin", "resultValueMax", "schoolSourcedId"],
  ],
  "results.csv": [
    ...["sourcedId", "status", "dateLastModified", "lineItemSourcedId", "studentSourcedId"],
    ...["scoreStatus", "score", "scoreDate", "comment", "textScore", "classSourcedId"],
    ...["inProgress", "incomplete", "late", "missing"],
  ],
} as const;
export const SCORE_STATUSES = [
  ...["exempt", "fully graded", "not submitted", "partially graded", "submitted"],
] as const;

/** What the school's own records call things here. */
export type GradeRefs = {
  school: string;
  section: string;
  /** Null: the term is not known there. */ term: string | null;
  categories: readonly { id: string; name: string; weight: string }[];
  /** By student. */ students: ReadonlyMap<string, string>;
};

export type GradeFilesOf = {
  columns: readonly (LedgerColumn & { categoryId: string | null; opensOn: string })[];
  rows: readonly { studentId: string; cells: readonly (LedgerCell | null)[] }[];
  refs: GradeRefs;
  /** The day it leaves, YYYY-MM-DD. */ today: string;
};

/** The scores of a section as the files of a OneRoster 1.2 package: what was handed back; a draft is no result yet. */
export function writeGradeFiles({ columns, rows, refs, today }: GradeFilesOf): Map<string, string> {
  const files = new Map<string, string>();
  const put = (file: keyof typeof GRADE_FILES, lines: Record<string, string>[]) =>
    files.set(
      file,
      writeTable([
        GRADE_FILES[file],
        ...lines.map((l) => GRADE_FILES[file].map((c) => l[c] ?? "")),
      ]),
    );
  files.set("manifest.csv", writeManifest(Object.keys(GRADE_FILES), refs.school));
  put(
    "categories.csv",
    refs.categories.map(({ id, name, weight }) => ({ sourcedId: id, title: name, weight })),
  );
  put(
    "lineItems.csv",
    columns.map(({ handOutId, title, dueOn, opensOn, possible, categoryId }) => ({
      ...{ sourcedId: handOutId, title, assignDate: opensOn, dueDate: dueOn },
      ...{ classSourcedId: refs.section, categorySourcedId: categoryId ?? "" },
      ...{ gradingPeriodSourcedId: refs.term ?? "", schoolSourcedId: refs.school },
      ...(possible === null ? {} : { resultValueMin: "0", resultValueMax: possible }),
    })),
  );
  const results = rows.flatMap(({ studentId, cells }) =>
    cells.flatMap((cell, n) =>
      cell?.pieceId
        ? [{ ...resultOf(cell, columns[n]!), pieceId: cell.pieceId, n, studentId }]
        : [],
    ),
  );
  put(
    "results.csv",
    results.map(({ pieceId, n, studentId, ...result }) => ({
      ...{ sourcedId: pieceId, lineItemSourcedId: columns[n]!.handOutId },
      ...{ studentSourcedId: refs.students.get(studentId) ?? studentId, scoreDate: today },
      ...{ classSourcedId: refs.section, ...result },
    })),
  );
  return files;
}

function resultOf(
  { score, moon, work, draft }: LedgerCell,
  { scale }: LedgerColumn,
): Record<string, string> {
  const told = score ?? "";
  const plain = scale.kind === "points";
  return {
    scoreStatus: statusOf({ score, moon, work, draft }),
    ...(plain ? { score: told } : { textScore: told }),
    inProgress: String(moon.state === "started" || moon.state === "reworking"),
    incomplete: String(work.flag === "unfinished"),
    late: String(moon.late || work.flag === "late"),
    missing: String(moon.missing || work.flag === "missing"),
  };
}

function statusOf({
  score,
  moon,
  work,
}: Pick<LedgerCell, "score" | "moon" | "work" | "draft">): (typeof SCORE_STATUSES)[number] {
  if (work.excused || moon.excused) return "exempt";
  if (score !== null) return "fully graded";
  return moon.state === "not_opened" || moon.state === "started" ? "not submitted" : "submitted";
}
