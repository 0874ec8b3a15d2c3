"use client";

import Link from "next/link";
import { sayState } from "@/core/views/states";
import { useWindowTitle } from "../../kit/useWindowTitle";
import { Button } from "../../kit/Button";
import { Moon } from "../../kit/Moon";
import { useDesk } from "../model";
import { MarksShown } from "./MarksShown";
import { PileSet } from "./PileSet";
import { Screens } from "./Screens";

/** The one line over the Desk, instead of the head of other pages: the pile, where one is in it, and whose work this is. */
export function DeskLine() {
  const { about, piece } = useDesk();
  return (
    <header
      data-own-line
      className="flex min-h-10 flex-wrap items-center gap-x-2 border-b border-line-strong px-2 text-sm md:h-10 md:flex-nowrap"
    >
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:z-50 focus:bg-raised focus:px-3 focus:py-2"
      >
        To the work
      </a>
      <Screens />
      <Link
        href={about.back.href}
        className="inline-flex min-h-8 max-w-44 no-print shrink-0 items-center truncate text-tide max-xl:max-w-28 max-md:hidden"
        title={`Back to: ${about.back.words}`}
      >
        ← <span className="ml-1 truncate">{about.back.words}</span>
      </Link>
      <Position />
      <Whose />
      <span className="ml-auto flex flex-wrap items-center gap-1 md:shrink-0 md:flex-nowrap">
        {piece ? <MarksShown /> : null}
        <PileSet />
        <Acts />
      </span>
    </header>
  );
}

/** Where one is in the pile, and going on. */
function Position() {
  const { pile, run } = useDesk();
  return (
    <span
      className="no-print flex shrink-0 items-center gap-1"
      role="group"
      aria-label="In the pile"
    >
      <Button
        small
        onClick={() => run("previous")}
        disabled={pile.current === 0}
        aria-label="← previous"
        title="previous piece (p)"
      >
        ←
      </Button>
      <span className="min-w-14 text-center whitespace-nowrap text-soft">
        <span className="sr-only">piece </span>
        {pile.current + 1} of {pile.items.length}
      </span>
      <Button
        small
        onClick={() => run("next")}
        disabled={pile.current === pile.items.length - 1}
        aria-label="next →"
        title="next piece (n)"
      >
        →
      </Button>
      <Button
        small
        onClick={() => run("unread")}
        title="the next that waits (u)"
        className="max-xl:hidden!"
      >
        waits <kbd>u</kbd>
      </Button>
    </span>
  );
}

/** Whose piece this is and how far it is: read out, and in the title of the window, whenever another lies here. */
function Whose() {
  const { pile, piece, here } = useDesk();
  const { item } = pile;
  const student = piece?.student ?? item.student;
  const moon = piece?.moon ?? item.moon;
  const title = piece?.title ?? item.handOut;
  useWindowTitle(`${student}: ${title} · Desk · Almanac`);
  return (
    <span className="flex min-w-0 items-center gap-2 border-line max-md:order-last max-md:w-full max-md:pb-1 md:border-l md:pl-2">
      <Moon moon={moon} size={20} named={false} />
      <h1 className="truncate text-xl!" title={student}>
        {student}
      </h1>
      <span className="truncate text-soft max-lg:hidden" aria-hidden="true">
        {sayState(moon)}
      </span>
      <span className="sr-only" role="status">
        {student}, {title}: {sayState(moon)}. Piece {pile.current + 1} of {pile.items.length}
      </span>
      <FlagOf />
      {here && here.others.length > 0 ? (
        <span className="truncate border border-tide px-1.5 text-tide" role="status">
          {here.others.join(" and ")} {here.others.length === 1 ? "is" : "are"} at this piece too
        </span>
      ) : null}
    </span>
  );
}

function FlagOf() {
  const { piece, run } = useDesk();
  if (!piece || !(piece.flag || piece.moon.excused)) return null;
  return (
    <button
      type="button"
      className="min-h-6 shrink-0 cursor-pointer border border-ember px-1.5 text-ember"
      onClick={() => run("flag")}
      title="flag (f)"
    >
      ⚑ {piece.moon.excused ? "excused" : piece.flag}
    </button>
  );
}

function Acts() {
  const { run, view } = useDesk();
  return (
    <>
      <Button
        small
        ink="quiet"
        className="max-md:hidden!"
        aria-pressed={view.beside}
        onClick={() => run("beside")}
        title="task, rubric, versions, notes (\)"
      >
        beside
      </Button>
      <Button
        small
        ink="quiet"
        onClick={() => run("palette")}
        title="an act, a piece, a comment (Ctrl K)"
      >
        find
      </Button>
      <Button
        small
        ink="quiet"
        className="max-md:hidden!"
        onClick={() => run("keys")}
        title="all keys (?)"
      >
        keys
      </Button>
    </>
  );
}
