"use client";

import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from "chart.js";
import { Drawn } from "./Drawn";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

type Props = {
  labels: readonly string[];
  values: readonly number[];
  /** A second bar beside each, drawn hollow. */ beside?: readonly number[];
  /** The same in words, for who does not see it; the numbers stand beside it too. */ said: string;
};

/** A chart of bars in the ink of the page; one colour says nothing that its height does not. */
export const Bars = ({ labels, values, beside, said }: Props) => (
  <Drawn
    drawing={JSON.stringify([labels, values, beside])}
    said={said}
    configure={({ soft, tide }) => ({
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
        scales: {
          x: { ticks: { color: soft }, grid: { display: false } },
          y: { beginAtZero: true, ticks: { precision: 0, color: soft } },
        },
      },
    })}
  />
);
