import type { Pixels } from "./perspective";

/**
 * Makes the paper of a photographed page white and its writing dark, also where a shadow lies across it.
 *
 * How it works: the brightness of the paper is taken per cell of a coarse grid as a high percentile of the cell's
 * luminance (writing covers less than a fifth of a page, so that is paper), smoothed over neighbours; each pixel
 * is then divided by the paper's brightness where it stands (a flat-field correction, as for scanners), and the dark
 * end is stretched a little. Colour keeps its hue, since all three channels get the same factor.
 */
const CELL = 32;
const PAPER = 0.85;

export function lighten({ data, width, height }: Pixels): Pixels {
  const columns = Math.ceil(width / CELL);
  const rows = Math.ceil(height / CELL);
  const cells = { columns, rows };
  const paper = smooth(paperGrid(data, { width, height }, cells), cells);
  const out = new Uint8ClampedArray(data.length);
  for (let y = 0, at = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, at += 4) {
      const gain = 255 / Math.max(48, gridAt(paper, cells, x / CELL - 0.5, y / CELL - 0.5));
      for (let k = 0; k < 3; k += 1) {
        const lit = Math.min(255, data[at + k]! * gain);
        // A slight curve: what is nearly paper becomes paper, what is dark stays dark.
        out[at + k] = 255 - (255 - lit) * (lit > 216 ? 0.55 : 1.06);
      }
      out[at + 3] = data[at + 3]!;
    }
  }
  return { data: out, width, height };
}

export const luminance = (r: number, g: number, b: number): number =>
  0.2126 * r + 0.7152 * g + 0.0722 * b; // ITU-R BT.709

type Size = { width: number; height: number };
type Cells = { columns: number; rows: number };

function paperGrid(data: Uint8ClampedArray, size: Size, { columns, rows }: Cells): Float32Array {
  const grid = new Float32Array(columns * rows);
  for (let row = 0; row < rows; row += 1)
    for (let column = 0; column < columns; column += 1)
      grid[row * columns + column] = paperOf(data, size, column * CELL, row * CELL);
  return grid;
}

/** How light the paper is in the cell that begins at these pixels: the value that most of it stays under. */
function paperOf(
  data: Uint8ClampedArray,
  { width, height }: Size,
  left: number,
  top: number,
): number {
  const histogram = new Uint32Array(256);
  let count = 0;
  for (let y = top; y < Math.min(height, top + CELL); y += 2) {
    for (let x = left; x < Math.min(width, left + CELL); x += 2) {
      const at = (y * width + x) * 4;
      histogram[Math.round(luminance(data[at]!, data[at + 1]!, data[at + 2]!))]! += 1;
      count += 1;
    }
  }
  let seen = 0;
  let value = 0;
  while (value < 255 && (seen += histogram[value]!) < count * PAPER) value += 1;
  return value;
}

/** The mean over three by three cells. */
function smooth(grid: Float32Array, cells: Cells): Float32Array {
  const out = new Float32Array(grid.length);
  for (let row = 0; row < cells.rows; row += 1)
    for (let column = 0; column < cells.columns; column += 1)
      out[row * cells.columns + column] = meanAround(grid, cells, column, row);
  return out;
}

function meanAround(
  grid: Float32Array,
  { columns, rows }: Cells,
  column: number,
  row: number,
): number {
  let sum = 0;
  let count = 0;
  for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r += 1) {
    for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c += 1) {
      sum += grid[r * columns + c]!;
      count += 1;
    }
  }
  return sum / count;
}

function gridAt(grid: Float32Array, { columns, rows }: Cells, x: number, y: number): number {
  const cx = Math.min(columns - 1, Math.max(0, x));
  const cy = Math.min(rows - 1, Math.max(0, y));
  const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
  const [x1, y1] = [Math.min(columns - 1, x0 + 1), Math.min(rows - 1, y0 + 1)];
  const top = grid[y0 * columns + x0]! * (1 - cx + x0) + grid[y0 * columns + x1]! * (cx - x0);
  const bottom = grid[y1 * columns + x0]! * (1 - cx + x0) + grid[y1 * columns + x1]! * (cx - x0);
  return top * (1 - cy + y0) + bottom * (cy - y0);
}
