/** The cells that stand between two names of rows, in the earlier text and in the later. */
export type Row = { before: readonly string[]; after: readonly string[] };

type Pair = [number, number];

/** So many rows of one shape are a table, and so many of its cells still equal say which column came or went. */
const ROWS = 3;
const EQUAL = 0.5;
/** A table has no more columns than this to be tried one by one. */
const WIDEST = 40;

/**
 * Tells which column was put into a table, or taken out, from all of its rows together: in one row, of two equal
 * numbers either may be the one that is gone.
 *
 * @returns for a row of such a table the pairs of its cells that stayed and are equal; else null
 */
export function columnsOf(rows: readonly Row[]): (row: Row) => Pair[] | null {
  const shape = ({ before, after }: Row) => `${before.length} ${after.length}`;
  const tables = new Map<string, Row[]>();
  for (const row of rows) {
    if (Math.abs(row.before.length - row.after.length) !== 1) continue;
    if (Math.max(row.before.length, row.after.length) > WIDEST) continue;
    tables.set(shape(row), [...(tables.get(shape(row)) ?? []), row]);
  }
  const changed = new Map<string, number>();
  for (const [name, table] of tables) {
    const column = table.length < ROWS ? null : changedColumn(table);
    if (column !== null) changed.set(name, column);
  }
  return (row) => {
    const column = changed.get(shape(row));
    return column === undefined ? null : cellsWithout(row, column);
  };
}

/** The column whose coming or going leaves most cells as they were. */
function changedColumn(table: readonly Row[]): number | null {
  const { before, after } = table[0]!;
  const wide = Math.max(before.length, after.length);
  const equal = Array.from({ length: wide }, (_, column) =>
    table.reduce((sum, row) => sum + cellsWithout(row, column).length, 0),
  );
  const most = Math.max(...equal);
  return most >= EQUAL * table.length * (wide - 1) && most > 0 ? equal.indexOf(most) : null;
}

function cellsWithout({ before, after }: Row, column: number): Pair[] {
  const taken = before.length > after.length;
  const shorter = taken ? after : before;
  return shorter.flatMap((_, n): Pair[] => {
    const other = n < column ? n : n + 1;
    const pair: Pair = taken ? [other, n] : [n, other];
    return before[pair[0]] === after[pair[1]] ? [pair] : [];
  });
}
