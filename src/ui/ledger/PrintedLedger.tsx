import type { LedgerColumn, LedgerWithGrades } from "@/core/views/ledgerViews";
import { sayState } from "@/core/views/states";
import { Moon } from "../kit/Moon";
import { moonHere, scoreHere, type CellHere } from "./sayCell";
import { sayGrade } from "./sayGrade";
import { GRADE_COLUMN, type LedgerHands } from "./useLedger";

/** As many as lie beside the names on a sheet of paper held sideways. */
const COLUMNS_OF_A_SHEET = 9;

/** The Ledger on paper: nobody scrolls there, so the columns go on on the next sheet, each with all the names. */
export function PrintedLedger({ view, hands }: { view: LedgerWithGrades; hands: LedgerHands }) {
  return (
    <div className="printed-ledger">
      {sheetsOf(view.columns).map((columns) => (
        <table key={columns[0]!.index} className="w-full border-collapse text-xs">
          <thead>
            <tr className="align-bottom">
              <th scope="col">
                {view.parts ? "Student, section" : view.section.name}
                {view.term ? `, ${view.term}` : ""}
              </th>
              <th scope="col">grade</th>
              {columns.map(({ column }) => (
                <th key={column.handOutId} scope="col">
                  {column.title}
                  <span className="block font-normal text-soft">
                    {column.due} · {column.possible ? `of ${column.possible}` : "words"}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {hands.rows.map((row, n) => (
              <tr key={row.key}>
                <th scope="row">
                  {row.student}
                  {row.section ? <span className="text-soft"> {row.section.name}</span> : null}
                </th>
                <td>
                  {sayGrade(hands.state.grades[row.key])}
                  {hands.state.grades[row.key]?.frozen ? " frozen" : ""}
                </td>
                {columns.map(({ column, index }) => (
                  <td key={column.handOutId}>
                    <PrintedCell
                      here={hands.hereAt({ row: n, column: index + GRADE_COLUMN + 1 })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}

/** What the signs of the screen say has to be read here: a draft and a flag in words. */
function PrintedCell({ here }: { here: CellHere | null }) {
  if (!here) return "–";
  const { words, draft } = scoreHere(here);
  const moon = moonHere(here);
  const { flag, excused } = here.work;
  const late = moon.late && words ? "late" : "";
  const said = [excused ? "excused" : (flag ?? late), draft ? "draft" : ""]
    .filter(Boolean)
    .join(", ");
  return (
    <>
      <Moon moon={moon} size={11} named={false} /> {words || said ? words : sayState(moon)}
      {said ? <span className="text-soft"> {said}</span> : null}
    </>
  );
}

type Placed = { column: LedgerColumn; index: number };

/** The columns as they are spread over sheets. */
function sheetsOf(columns: readonly LedgerColumn[]): Placed[][] {
  const placed = columns.map((column, index) => ({ column, index }));
  return Array.from({ length: Math.ceil(placed.length / COLUMNS_OF_A_SHEET) }, (_, n) =>
    placed.slice(n * COLUMNS_OF_A_SHEET, (n + 1) * COLUMNS_OF_A_SHEET),
  );
}
