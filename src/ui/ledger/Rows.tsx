import { ROWS_SHOWN, type RowsShown } from "@/core/ledger/rowsShown";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { Button } from "../kit/Button";
import type { useRows } from "./useRows";

const SHOWN: Readonly<Record<RowsShown, string>> = {
  all: "all students",
  missing: "something missing",
  late: "something late",
  draft: "a draft not handed back",
  blank: "no score in this column",
};
const FIELD =
  "min-h-8 rounded-[3px] border border-line-strong bg-raised px-2 text-ink max-sm:min-h-11";

/** Which students are shown, and where sections stand side by side, whether they are mixed. */
export function Rows({
  view,
  rows,
  column,
}: {
  view: LedgerWithGrades;
  rows: ReturnType<typeof useRows>;
  /** The one one is at, counted from 0. */ column: number;
}) {
  const { order } = rows;
  return (
    <>
      <input
        type="search"
        aria-label="Find a student"
        placeholder="Find a student"
        className={`w-44 ${FIELD}`}
        value={rows.query}
        maxLength={60}
        onChange={(event) => rows.setQuery(event.target.value)}
      />
      <select
        aria-label="Students shown"
        className={FIELD}
        value={rows.shown}
        onChange={(event) => rows.show(event.target.value as RowsShown, column)}
      >
        {ROWS_SHOWN.map((shown) => (
          <option key={shown} value={shown}>
            {SHOWN[shown]}
          </option>
        ))}
      </select>
      {view.parts ? (
        <Button small aria-pressed={order.mixed} onClick={() => rows.mix(!order.mixed)}>
          Sections mixed
        </Button>
      ) : null}
    </>
  );
}
