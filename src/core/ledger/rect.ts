/** A cell by its row and column, from nought. */
export type Spot = { row: number; column: number };
/** A stretch of cells, both ends in it. */
export type Rect = { top: number; bottom: number; left: number; right: number };
export type Extent = { rows: number; columns: number };

/** The stretch between two corners, whichever way they lie. */
export const rectOf = (a: Spot, b: Spot): Rect => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
});

export const isWithin = ({ row, column }: Spot, rect: Rect): boolean =>
  rect.top <= row && row <= rect.bottom && rect.left <= column && column <= rect.right;

export const isOneCell = (rect: Rect): boolean =>
  rect.top === rect.bottom && rect.left === rect.right;

/** Its cells, row by row. */
export function spotsOf({ top, bottom, left, right }: Rect): Spot[] {
  const spots: Spot[] = [];
  for (let row = top; row <= bottom; row += 1)
    for (let column = left; column <= right; column += 1) spots.push({ row, column });
  return spots;
}

/** A move by keys, as the ARIA Authoring Practices Guide gives them for a grid. */
export type Move =
  "up" | "down" | "left" | "right" | "home" | "end" | "first" | "last" | "pageUp" | "pageDown";

/** Where a move leads; it ends at the rim. @param page how many rows a page has */
export function moved({ row, column }: Spot, move: Move, extent: Extent, page: number): Spot {
  const [last, end] = [extent.rows - 1, extent.columns - 1];
  const to: Record<Move, Spot> = {
    up: { row: row - 1, column },
    down: { row: row + 1, column },
    left: { row, column: column - 1 },
    right: { row, column: column + 1 },
    home: { row, column: 0 },
    end: { row, column: end },
    first: { row: 0, column: 0 },
    last: { row: last, column: end },
    pageUp: { row: row - page, column },
    pageDown: { row: row + page, column },
  };
  const within = (n: number, most: number) => Math.max(0, Math.min(most, n));
  return { row: within(to[move].row, last), column: within(to[move].column, end) };
}
