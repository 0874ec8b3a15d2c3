"use client";

import { Chart, type ChartConfiguration } from "chart.js";
import { useEffect, useRef } from "react";

/** The inks of the page that a chart is drawn with. */
export type Inks = { ink: string; soft: string; tide: string };

type Props = {
  /** What is drawn, as text: another text is drawn anew. */ drawing: string;
  /** The same in words, for who does not see it. */ said: string;
  configure: (inks: Inks) => ChartConfiguration;
};

/** A chart at rest in the inks of the page, as wide as it can be. */
export function Drawn({ drawing, said, configure }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const style = getComputedStyle(canvas.current);
    Chart.defaults.font.family = style.fontFamily;
    const ink = (name: string, otherwise: string) =>
      style.getPropertyValue(name).trim() || otherwise;
    const { options, ...rest } = configure({
      ...{ ink: ink("--ink", "#222"), soft: ink("--ink-soft", "#555") },
      tide: ink("--tide", "#0a5f6b"),
    });
    const chart = new Chart(canvas.current, {
      ...rest,
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        ...options,
      },
    });
    return () => chart.destroy();
    // What is drawn, by its own text.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [drawing]);
  return (
    <div className="mt-2 h-44">
      <canvas ref={canvas} role="img" aria-label={said} />
    </div>
  );
}
