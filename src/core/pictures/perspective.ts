/**
 * A photo of paper made straight: the four corners of the sheet are carried to those of a rectangle.
 *
 * The map between two quadrilaterals of a plane is a homography; its eight numbers follow from the four pairs of
 * corners by a linear system (R. Hartley and A. Zisserman, Multiple View Geometry, 2nd ed. 2004, chapter 4, the
 * direct linear transform with the ninth number set to 1; from memory). For each pixel of the result the place it
 * came from is computed and read by bilinear interpolation, so that no pixel is left empty.
 */
export type Point = { x: number; y: number };
/** The corners of the sheet: top left, top right, bottom right, bottom left. */
export type Corners = readonly [Point, Point, Point, Point];
/** Pixels as a canvas gives them: RGBA, a byte each, row by row. */
export type Pixels = { data: Uint8ClampedArray; width: number; height: number };

/** The whole picture, as corners in pixels. */
export const wholeOf = ({ width, height }: { width: number; height: number }): Corners => [
  { x: 0, y: 0 },
  { x: width, y: 0 },
  { x: width, y: height },
  { x: 0, y: height },
];

/** The size a straightened sheet gets: the longer of each two opposite edges, at most `most` px. */
export function sheetSize([a, b, c, d]: Corners, most = 2400): { width: number; height: number } {
  const long = (p: Point, q: Point) => Math.hypot(p.x - q.x, p.y - q.y);
  const width = Math.max(long(a, b), long(d, c));
  const height = Math.max(long(a, d), long(b, c));
  const scale = Math.min(1, most / Math.max(width, height, 1));
  return {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
}

/** Whether the corners go round a convex figure clockwise (y downwards) with some area; another cannot be straightened. */
export function isSheet(corners: Corners): boolean {
  return corners.every((p, n) => {
    const q = corners[(n + 1) % 4]!;
    const r = corners[(n + 2) % 4]!;
    return (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x) > 16;
  });
}

/** The nine numbers of the homography that carries each of `from` to its fellow in `to`. */
export function homography(from: Corners, to: Corners): number[] {
  const rows = from.flatMap(({ x, y }, n) => {
    const { x: u, y: v } = to[n]!;
    return [
      [x, y, 1, 0, 0, 0, -u * x, -u * y, u],
      [0, 0, 0, x, y, 1, -v * x, -v * y, v],
    ];
  });
  return [...solve(rows), 1];
}

/** Gaussian elimination with partial pivoting; each row holds its right-hand side last. */
function solve(rows: number[][]): number[] {
  const n = rows.length;
  for (let column = 0; column < n; column += 1) {
    let best = column;
    for (let row = column + 1; row < n; row += 1)
      if (Math.abs(rows[row]![column]!) > Math.abs(rows[best]![column]!)) best = row;
    [rows[column], rows[best]] = [rows[best]!, rows[column]!];
    const pivot = rows[column]!;
    for (let row = column + 1; row < n; row += 1) {
      const factor = rows[row]![column]! / pivot[column]!;
      for (let k = column; k <= n; k += 1) rows[row]![k]! -= factor * pivot[k]!;
    }
  }
  const result = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row -= 1) {
    let sum = rows[row]![n]!;
    for (let k = row + 1; k < n; k += 1) sum -= rows[row]![k]! * result[k]!;
    result[row] = sum / rows[row]![row]!;
  }
  return result;
}

export const carry = (h: readonly number[], { x, y }: Point): Point => {
  const w = h[6]! * x + h[7]! * y + h[8]!;
  return { x: (h[0]! * x + h[1]! * y + h[2]!) / w, y: (h[3]! * x + h[4]! * y + h[5]!) / w };
};

/** The sheet between the corners as a rectangle of its own. */
export function straighten(source: Pixels, corners: Corners, size = sheetSize(corners)): Pixels {
  const { width, height } = size;
  const back = homography(wholeOf(size), corners);
  const [a, b, c, d, e, f, g, h] = back as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const out = new Uint8ClampedArray(width * height * 4);
  for (let y = 0, at = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, at += 4) {
      // The middle of a pixel lies half a pixel in.
      const [px, py] = [x + 0.5, y + 0.5];
      const w = g * px + h * py + 1;
      const from = { x: (a * px + b * py + c) / w - 0.5, y: (d * px + e * py + f) / w - 0.5 };
      sample(source, from, out, at);
    }
  }
  return { data: out, width, height };
}

function sample(
  { data, width, height }: Pixels,
  { x, y }: { x: number; y: number },
  out: Uint8ClampedArray,
  at: number,
): void {
  const sx = Math.min(width - 1, Math.max(0, x));
  const sy = Math.min(height - 1, Math.max(0, y));
  const [x0, y0] = [Math.floor(sx), Math.floor(sy)];
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  const [fx, fy] = [sx - x0, sy - y0];
  for (let k = 0; k < 4; k += 1) {
    const top = data[(y0 * width + x0) * 4 + k]! * (1 - fx) + data[(y0 * width + x1) * 4 + k]! * fx;
    const bottom =
      data[(y1 * width + x0) * 4 + k]! * (1 - fx) + data[(y1 * width + x1) * 4 + k]! * fx;
    out[at + k] = top * (1 - fy) + bottom * fy;
  }
}

/** A quarter turn to the right, so many times. */
export function turn(source: Pixels, quarters: number): Pixels {
  const turns = ((quarters % 4) + 4) % 4;
  if (turns === 0) return source;
  const { width, height } = source;
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, width * height);
  const [w, h] = turns === 2 ? [width, height] : [height, width];
  // Where the pixel that comes to x, y stood, after one, two and three quarters.
  const before = [
    (x: number, y: number) => [y, height - 1 - x],
    (x: number, y: number) => [width - 1 - x, height - 1 - y],
    (x: number, y: number) => [width - 1 - y, x],
  ];
  const to = new Uint32Array(w * h);
  for (let y = 0; y < h; y += 1) {
    for (let x = 0; x < w; x += 1) {
      const [sx, sy] = before[turns - 1]!(x, y);
      to[y * w + x] = from[sy! * width + sx!]!;
    }
  }
  return { data: new Uint8ClampedArray(to.buffer), width: w, height: h };
}
