"use client";

import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js"; // prettier-ignore
import { Drawn } from "./Drawn";

Chart.register(LineController, LineElement, PointElement, CategoryScale, LinearScale, Tooltip);

type Props = {
  /** In their order. */ points: readonly { label: string; percent: number }[];
  /** The same in words, for who does not see it; the numbers stand beside it too. */ said: string;
};

/** Percents one after another, with a thin line from each to the next. */
export const Course = ({ points, said }: Props) => (
  <Drawn
    drawing={JSON.stringify(points)}
    said={said}
    configure={({ ink, soft }) => ({
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
        scales: {
          x: { ticks: { color: soft, maxRotation: 0, autoSkip: true }, grid: { display: false } },
          y: { min: 0, suggestedMax: 100, ticks: { color: soft } },
        },
      },
    })}
  />
);
