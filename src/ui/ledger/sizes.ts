/** Of the Ledger's grid, in CSS pixels. */
export const NAME_WIDTH = 168;
export const GRADE_WIDTH = 136;
export const ROW_HEIGHT = 36;
const HEAD_HEIGHT = 84;
/** With the names of groups over the columns. */
export const GROUPED_HEAD_HEIGHT = 104;

/** Few columns may be wide enough for their titles; many are as narrow as a score and its signs. */
export const columnWidth = (columns: readonly { width?: number | null }[], n: number): number =>
  columns[n]?.width ?? (columns.length <= 6 ? 160 : 112);

export const headHeight = (columns: readonly { group?: string }[]): number =>
  columns.some(({ group }) => group) ? GROUPED_HEAD_HEIGHT : HEAD_HEIGHT;
