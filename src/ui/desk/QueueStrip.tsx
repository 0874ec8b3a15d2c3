"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import { shortNames } from "@/core/names/shortNames";
import { sayState } from "@/core/views/states";
import type { QueueItem } from "@/core/views/deskViews";
import { Moon } from "../kit/Moon";
import { classes } from "../kit/classes";
import { useDesk } from "./model";

/**
 * The queue: an upright strip of moons with names, in the chosen order, with where I am. It is one stop for the
 * keyboard, after the work; arrows go through it.
 */
export function QueueStrip() {
  const { pile, own } = useDesk();
  const { items: queue, current } = pile;
  const short = useMemo(
    () => shortNames(queue.map(({ studentId, student }) => ({ id: studentId, name: student }))),
    [queue],
  );
  const [at, setAt] = useState<number | null>(null);
  const stop = at === null || at >= queue.length ? current : at;
  const list = useRef<HTMLOListElement>(null);
  // In braces: newer browsers answer scrolling with a promise, and an effect must not return one.
  useEffect(() => {
    const strip = list.current?.closest("nav");
    const here = list.current?.children[current] as HTMLElement | undefined;
    // Not `scrollIntoView`: on a phone that would scroll the page away from the work.
    if (strip && here)
      strip.scrollTo({
        top: here.offsetTop - strip.clientHeight / 2,
        left: here.offsetLeft - strip.clientWidth / 2,
      });
  }, [current]);
  function keys(event: React.KeyboardEvent) {
    const to = TO[event.key]?.(stop, queue.length);
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    setAt(to);
    list.current?.children[to]?.querySelector("button")?.focus();
  }
  return (
    <nav
      aria-label="Queue"
      className="no-print relative flex [grid-area:strip] max-md:overflow-x-auto max-md:border-b max-md:border-line md:flex-col md:overflow-y-auto md:border-r md:border-line"
      onBlur={() => setAt(null)}
    >
      <ol ref={list} data-arrows onKeyDown={keys} className="flex md:flex-col">
        {queue.map((item, n) => (
          <li key={item.pieceId} className="max-md:shrink-0">
            <Line
              item={item}
              name={short[n]!}
              here={n === current}
              stop={n === stop}
              names={NAMES[own.strip ?? "usual"]}
              onPress={() => n !== current && pile.goTo(item.pieceId)}
            />
          </li>
        ))}
      </ol>
    </nav>
  );
}

/** With names where there is room for them, unless the teacher has said how. */
const NAMES = { usual: "max-xl:hidden", names: "", moons: "hidden" } as const;

const TO: Readonly<Record<string, (at: number, count: number) => number>> = {
  ArrowDown: (at, count) => Math.min(count - 1, at + 1),
  ArrowRight: (at, count) => Math.min(count - 1, at + 1),
  ArrowUp: (at) => Math.max(0, at - 1),
  ArrowLeft: (at) => Math.max(0, at - 1),
  Home: () => 0,
  End: (_, count) => count - 1,
};

function Line({
  item,
  name,
  here,
  stop,
  names,
  onPress,
}: {
  item: QueueItem;
  name: string;
  here: boolean;
  stop: boolean;
  names: string;
  onPress: () => void;
}) {
  return (
    <button
      type="button"
      tabIndex={stop ? 0 : -1}
      aria-current={here ? "true" : undefined}
      aria-label={`${item.student}, ${item.handOut}, ${item.section}: ${sayState(item.moon)}${item.drafted ? ", feedback drafted" : ""}`}
      title={`${item.student} · ${item.handOut} · ${sayState(item.moon)}`}
      onClick={onPress}
      className={classes(
        "flex min-h-8 w-full cursor-pointer items-center gap-1.5 border-l-4 py-1 pr-2 pl-1 text-left text-sm outline-offset-[-2px] hover:bg-sunk max-md:min-h-11",
        here ? "border-tide bg-tide-wash font-semibold" : "border-transparent",
      )}
    >
      <Moon moon={item.moon} named={false} size={20} />
      <span className={classes("w-24 truncate", names)} aria-hidden="true">
        {name}
      </span>
      {item.drafted ? (
        <span className="text-tide" aria-hidden="true" title="something is written">
          ✎
        </span>
      ) : null}
    </button>
  );
}
