import Link from "next/link";
import { useRef, type ReactNode } from "react";
import type { LedgerColumn, LedgerWithGrades } from "@/core/views/ledgerViews";
import { classes } from "../kit/classes";
import { columnWidth, GRADE_WIDTH, headHeight, NAME_WIDTH } from "./sizes";
import type { RowOrder } from "./useRows";

type Props = {
  view: LedgerWithGrades;
  order: RowOrder;
  onSort: (by: RowOrder["by"]) => void;
  width: number;
  widen: (column: number, by: number) => void;
  /** Those in view. */ columns: readonly { index: number; start: number }[];
};

/** What stands over the columns: the work, when it was due, of how many points; each sorts the students. */
export function GridHead({ view, order, onSort, width, widen, columns }: Props) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-20 border-b border-line-strong bg-paper"
      style={{ width, height: headHeight(view.columns) }}
    >
      <Head className="left-0 z-10" colIndex={1} width={NAME_WIDTH} at={0} sticky>
        <SortButton by="name" {...{ order, onSort }}>
          student
        </SortButton>
      </Head>
      <Head colIndex={2} width={GRADE_WIDTH} at={NAME_WIDTH} sortOf={order} by="grade">
        <SortButton by="grade" {...{ order, onSort }}>
          grade
        </SortButton>
        <span className="block text-xs text-soft">
          {view.term ? `${view.term}, ` : ""}
          {view.frozen ? "frozen" : "drafts too"}
        </span>
      </Head>
      {columns.map((item) => {
        const column = view.columns[item.index]!;
        const by = item.index + 1;
        return (
          <Head
            key={column.handOutId}
            colIndex={item.index + 3}
            width={columnWidth(view.columns, item.index)}
            at={item.start}
            sortOf={order}
            by={by}
          >
            <GroupName columns={view.columns} index={item.index} />
            <Link
              href={`/hand-outs/${column.handOutId}`}
              prefetch={false}
              tabIndex={-1}
              title={column.title}
              className="line-clamp-2 min-h-6 font-serif text-sm leading-tight text-ink"
            >
              {column.title}
            </Link>
            <span className="flex items-baseline gap-1 text-xs text-soft">
              <span className="min-w-0 flex-1 truncate" title={column.about}>
                {column.due.replace(/,? \d\d:\d\d$/, "")} · {sayOf(column.possible)}
              </span>
              <SortButton by={by} {...{ order, onSort }} name={column.title} />
            </span>
            <Edge onWiden={(px) => widen(item.index, px)} />
          </Head>
        );
      })}
    </div>
  );
}

/** Over the first column of each group what the group is called. */
function GroupName({ columns, index }: { columns: readonly LedgerColumn[]; index: number }) {
  const { group } = columns[index]!;
  if (!group || columns[index - 1]?.group === group) return null;
  return (
    <span className="label absolute top-1 left-2 truncate font-sans!" title={group}>
      {group}
    </span>
  );
}

const sayOf = (possible: string | null) => (possible ? `of ${possible}` : "words");

/** The right edge of a head, dragged to make its column wider or narrower; by keys it is Alt+Shift and an arrow. */
function Edge({ onWiden }: { onWiden: (by: number) => void }) {
  const from = useRef<number | null>(null);
  return (
    <span
      aria-hidden="true"
      data-edge
      title="Drag, or Alt+Shift+← →"
      className="absolute top-0 right-0 h-full w-2 cursor-col-resize touch-none border-r border-line hover:border-r-2 hover:border-tide"
      // The focus stays where one is.
      onMouseDown={(event) => event.preventDefault()}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = event.clientX;
      }}
      onPointerMove={(event) => {
        if (from.current === null || event.clientX === from.current) return;
        onWiden(event.clientX - from.current);
        from.current = event.clientX;
      }}
      onPointerUp={() => {
        from.current = null;
      }}
    />
  );
}

function Head({
  colIndex,
  width,
  at,
  sticky,
  className,
  sortOf,
  by,
  children,
}: {
  colIndex: number;
  width: number;
  at: number;
  sticky?: boolean;
  className?: string;
  sortOf?: RowOrder;
  by?: RowOrder["by"];
  children: ReactNode;
}) {
  const sorted = sortOf && by !== undefined && sortOf.by === by;
  const way = sortOf?.down ? "descending" : "ascending";
  return (
    <div
      role="columnheader"
      aria-colindex={colIndex}
      aria-sort={sorted ? way : undefined}
      className={classes(
        "top-0 flex h-full flex-col justify-end overflow-hidden bg-paper px-2 pb-1.5",
        sticky ? "sticky border-r border-line" : "absolute",
        className,
      )}
      style={{ width, ...(sticky ? {} : { left: at }) }}
    >
      {children}
    </div>
  );
}

function SortButton({
  by,
  order,
  onSort,
  name,
  children,
}: {
  by: RowOrder["by"];
  order: RowOrder;
  onSort: (by: RowOrder["by"]) => void;
  name?: string;
  children?: ReactNode;
}) {
  const sorted = order.by === by;
  const way = order.down ? " ↓" : " ↑";
  return (
    <button
      type="button"
      tabIndex={name ? -1 : 0}
      aria-label={name ? `Sort by ${name}` : undefined}
      className="min-h-6 min-w-6 cursor-pointer text-left text-sm text-ink max-sm:min-h-11 max-sm:min-w-11"
      onClick={() => onSort(by)}
    >
      {children}
      {sorted ? (
        <span aria-hidden="true" className="text-tide">
          {way}
        </span>
      ) : (
        <Unsorted />
      )}
    </button>
  );
}

/** Drawn, since the sign for it is a coloured picture in many fonts. */
const Unsorted = () => (
  <svg
    width="9"
    height="13"
    viewBox="0 0 9 13"
    className="ml-1 inline-block text-soft"
    aria-hidden="true"
  >
    <path d="M1 5 L4.5 1 L8 5 M1 8 L4.5 12 L8 8" fill="none" stroke="currentColor" />
  </svg>
);
