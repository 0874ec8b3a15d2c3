import type { LedgerColumn, LedgerGrades, LedgerRow, LedgerWithGrades } from "../views/ledgerViews";

/** So many sections stand side by side: a teacher's week. */
export const MOST_BESIDE = 8;

/** What a column is in a row's section: its hand-out there, its due time, its rule. */
export const columnFor = (column: LedgerColumn, row: LedgerRow | undefined): LedgerColumn =>
  (row?.section && column.parts?.[row.section.id]) ?? column;

/** The section a row is of. */
export const sectionOf = (
  view: Pick<LedgerWithGrades, "section">,
  row: LedgerRow | undefined,
): { id: string; name: string } => row?.section ?? view.section;

/** The key of a student's row in one of the sections that stand side by side. */
export const keyIn = (sectionId: string, studentId: string): string => `${sectionId} ${studentId}`;

/** Grades of one section, by student, as they are found where sections stand side by side. */
export const gradesIn = (sectionId: string, grades: LedgerGrades): LedgerGrades =>
  Object.fromEntries(Object.entries(grades).map(([id, grade]) => [keyIn(sectionId, id), grade]));

/**
 * Ledgers of some sections as one: the students of each below each other, and work that went to several of them in one
 * column. What was handed out twice to a section has two columns. Where a section has not the term that is looked at, it
 * has no columns and no grades there.
 *
 * @param all the first one is the one whose layout is followed; at least one
 * @example 8A: Essay, Fox; 8B: Essay, Owl → columns Essay, Fox, Owl in the order of their days; the Owl of 8A is not given
 */
export function sideBySide(all: readonly LedgerWithGrades[]): LedgerWithGrades {
  const first = all[0]!;
  const known = all.map((part) => (part.term === first.term ? part : withoutWork(part)));
  const places = known.map(placesOf);
  const columns = merged(known, places);
  const every = (ask: (part: LedgerWithGrades) => boolean) => all.every(ask);
  return {
    ...first,
    columns: columns.map(({ column }) => column),
    rows: known.flatMap((part, n) =>
      part.rows.map((row) => rowAmong(row, part.section, (key) => places[n]!.get(key), columns)),
    ),
    grades: Object.assign({}, ...known.map((part) => gradesIn(part.section.id, part.grades))),
    may: {
      handOut: every((part) => part.may.handOut),
      except: every((part) => part.may.except),
      handBack: every((part) => part.may.handBack),
      setUp: every((part) => part.may.setUp),
    },
    // Terms are frozen section by section: each grade says so for itself.
    ...{ frozen: null, opened: [] },
    parts: all.map(({ section, terms }) => ({
      ...{ id: section.id, name: section.name, terms: terms.length },
    })),
  };
}

type Merged = { key: string; column: LedgerColumn };

const withoutWork = (part: LedgerWithGrades): LedgerWithGrades => ({
  ...{ ...part, columns: [], grades: {} },
  rows: part.rows.map((row) => ({ ...row, takenOff: [], cells: [] })),
});

/** Where each column of a section stands in it, by what it is in all of them: the work, and which time it was given. */
function placesOf({ columns }: LedgerWithGrades): Map<string, number> {
  const times = new Map<string, number>();
  return new Map(
    columns.map(({ assignmentId }, n) => {
      const time = (times.get(assignmentId) ?? 0) + 1;
      times.set(assignmentId, time);
      return [`${assignmentId} ${time}`, n];
    }),
  );
}

/** The columns of all, each once, by the day that it is first due on. */
function merged(
  all: readonly LedgerWithGrades[],
  places: readonly ReadonlyMap<string, number>[],
): Merged[] {
  const parts = new Map<string, { sectionId: string; column: LedgerColumn }[]>();
  for (const [n, part] of all.entries())
    for (const [key, place] of places[n]!) {
      const one = { sectionId: part.section.id, column: part.columns[place]! };
      parts.set(key, [...(parts.get(key) ?? []), one]);
    }
  return [...parts]
    .map(([key, found]) => ({ key, column: oneOf(found) }))
    .sort((a, b) => a.column.dueOn.localeCompare(b.column.dueOn));
}

function oneOf(found: readonly { sectionId: string; column: LedgerColumn }[]): LedgerColumn {
  const first = found[0]!;
  const soonest = found
    .map(({ column }) => column)
    .reduce((a, b) => (b.dueOn < a.dueOn ? b : a), first.column);
  const same = (of: (column: LedgerColumn) => string) =>
    found.every(({ column }) => of(column) === of(first.column));
  return {
    ...first.column,
    dueOn: soonest.dueOn,
    due: same((column) => column.due) ? soonest.due : `from ${soonest.due}`,
    about: same((column) => column.about) ? first.column.about : "",
    category: same((column) => column.category) ? first.column.category : "",
    parts: Object.fromEntries(found.map(({ sectionId, column }) => [sectionId, column])),
  };
}

function rowAmong(
  row: LedgerRow,
  { id, name }: LedgerWithGrades["section"],
  placeOf: (key: string) => number | undefined,
  columns: readonly Merged[],
): LedgerRow {
  const at = columns.map(({ key }) => placeOf(key));
  return {
    ...{ ...row, key: keyIn(id, row.studentId), section: { id, name } },
    takenOff: at.map((n) => (n === undefined ? false : (row.takenOff[n] ?? false))),
    cells: at.map((n) => (n === undefined ? null : (row.cells[n] ?? null))),
  };
}
