"use client";

import { useState, type ReactNode } from "react";
import { CheckField } from "../../kit/Field";

type Props = {
  /** Height over width of what is shown now. */ ratio: number;
  before: ReactNode;
  after: ReactNode;
  /** What the earlier one is called, such as "round 1". */ earlier: string;
  children?: ReactNode;
};

/** Two pictures over one another: a slider between them, or only what is different. */
export function Overlay({ ratio, before, after, earlier, children }: Props) {
  const [share, setShare] = useState(50);
  const [difference, setDifference] = useState(false);
  return (
    <figure>
      <div
        className="relative isolate overflow-hidden border border-line bg-raised"
        style={{ width: `min(100%, calc(56vh / ${ratio}))`, aspectRatio: `1 / ${ratio}` }}
      >
        <div className="absolute inset-0">{after}</div>
        <div
          className="absolute inset-0"
          style={
            difference
              ? { mixBlendMode: "difference" }
              : { clipPath: `inset(0 ${100 - share}% 0 0)` }
          }
        >
          {before}
        </div>
        {difference ? null : (
          <span
            aria-hidden="true"
            className="absolute inset-y-0 w-0.5 bg-tide"
            style={{ left: `${share}%` }}
          />
        )}
      </div>
      <figcaption className="mt-2 grid gap-1">
        {children}
        <label className="flex items-center gap-3">
          <span className="label">{earlier}</span>
          <input
            type="range"
            min={0}
            max={100}
            value={share}
            disabled={difference}
            onChange={(event) => setShare(Number(event.target.value))}
            className="min-h-8 flex-1 accent-tide"
            aria-label={`How much of ${earlier} is seen`}
          />
          <span className="label">now</span>
        </label>
        <CheckField
          label="Only what is different (black where nothing is)"
          checked={difference}
          onChange={(event) => setDifference(event.target.checked)}
        />
      </figcaption>
    </figure>
  );
}
