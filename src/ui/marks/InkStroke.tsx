import { getStroke } from "perfect-freehand";
import { memo } from "react";
import type { Stroke } from "@/core/marks/place";

/** Units across a page or picture in the drawing's own view box. */
export const ACROSS = 1000;

/**
 * One stroke as an outline that swells with the pen's pressure, with a light rim so that every ink can be seen on
 * a dark photo and a white page alike.
 *
 * @param ratio height of the page or picture over its width
 */
export const InkStroke = memo(function InkStroke({
  stroke,
  ratio,
}: {
  stroke: Stroke;
  ratio: number;
}) {
  const path = outline(stroke, ratio);
  return (
    <>
      <path d={path} className="ink-rim" />
      <path d={path} className={`ink-${stroke.ink}`} />
    </>
  );
});

function outline({ points, width }: Stroke, ratio: number): string {
  const scale = ACROSS / 100;
  const real = points.some(([, , pressure], n) => n > 0 && pressure !== points[0]![2]);
  const around = getStroke(
    points.map(([x, y, pressure]) => [x * scale, y * scale * ratio, pressure]),
    {
      size: width * scale,
      thinning: real ? 0.5 : 0.25,
      smoothing: 0.5,
      streamline: 0.4,
      simulatePressure: !real,
      last: true,
    },
  );
  if (around.length === 0) return "";
  const [first, ...rest] = around as [number, number][];
  const middle = (a: readonly number[], b: readonly number[]) =>
    `${((a[0]! + b[0]!) / 2).toFixed(1)},${((a[1]! + b[1]!) / 2).toFixed(1)}`;
  const all = [first!, ...rest];
  return `M${first![0].toFixed(1)},${first![1].toFixed(1)} Q${all.map((p, n) => `${p[0].toFixed(1)},${p[1].toFixed(1)} ${middle(p, all[(n + 1) % all.length]!)}`).join(" ")} Z`;
}
