"use client";

import { Toolbar } from "radix-ui";
import { useState, type ReactNode } from "react";
import { STAMP_SIGNS } from "@/core/marks/mark";
import { INKS } from "@/core/marks/place";
import type { MarkKind } from "@/core/marks/schema";
import type { DeskPiece } from "@/core/views/deskViews";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { INK, WIDTHS, type Tool } from "../../marks/tools";
import { useDesk, usePieceOnDesk } from "../model";

const SIGNS: { kind: MarkKind; sign: string; words: string }[] = Object.entries(STAMP_SIGNS).map(
  ([kind, s]) => ({ kind: kind as MarkKind, ...s! }),
);

/** Files on which a mark can be put at a place. */
const SURFACES: (string | undefined)[] = ["pages", "picture", "film"];
const hasSurfaces = (piece: DeskPiece) => piece.items.some((i) => SURFACES.includes(i.view?.as));

/** What lies in the hand over pages and pictures, and how large they are: at their side, only where there are any. */
export function SideTools() {
  const { piece } = useDesk();
  return piece && hasSurfaces(piece) ? <Tools /> : null;
}

function Tools() {
  const { view, session } = usePieceOnDesk();
  const { tool } = view;
  return (
    <Toolbar.Root
      orientation="vertical"
      aria-label="Tools"
      data-arrows
      className="no-print flex gap-1 p-1 text-sm [grid-area:tools] max-md:sticky max-md:top-0 max-md:z-20 max-md:overflow-x-auto max-md:border-b max-md:border-line max-md:bg-paper md:w-20 md:flex-col md:overflow-y-auto md:border-line md:max-lg:justify-center md:max-lg:border-l lg:border-r"
    >
      <Pick on={tool.kind === "words"} take={{ kind: "words" }} title="select words (v)">
        Words
      </Pick>
      <Pick on={tool.kind === "pin"} take={{ kind: "pin" }} title="a pin, or drag an area (a)">
        Pin
      </Pick>
      <Pick on={tool.kind === "ink"} take={INK} title="draw (g)">
        Ink
      </Pick>
      <Pick on={tool.kind === "eraser"} take={{ kind: "eraser" }} title="rub ink out (Shift G)">
        Eraser
      </Pick>
      {tool.kind === "ink" ? <InkAndPen tool={tool} take={session.take} /> : null}
      <Stamps />
      <Sizes />
    </Toolbar.Root>
  );
}

function Pick({
  on,
  take,
  title,
  label,
  children,
}: {
  on: boolean;
  take: Tool;
  title: string;
  label?: string;
  children: ReactNode;
}) {
  const { session } = useDesk();
  return (
    <Toolbar.Button
      aria-pressed={on}
      aria-label={label}
      title={title}
      className={pick(on)}
      onClick={() => session.take(take)}
    >
      {children}
    </Toolbar.Button>
  );
}

const pick = (on: boolean) =>
  classes(
    "min-h-8 min-w-8 shrink-0 cursor-pointer truncate border px-1.5 text-sm max-lg:min-h-11",
    on ? "border-tide bg-tide-wash font-semibold" : "border-line-strong bg-raised hover:bg-sunk",
  );

type InkTool = Extract<Tool, { kind: "ink" }>;

function InkAndPen({ tool, take }: { tool: InkTool; take: (tool: Tool) => void }) {
  return (
    <span className="flex gap-0.5 md:flex-wrap" role="group" aria-label="Ink">
      {INKS.map((ink) => (
        <Toolbar.Button
          key={ink}
          aria-pressed={tool.ink === ink}
          aria-label={`${ink} ink`}
          title={ink}
          className={classes(
            "size-8 cursor-pointer border-2 max-lg:size-11",
            tool.ink === ink ? "border-ink" : "border-transparent",
          )}
          onClick={() => take({ ...tool, ink })}
        >
          <svg viewBox="0 0 20 20" aria-hidden="true">
            <circle cx="10" cy="10" r="7" className={`ink-${ink}`} stroke="#fffdf8" />
          </svg>
        </Toolbar.Button>
      ))}
      {WIDTHS.map((width, n) => (
        <Toolbar.Button
          key={width}
          aria-pressed={tool.width === width}
          className={pick(tool.width === width)}
          onClick={() => take({ ...tool, width })}
        >
          {["fine", "middle", "broad"][n]}
        </Toolbar.Button>
      ))}
    </span>
  );
}

function Stamps() {
  const { view, own } = usePieceOnDesk();
  const { tool } = view;
  const { stamps } = own;
  return (
    <span
      className="flex shrink-0 gap-1 md:grid md:grid-cols-2 md:border-t md:border-line md:pt-1"
      role="group"
      aria-label="Stamps"
    >
      {SIGNS.map(({ kind, sign, words }) => (
        <Pick
          key={kind}
          on={tool.kind === "stamp" && tool.stamp === kind}
          take={{ kind: "stamp", stamp: kind, text: "" }}
          label={`Stamp: ${words}`}
          title={words}
        >
          {sign}
        </Pick>
      ))}
      {stamps.map((text) => (
        <span key={text} className="grid md:col-span-2">
          <Pick
            on={tool.kind === "stamp" && tool.text === text}
            take={{ kind: "stamp", stamp: "stamp", text }}
            label={`Stamp: ${text}`}
            title={text}
          >
            {text}
          </Pick>
        </span>
      ))}
      <NewStamp />
    </span>
  );
}

function NewStamp() {
  const { session, own } = usePieceOnDesk();
  const { stamps } = own;
  const [writing, setWriting] = useState<string | null>(null);
  if (writing === null)
    return (
      <Toolbar.Button asChild>
        <Button small ink="quiet" className="px-0.5! md:col-span-2" onClick={() => setWriting("")}>
          New stamp
        </Button>
      </Toolbar.Button>
    );
  return (
    <form
      className="grid md:col-span-2"
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
        className="w-full min-w-0 border border-tide bg-raised px-1"
        placeholder="it says …"
      />
    </form>
  );
}

function Sizes() {
  const { view, run } = usePieceOnDesk();
  return (
    <span
      className="flex shrink-0 items-center gap-1 md:grid md:grid-cols-2 md:border-t md:border-line md:pt-1"
      role="group"
      aria-label="Size"
    >
      <Toolbar.Button asChild>
        <Button small className="px-1!" onClick={() => run("smaller")} aria-label="Smaller">
          −
        </Button>
      </Toolbar.Button>
      <Toolbar.Button asChild>
        <Button small className="px-1!" onClick={() => run("larger")} aria-label="Larger">
          +
        </Button>
      </Toolbar.Button>
      <Toolbar.Button
        className="min-h-7 cursor-pointer px-1 tabular-nums hover:underline md:col-span-2"
        onClick={() => run("fit")}
        title="As wide as the sheet (0)"
      >
        {Math.round(view.zoom * 100)} %
      </Toolbar.Button>
      <Toolbar.Button asChild>
        <Button
          small
          ink="quiet"
          className="px-0.5! whitespace-normal! md:col-span-2"
          onClick={() => run("wholePage")}
          title="A whole page in view (.)"
        >
          whole page
        </Button>
      </Toolbar.Button>
    </span>
  );
}
