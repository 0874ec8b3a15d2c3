import type { FinalScore } from "@/core/rounds/roundsRule";
import { trimmed } from "@/core/scores/decimal";
import type { Shows } from "@/core/ledger/shows";
import type { ScoreKind } from "@/core/scores/scales";
import { dayOf } from "@/core/time/zone";
import { sayDay, sayTime } from "@/core/time/words";
import type { LedgerCell, LedgerColumn, LedgerView } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { readAbout, readStudents, readTakenOff } from "../overview/sections";
import { byPiece, cellOf, readCells, type Cells, type CellScale } from "../grades/cells";

type ColumnRow = {
  id: string;
  assignmentId: string;
  title: string;
  dueAt: Date;
  pointsPossible: string | null;
  scoreKind: ScoreKind;
  finalScore: FinalScore;
  winBackPercent: string;
  counts: boolean;
  extraCredit: boolean;
  expects: string;
  shows: Shows;
  showsFrom: Date | null;
  category: string | null;
};

/** The columns of a section in the order of their due times. Index: hand_out_section. */
export function readColumns({ db }: ReadCall, sectionId: string): Promise<ColumnRow[]> {
  return db<ColumnRow[]>`
    select
      hand_out.id, hand_out.assignment_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.due_at,
      assignment.points_possible, assignment.score_kind, assignment.final_score, assignment.win_back_percent,
      assignment.counts, assignment.extra_credit, assignment.expects, hand_out.shows, hand_out.shows_from,
      category.name as category
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    left join category on category.id = hand_out.category_id
    where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null
    order by hand_out.due_at, assignment.title, hand_out.id`;
}

export const scaleOfColumn = (row: ColumnRow): CellScale => ({
  scale: { kind: row.scoreKind, possible: row.pointsPossible },
  finalScore: row.finalScore,
  winBackPercent: row.winBackPercent,
});

/** Students down, hand-outs across, in the order of their due times; scores that were handed back, and what is drafted. */
export async function ledgerView(
  call: ReadCall,
  sectionId: string,
  cells?: Promise<Cells>,
): Promise<LedgerView> {
  const { db, who } = call;
  await requireOnSection(db, who, sectionId, "ledger.see");
  const [section, columns, students, takenOff, { rows, scores }] = await Promise.all([
    readAbout(call, sectionId),
    readColumns(call, sectionId),
    readStudents(call, sectionId),
    readTakenOff(call, sectionId),
    cells ?? readCells(call, sectionId),
  ]);
  const cellsOf = cellsByStudent(columns, { rows, scores });
  return {
    section,
    columns: columns.map((column) => sayColumn(column, call)),
    rows: students.map(({ id, name, sortName, leftOn }) => ({
      key: id,
      studentId: id,
      sortName,
      student: leftOn ? `${name} (left)` : name,
      takenOff: columns.map((column) => takenOff.size > 0 && takenOff.has(`${id} ${column.id}`)),
      cells: cellsOf.get(id) ?? columns.map(() => null),
    })),
  };
}

/** The cells of each student in the order of the columns: in one walk, since there can be 18,000 of them. */
function cellsByStudent(
  columns: readonly ColumnRow[],
  { rows, scores }: Cells,
): Map<string, (LedgerCell | null)[]> {
  const rounds = byPiece(scores);
  const places = new Map(
    columns.map((column, n) => [column.id, { n, scale: scaleOfColumn(column) }]),
  );
  const cells = new Map<string, (LedgerCell | null)[]>();
  for (const row of rows) {
    const place = places.get(row.handOutId);
    if (!place) continue;
    let own = cells.get(row.studentId);
    if (!own) cells.set(row.studentId, (own = columns.map(() => null)));
    own[place.n] = cellOf(row, place.scale, rounds.get(row.id) ?? []);
  }
  return cells;
}

const showsOf = (
  { shows, showsFrom }: ColumnRow,
  { who, now }: Pick<ReadCall, "who" | "now">,
): LedgerColumn["shows"] => ({
  when: shows,
  from: showsFrom && sayDay(dayOf(showsFrom, who.zone), dayOf(now, who.zone)),
  on: showsFrom && dayOf(showsFrom, who.zone),
});

function sayColumn(column: ColumnRow, { who, now }: ReadCall): LedgerColumn {
  const about = [
    column.category ?? "",
    column.counts ? "" : "does not count",
    column.extraCredit ? "extra credit" : "",
    column.shows === "never" ? "for teachers only" : "",
  ];
  return {
    handOutId: column.id,
    assignmentId: column.assignmentId,
    title: column.title,
    due: sayTime(column.dueAt, now, who.zone),
    dueOn: dayOf(column.dueAt, who.zone),
    possible: column.pointsPossible === null ? null : trimmed(column.pointsPossible),
    about: about.filter(Boolean).join(" · "),
    category: column.category ?? "",
    scale: scaleOfColumn(column).scale,
    onPaper: column.expects === "nothing",
    shows: showsOf(column, { who, now }),
  };
}
