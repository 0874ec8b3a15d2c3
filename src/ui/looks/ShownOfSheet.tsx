"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { LookReaders } from "@/core/looks/shown";
import { sayCount } from "@/core/text/sayCount";
import type { LookLine, ShownOfSheet as Shown } from "@/core/views/lookViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { DisplayDialog } from "./DisplayDialog";
import { LooksDialog } from "./LooksDialog";

type Props = { handOutId: string; view: Shown };
type Opens = Props & { onOpen: () => void };

/** On a hand-out's sheet: its display, the looks of classmates, and what waits in them for a teacher. */
export function ShownOfSheet({ handOutId, view }: Props) {
  const [open, setOpen] = useState<"display" | "looks" | null>(null);
  const { display, looks, handedIn, suggestedEnd: nextLesson } = view;
  const close = () => setOpen(null);
  if (!view.mayChange && !display && !looks && view.asked.length === 0) return null;
  return (
    <section id="shown" aria-label="Looks by others" className="mt-10 max-w-3xl scroll-mt-4">
      <h2 className="border-b border-line pb-1">Looks by others</h2>
      <DisplayLine {...{ handOutId, view }} onOpen={() => setOpen("display")} />
      <LooksLine {...{ handOutId, view }} onOpen={() => setOpen("looks")} />
      <Asked asked={view.asked} />
      <Pairs pairs={looks?.pairs ?? []} />
      {open === "display" ? (
        <DisplayDialog {...{ handOutId, nextLesson, handedIn, first: display }} onClose={close} />
      ) : null}
      {open === "looks" ? (
        <LooksDialog {...{ handOutId, nextLesson, first: looks }} onClose={close} />
      ) : null}
    </section>
  );
}

/** At the head of the sheet: that something is shown, and what waits; the rest is further down. */
export function ShownInShort({ view }: { view: Shown }) {
  const { display, looks, waits, reported } = view;
  const open = [
    display?.open ? "a display is open" : "",
    looks?.open ? "classmates may be asked for a look" : "",
  ].filter(Boolean);
  if (open.length === 0 && waits + reported === 0) return null;
  return (
    <p className="mb-4 flex flex-wrap gap-x-3 text-sm">
      <a href="#shown">{open.join(", ") || "what was said of shown work"}</a>
      <Waits waits={waits} reported={reported} />
    </p>
  );
}

const LINE = "mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-2 border-b border-line pb-3";
const NONE_WAIT = { waits: 0, reported: 0 };

function DisplayLine({ handOutId, view: { display, mayChange }, onOpen }: Opens) {
  const { act, busy, problem } = useAct();
  return (
    <div className={LINE}>
      <span className="label">display</span>
      <span>{sayDisplay(display)}</span>
      {display ? (
        <Link href={`/displays/${handOutId}`} prefetch={false}>
          look at it
        </Link>
      ) : null}
      <Waits {...(display ?? NONE_WAIT)} />
      {mayChange ? (
        <Changes
          opens={display?.open ? "Change" : "Open a display …"}
          onOpen={onOpen}
          ends={display?.open ? "Close it" : null}
          busy={busy}
          onEnd={() => void act(() => call(contract.closeDisplay, { params: { handOutId } }))}
        />
      ) : null}
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
    </div>
  );
}

function LooksLine({ handOutId, view, onOpen }: Opens) {
  const { act, busy, problem } = useAct();
  const { looks, mayChange } = view;
  const onDisplay = view.display ?? NONE_WAIT;
  return (
    <div className={LINE}>
      <span className="label">looks of classmates</span>
      <span>{sayLooks(looks)}</span>
      <Waits waits={view.waits - onDisplay.waits} reported={view.reported - onDisplay.reported} />
      {mayChange ? (
        <Changes
          opens={looks?.open ? "Change" : "Let them ask …"}
          onOpen={onOpen}
          ends={looks?.open ? "End them" : null}
          busy={busy}
          onEnd={() => void act(() => call(contract.endLookRule, { params: { handOutId } }))}
        />
      ) : null}
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
    </div>
  );
}

/** `ends`: what ends it, where it is open. */
type ChangesProps = {
  opens: string;
  onOpen: () => void;
  ends: string | null;
  busy: boolean;
  onEnd: () => void;
};

function Changes({ opens, onOpen, ends, busy, onEnd }: ChangesProps) {
  return (
    <span className="ml-auto flex gap-2">
      <Button small onClick={onOpen}>
        {opens}
      </Button>
      {ends ? (
        <Button small disabled={busy} onClick={onEnd}>
          {ends}
        </Button>
      ) : null}
    </span>
  );
}

function sayDisplay(display: Shown["display"]): string {
  if (!display) return "none: students see only their own work";
  return display.open ? `open until ${display.until}` : "closed";
}

const WHO: Readonly<Record<LookReaders, string>> = {
  all: "anyone who has this work",
  group: "those of their groups",
  pairs: "whom the program drew",
};

function sayLooks(looks: Shown["looks"]): string {
  if (!looks) return "none: students ask their teachers only";
  return looks.open ? `they may ask ${WHO[looks.readers]} until ${looks.until}` : "over";
}

function Waits({ waits, reported }: { waits: number; reported: number }) {
  return (
    <>
      {waits > 0 ? (
        <span className="text-ember">▲ {sayCount(waits, "comment")} to read</span>
      ) : null}
      {reported > 0 ? (
        <strong className="text-ember">▲ {sayCount(reported, "comment")} reported</strong>
      ) : null}
    </>
  );
}

const STATES: Readonly<Record<LookLine["state"], string>> = {
  open: "waits",
  read: "✓ read",
  over: "over",
};

function Asked({ asked }: { asked: readonly LookLine[] }) {
  if (asked.length === 0) return null;
  return (
    <details className="mt-3" open={asked.length <= 6}>
      <summary className="label cursor-pointer max-sm:leading-[2.75rem]">
        {sayCount(asked.length, "look")} asked for
      </summary>
      <ul className="mt-1">
        {asked.map((look) => (
          <li
            key={look.id}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-line py-1"
          >
            <Link href={`/looks/${look.id}`} prefetch={false}>
              {look.writer} → {look.reader}
            </Link>
            <span className="min-w-0 flex-1 truncate text-soft">“{look.question}”</span>
            <span className="text-sm text-soft">
              {look.waits ? <span className="text-ember">▲ {look.waits} to read · </span> : null}
              {STATES[look.state]}
              {look.said > 0 ? ` · ${sayCount(look.said, "comment")}` : ""}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function Pairs({ pairs }: { pairs: NonNullable<Shown["looks"]>["pairs"] }) {
  if (pairs.length === 0) return null;
  return (
    <details className="mt-3">
      <summary className="label cursor-pointer max-sm:leading-[2.75rem]">who reads whose</summary>
      <ul className="mt-1 columns-2 text-sm max-sm:columns-1">
        {pairs.map((pair) => (
          <li key={pair.writer}>
            {pair.reader} reads {pair.writer} <span className="text-soft">({pair.state})</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
