"use client";

import { useEffect, useRef } from "react";
import { sayState } from "@/core/views/states";
import { Moon } from "../kit/Moon";
import { classes } from "../kit/classes";
import { useDesk } from "./model";

/** The queue: a narrow upright strip of moons in the chosen order, with where I am. */
export function QueueStrip() {
  const { pile } = useDesk();
  const { items: queue, current } = pile;
  const here = useRef<HTMLButtonElement>(null);
  // In braces: newer browsers answer scrolling with a promise, and an effect must not return one.
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [current]);
  return (
    <nav
      aria-label="Queue"
      className="flex max-lg:overflow-x-auto lg:w-16 lg:flex-col lg:overflow-y-auto lg:border-r lg:border-line"
    >
      <p className="label px-2 py-1 text-center">
        <span className="sr-only">piece </span>
        {current + 1}/{queue.length}
      </p>
      <ol className="flex lg:flex-col">
        {queue.map((item, n) => (
          <li key={item.pieceId}>
            <button
              ref={n === current ? here : undefined}
              type="button"
              aria-current={n === current ? "true" : undefined}
              aria-label={`${item.student}, ${item.handOut}, ${item.section}: ${sayState(item.moon)}${item.drafted ? ", feedback drafted" : ""}`}
              title={`${item.student} · ${item.handOut} · ${sayState(item.moon)}`}
              onClick={() => n !== current && pile.goTo(item.pieceId)}
              className={classes(
                "flex w-full cursor-pointer items-center gap-1 px-2 py-1 hover:bg-sunk max-lg:min-h-11 max-lg:min-w-11",
                n === current && "bg-tide-wash shadow-[inset_3px_0_0_var(--tide)]",
              )}
            >
              <Moon moon={item.moon} named={false} size={20} />
              <span className="text-[0.6875rem] text-soft" aria-hidden="true">
                {initials(item.student)}
                {item.drafted ? "·" : ""}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}

function initials(name: string): string {
  return name
    .split(/[\s-]+/)
    .map((part) => [...part][0])
    .slice(0, 2)
    .join("");
}
