"use client";

import { useState, type ReactNode } from "react";
import { classes } from "../kit/classes";

/** The ways to other screens: in the line of the masthead, and on a phone behind one word. */
export function MastheadFold({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        aria-controls="masthead-ways"
        className="order-1 ml-auto min-h-11 cursor-pointer px-2 text-tide sm:hidden"
        onClick={() => setOpen(!open)}
      >
        Menu {open ? "▴" : "▾"}
      </button>
      <div
        id="masthead-ways"
        className={classes(
          "flex flex-1 flex-wrap items-baseline gap-x-3 gap-y-1 max-sm:order-3",
          open ? "max-sm:basis-full" : "max-sm:hidden",
        )}
      >
        {children}
      </div>
    </>
  );
}
