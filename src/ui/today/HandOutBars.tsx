"use client";

import Link from "next/link";
import type { HandOutSummary } from "@/core/views/overviewViews";

const PARTS = [
  { key: "back", words: "handed back", fill: "var(--moss)" },
  { key: "in", words: "in", fill: "var(--tide)" },
  { key: "revise", words: "out for revision", fill: "var(--plum)" },
  { key: "started", words: "started", fill: "var(--line-strong)" },
  { key: "notOpened", words: "not opened", fill: "transparent" },
] as const;

/** How the current hand-outs stand, one small picture each, with the same in words. */
export function HandOutBars({ handOuts }: { handOuts: readonly HandOutSummary[] }) {
  return (
    <ul className="grid gap-x-8 gap-y-4 md:grid-cols-2 xl:grid-cols-3">
      {handOuts.map((handOut) => (
        <li key={handOut.id} className="border-t border-line pt-2">
          <p className="flex items-baseline justify-between gap-3">
            <Link
              href={`/hand-outs/${handOut.id}`}
              prefetch={false}
              className="truncate font-serif text-[1.0625rem] text-ink no-underline hover:underline"
            >
              {handOut.title}
            </Link>
            <span className="shrink-0 text-sm text-soft">{handOut.section}</span>
          </p>
          <svg
            viewBox={`0 0 ${handOut.counts.of} 1`}
            preserveAspectRatio="none"
            className="mt-1 h-2.5 w-full border border-line-strong"
            aria-hidden="true"
          >
            {
              PARTS.reduce<{ at: number; bars: React.ReactNode[] }>(
                ({ at, bars }, part) => {
                  const width = handOut.counts[part.key];
                  return {
                    at: at + width,
                    bars: [
                      ...bars,
                      <rect
                        key={part.key}
                        x={at}
                        y="0"
                        width={width}
                        height="1"
                        fill={part.fill}
                      />,
                    ],
                  };
                },
                { at: 0, bars: [] },
              ).bars
            }
          </svg>
          <p className="mt-0.5 text-sm text-soft">
            due {handOut.due} ·{" "}
            {PARTS.filter((part) => handOut.counts[part.key] > 0)
              .map((part) => `${handOut.counts[part.key]} ${part.words}`)
              .join(", ")}
            {handOut.counts.late > 0 ? `, ${handOut.counts.late} late` : ""}
          </p>
        </li>
      ))}
    </ul>
  );
}
