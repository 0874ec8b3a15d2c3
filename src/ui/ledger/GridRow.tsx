import Link from "next/link";
import { isWithin } from "@/core/ledger/rect";
import { sectionOf } from "@/core/ledger/sideBySide";
import type { LedgerGrades, LedgerWithGrades } from "@/core/views/ledgerViews";
import { classes } from "../kit/classes";
import { GridCell } from "./GridCell";
import { columnWidth, GRADE_WIDTH, NAME_WIDTH, ROW_HEIGHT } from "./sizes";
import { sayGrade } from "./sayGrade";
import { GRADE_COLUMN, type LedgerHands } from "./useLedger";

type RowProps = {
  row: number;
  top: number;
  width: number;
  columns: readonly { index: number; start: number }[];
  view: LedgerWithGrades;
  hands: LedgerHands;
  /** A line between sections that stand below each other. */ ruled: boolean;
};

/** A student with the grade and the cells that are in view. */
export function GridRow({ row, top, width, columns, view, hands, ruled }: RowProps) {
  const { student, section } = hands.rows[row]!;
  const begins = ruled && row > 0 && hands.rows[row - 1]!.section?.id !== section?.id;
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      className={classes(
        "absolute top-0 left-0 border-b border-line",
        begins && "border-t-2 border-t-ink",
        // What is said of a cell while it is typed lies over the rows below.
        hands.typing !== null && hands.at.row === row && "z-[15]",
      )}
      style={{ width, height: ROW_HEIGHT, transform: `translateY(${top}px)` }}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        className={classes(
          "sticky left-0 z-10 flex h-full items-center border-r border-line bg-paper px-2",
          hands.at.row === row && "font-semibold",
        )}
        style={{ width: NAME_WIDTH }}
      >
        <span className="min-w-0 truncate leading-[1.15]" title={student}>
          {student}
          {section ? (
            <span className="block truncate text-xs leading-none font-normal text-soft">
              {section.name}
            </span>
          ) : null}
        </span>
      </div>
      <GradeCell {...{ row, view, hands }} grades={hands.state.grades} />
      {columns.map(({ index, start }) => (
        <GridCell
          key={view.columns[index]!.handOutId}
          spot={{ row, column: index + 1 }}
          left={start}
          width={columnWidth(view.columns, index)}
          takenOff={hands.rows[row]!.takenOff[index] ?? false}
          label={`${student}, ${view.columns[index]!.title}`}
          hands={hands}
        />
      ))}
    </div>
  );
}

/** The grade leads to its sum. */
function GradeCell({
  row,
  view,
  hands,
  grades,
}: Pick<RowProps, "row" | "view" | "hands"> & { grades: LedgerGrades }) {
  const here = hands.rows[row]!;
  const grade = grades[here.key];
  const spot = { row, column: GRADE_COLUMN };
  const isAt = hands.at.row === row && hands.at.column === GRADE_COLUMN;
  const words = sayGrade(grade);
  return (
    <div
      role="gridcell"
      aria-colindex={2}
      aria-readonly="true"
      aria-selected={isWithin(spot, hands.rect)}
      data-spot={`${row}:${GRADE_COLUMN}`}
      className={classes(
        "absolute top-0 flex h-full items-center px-2",
        isWithin(spot, hands.rect) && "bg-tide-wash",
      )}
      style={{ left: NAME_WIDTH, width: GRADE_WIDTH }}
    >
      <Link
        href={`/ledger/${sectionOf(view, here).id}/grades/${here.studentId}?term=${encodeURIComponent(view.term ?? "")}`}
        prefetch={false}
        tabIndex={isAt ? 0 : -1}
        data-focus
        className="flex min-h-6 items-center truncate font-serif text-base text-ink no-underline hover:underline"
        aria-label={`${here.student}: the grade and its sum, ${words}${sayFrozen(grade)}`}
      >
        <FrozenSign of={grade} />
        {words}
      </Link>
    </div>
  );
}

const sayFrozen = (grade: LedgerGrades[string] | undefined): string => {
  if (!grade?.frozen) return "";
  const { now } = grade.frozen;
  return now ? `, frozen; the scores would make ${now} now` : ", frozen";
};

/** A frozen grade has a sign; where the scores would make another, a second one. */
function FrozenSign({ of }: { of: LedgerGrades[string] | undefined }) {
  if (!of?.frozen) return null;
  const differs = of.frozen.now !== null;
  return (
    <span
      aria-hidden="true"
      title={sayFrozen(of).slice(2)}
      className={differs ? "mr-1 text-ember" : "mr-1 text-soft"}
    >
      {differs ? "■≠" : "■"}
    </span>
  );
}
