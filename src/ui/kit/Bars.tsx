"use client";

import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from "chart.js";
import { useEffect, useRef } from "react";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

type Props = {
  labels: readonly string[];
  values: readonly number[];
  /** A second bar beside each, drawn hollow. */ beside?: readonly number[];
  /** The same in words, for who does not see it; the numbers stand beside it too. */ said: string;
};

/** A chart of bars in the ink of the page; one colour says nothing that its height does not. */
export function Bars({ labels, values, beside, said }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const key = JSON.stringify([labels, values, beside]);
  useEffect(() => {
    if (!canvas.current) return;
    const ink = getComputedStyle(canvas.current);
    Chart.defaults.font.family = ink.fontFamily;
    const soft = ink.getPropertyValue("--ink-soft").trim() || "#555";
    const tide = ink.getPropertyValue("--tide").trim() || "#0a5f6b";
    const chart = new Chart(canvas.current, {
      type: "bar",
      data: {
        labels: [...labels],
        datasets: [
          { data: [...values], backgroundColor: tide },
          ...(beside
            ? [{ data: [...beside], borderColor: tide, borderWidth: 2, backgroundColor: "#0000" }]
            : []),
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          x: { ticks: { color: soft }, grid: { display: false } },
          y: { beginAtZero: true, ticks: { precision: 0, color: soft } },
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
