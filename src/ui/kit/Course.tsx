"use client";

import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js"; // prettier-ignore
import { useEffect, useRef } from "react";

Chart.register(LineController, LineElement, PointElement, CategoryScale, LinearScale, Tooltip);

type Props = {
  /** In their order. */ points: readonly { label: string; percent: number }[];
  /** The same in words, for who does not see it; the numbers stand beside it too. */ said: string;
};

/** Percents one after another, with a thin line from each to the next. */
export function Course({ points, said }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const key = JSON.stringify(points);
  useEffect(() => {
    if (!canvas.current) return;
    const style = getComputedStyle(canvas.current);
    Chart.defaults.font.family = style.fontFamily;
    const [soft, ink] = ["--ink-soft", "--ink"].map((name) => style.getPropertyValue(name).trim());
    const chart = new Chart(canvas.current, {
      type: "line",
      data: {
        labels: points.map(({ label }) => label),
        datasets: [
          {
            data: points.map(({ percent }) => percent),
            ...{ borderColor: soft, borderWidth: 1, pointBackgroundColor: ink, pointRadius: 4 },
          },
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          x: { ticks: { color: soft, maxRotation: 0, autoSkip: true }, grid: { display: false } },
          y: { min: 0, suggestedMax: 100, ticks: { color: soft } },
        },
      },
    });
    return () => chart.destroy();
    // What is drawn, by its own text.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return (
    <div className="mt-2 h-44">
      <canvas ref={canvas} role="img" aria-label={said} />
    </div>
  );
}
