"use client";

import { useMemo, useState } from "react";
import { STAMP_SIGNS } from "@/core/marks/mark";
import type { MarkKind } from "@/core/marks/schema";
import type { DraftMark } from "@/core/views/deskViews";
import { INKS } from "@/core/marks/place";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { usePieceOnDesk } from "../model";
import { kindKey } from "./kinds";
import { INK, WIDTHS } from "../../marks/tools";

const SIGNS: { kind: MarkKind; sign: string; words: string }[] = Object.entries(STAMP_SIGNS).map(
  ([kind, s]) => ({ kind: kind as MarkKind, ...s! }),
);

/** Files on which a mark can be put at a place. */
const SURFACES: (string | undefined)[] = ["pages", "picture", "film"];

/** How many marks there are of each kind, to show or hide. */
function kindsOf(marks: readonly DraftMark[]): { key: string; label: string }[] {
  const counts = new Map<string, number>();
  for (const mark of marks) counts.set(kindKey(mark), (counts.get(kindKey(mark)) ?? 0) + 1);
  return [...counts].sort().map(([key, count]) => ({
    key,
    label: `${count} ${count === 1 && key !== "ink" ? key.replace(/s$/, "") : key}`,
  }));
}

/** What lies in the hand over pages and pictures, how large they are, and which marks are shown. */
export function ToolBar() {
  const { session, view, piece, own, run } = usePieceOnDesk();
  const { tool, zoom, hidden, folded } = view;
  const { stamps } = own;
  const surfaces = piece.items.some((i) => SURFACES.includes(i.view?.as));
  const kinds = useMemo(() => kindsOf(piece.marks), [piece.marks]);
  const [writing, setWriting] = useState<string | null>(null);
  const pick = (on: boolean) =>
    classes(
      "min-h-7 cursor-pointer border px-2 text-sm",
      on ? "border-tide bg-tide-wash font-semibold" : "border-line-strong bg-raised hover:bg-sunk",
    );
  if (!surfaces && kinds.length < 2) return null;
  return (
    <div
      role="toolbar"
      aria-label="Tools"
      className="sticky -top-4 z-20 -mx-1 mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-1 py-1.5 text-sm"
    >
      {surfaces ? (
        <>
          <span className="flex">
            {(
              [
                ["words", "Words", "v"],
                ["pin", "Pin", "a"],
              ] as const
            ).map(([kind, words, key]) => (
              <button
                key={kind}
                type="button"
                aria-pressed={tool.kind === kind}
                className={pick(tool.kind === kind)}
                onClick={() => session.take({ kind })}
                title={`key ${key}`}
              >
                {words}
              </button>
            ))}
            <button
              type="button"
              aria-pressed={tool.kind === "ink"}
              className={pick(tool.kind === "ink")}
              onClick={() => session.take(INK)}
              title="key g"
            >
              Ink
            </button>
            <button
              type="button"
              aria-pressed={tool.kind === "eraser"}
              className={pick(tool.kind === "eraser")}
              onClick={() => session.take({ kind: "eraser" })}
              title="key Shift G"
            >
              Eraser
            </button>
          </span>
          {tool.kind === "ink" ? (
            <span className="flex items-center gap-1" role="group" aria-label="Ink">
              {INKS.map((ink) => (
                <button
                  key={ink}
                  type="button"
                  aria-pressed={tool.ink === ink}
                  aria-label={`${ink} ink`}
                  title={ink}
                  className={classes(
                    "size-7 cursor-pointer border-2",
                    tool.ink === ink ? "border-ink" : "border-transparent",
                  )}
                  onClick={() => session.take({ ...tool, ink })}
                >
                  <svg viewBox="0 0 20 20" aria-hidden="true">
                    <circle cx="10" cy="10" r="7" className={`ink-${ink}`} stroke="#fffdf8" />
                  </svg>
                </button>
              ))}
              {WIDTHS.map((width, n) => (
                <button
                  key={width}
                  type="button"
                  aria-pressed={tool.width === width}
                  className={pick(tool.width === width)}
                  onClick={() => session.take({ ...tool, width })}
                >
                  {["fine", "middle", "broad"][n]}
                </button>
              ))}
            </span>
          ) : null}
          <span className="flex" role="group" aria-label="Stamps">
            {SIGNS.map(({ kind, sign, words }) => (
              <button
                key={kind}
                type="button"
                aria-pressed={tool.kind === "stamp" && tool.stamp === kind}
                aria-label={`Stamp: ${words}`}
                title={words}
                className={pick(tool.kind === "stamp" && tool.stamp === kind)}
                onClick={() => session.take({ kind: "stamp", stamp: kind, text: "" })}
              >
                {sign}
              </button>
            ))}
            {stamps.map((text) => (
              <button
                key={text}
                type="button"
                aria-pressed={tool.kind === "stamp" && tool.text === text}
                aria-label={`Stamp: ${text}`}
                className={pick(tool.kind === "stamp" && tool.text === text)}
                onClick={() => session.take({ kind: "stamp", stamp: "stamp", text })}
              >
                {text}
              </button>
            ))}
            {writing === null ? (
              <Button small ink="quiet" onClick={() => setWriting("")}>
                New stamp
              </Button>
            ) : (
              <form
                className="flex"
                onSubmit={(event) => {
                  event.preventDefault();
                  const text = writing.trim();
                  if (text && !stamps.includes(text)) own.setStamps([...stamps, text].slice(-8));
                  if (text) session.take({ kind: "stamp", stamp: "stamp", text });
                  setWriting(null);
                }}
              >
                <input
                  autoFocus
                  aria-label="The stamp says"
                  maxLength={40}
                  value={writing}
                  onChange={(event) => setWriting(event.target.value)}
                  onKeyDown={(event) => event.key === "Escape" && setWriting(null)}
                  className="w-36 border border-tide bg-raised px-2"
                  placeholder="it says …"
                />
              </form>
            )}
          </span>
          <span className="flex items-center gap-1" role="group" aria-label="Size">
            <Button small onClick={() => run("smaller")} aria-label="Smaller">
              −
            </Button>
            <button
              type="button"
              className="min-h-7 cursor-pointer px-1 tabular-nums"
              onClick={() => run("fit")}
              title="As wide as the sheet (0)"
            >
              {Math.round(zoom * 100)} %
            </button>
            <Button small onClick={() => run("larger")} aria-label="Larger">
              +
            </Button>
            <Button
              small
              ink="quiet"
              onClick={() => run("wholePage")}
              title="A whole page in view (.)"
            >
              whole page
            </Button>
          </span>
        </>
      ) : null}
      {kinds.length > 1 ? (
        <span
          className="ml-auto flex flex-wrap items-center gap-1"
          role="group"
          aria-label="Marks shown"
        >
          {kinds.map(({ key, label }) => (
            <button
              key={key}
              type="button"
              aria-pressed={!hidden.has(key)}
              className={pick(!hidden.has(key))}
              onClick={() => session.hide(key)}
            >
              {hidden.has(key) ? "" : "✓ "}
              {label}
            </button>
          ))}
          <button
            type="button"
            aria-pressed={folded}
            className={pick(folded)}
            onClick={() => session.turn("folded")}
          >
            {folded ? "✓ " : ""}one line each
          </button>
        </span>
      ) : null}
    </div>
  );
}
