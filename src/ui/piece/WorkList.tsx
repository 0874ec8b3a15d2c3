"use client";

import Link from "next/link";
import { useState } from "react";
import { sayCount } from "@/core/text/sayCount";
import type { WorkItem, WorkView } from "@/core/views/views";
import { sayState } from "@/core/views/states";
import { ForReaders } from "../looks/ForReaders";
import { Moon } from "../kit/Moon";
import { Empty } from "../kit/Notice";
import { classes } from "../kit/classes";

/** My work: what needs me now comes first, and nothing is behind a tab. One section alone shows its history with what was said. */
export function WorkList({ view }: { view: WorkView }) {
  const [section, setSection] = useState<string | null>(null);
  const own = (items: readonly WorkItem[]) =>
    section ? items.filter((i) => i.sectionId === section) : items;
  const [needsYou, waiting] = [own(view.needsYou), own(view.waiting)];
  // What is only to be read is marked as new until it was looked at.
  const toRead = own(view.finished).filter((item) => item.unseen);
  const finished = own(view.finished).filter((item) => !item.unseen);
  const dueByDay = view.dueByDay
    .map((d) => ({ day: d.day, items: own(d.items) }))
    .filter((d) => d.items.length > 0);
  const nothing =
    view.needsYou.length + view.dueByDay.length + view.waiting.length + view.finished.length === 0;
  if (nothing && view.takenOff.length === 0)
    return (
      <Empty title="Nothing has been handed out to you yet">
        When a teacher hands something out, it stands here.
      </Empty>
    );
  return (
    <div className="grid gap-8">
      <SectionChoice sections={view.sections} chosen={section} onChoose={setSection} />
      <UnreadLetters count={view.letters} />
      <section aria-labelledby="now">
        <h2 id="now">Needs you now</h2>
        {needsYou.length === 0 ? (
          <p className="mt-1 text-soft">Nothing is missing, and nothing is out for revision.</p>
        ) : (
          <Items items={needsYou} strong />
        )}
      </section>
      <ToRead items={toRead} />
      <ForReaders view={view.forReaders} section={section} />
      {view.fresh.lines.length > 0 && !section ? <Fresh fresh={view.fresh} /> : null}
      <section aria-labelledby="due">
        <h2 id="due">Due</h2>
        {dueByDay.length === 0 ? <p className="mt-1 text-soft">Nothing is due.</p> : null}
        {dueByDay.map(({ day, items }) => (
          <div key={day} className="mt-3">
            <h3 className="label font-sans!">
              {day}
              {items.length > 1 ? ` · ${items.length} things` : ""}
            </h3>
            <Items items={items} />
          </div>
        ))}
      </section>
      {waiting.length > 0 ? (
        <section aria-labelledby="waiting">
          <h2 id="waiting">Waiting for the teacher</h2>
          <Items items={waiting} />
        </section>
      ) : null}
      {finished.length > 0 ? (
        <section aria-labelledby="finished">
          <h2 id="finished">{section ? "Finished, with what was said" : "Finished"}</h2>
          <Items items={finished} said={section !== null} />
        </section>
      ) : null}
      {view.takenOff.length > 0 && !section ? <TakenOff items={view.takenOff} /> : null}
    </div>
  );
}

function UnreadLetters({ count }: { count: number }) {
  if (count === 0) return null;
  return (
    <p className="border-l-4 border-plum bg-plum-wash px-3">
      <Link href="/letters" prefetch={false} className="inline-flex min-h-11 items-center">
        ★ {sayCount(count, "letter")} to read
      </Link>
    </p>
  );
}

/** What came back and asks for nothing but to be read. */
function ToRead({ items }: { items: readonly WorkItem[] }) {
  if (items.length === 0) return null;
  return (
    <section aria-labelledby="to-read">
      <h2 id="to-read">Came back, to read</h2>
      <Items items={items} />
    </section>
  );
}

type ChoiceProps = {
  sections: WorkView["sections"];
  chosen: string | null;
  onChoose: (id: string | null) => void;
};

/** One section alone, or everything; asked where there are several. */
function SectionChoice({ sections, chosen, onChoose }: ChoiceProps) {
  if (sections.length < 2) return null;
  return (
    <div role="group" aria-label="Show" className="flex flex-wrap gap-x-4">
      {[{ id: null, name: "everything" }, ...sections].map((s) => (
        <button
          key={s.id ?? "all"}
          type="button"
          aria-pressed={chosen === s.id}
          onClick={() => onChoose(s.id)}
          className={classes(
            "min-h-11 cursor-pointer hover:underline",
            chosen === s.id
              ? "font-semibold underline decoration-tide decoration-2 underline-offset-4"
              : "text-tide",
          )}
        >
          {s.name}
        </button>
      ))}
    </div>
  );
}

/** What is new since the visit before this one. */
function Fresh({ fresh }: { fresh: WorkView["fresh"] }) {
  return (
    <section aria-labelledby="fresh" className="border-l-4 border-plum pl-3">
      <h2 id="fresh">
        New since your last visit{" "}
        <span className="font-sans text-sm text-soft">({fresh.since})</span>
      </h2>
      <ul>
        {fresh.lines.map((line) => (
          <li key={line.pieceId + line.words}>
            <Link
              href={`/work/${line.pieceId}`}
              prefetch={false}
              className="inline-flex min-h-9 flex-wrap items-center gap-x-2 max-sm:min-h-11"
            >
              <span className="text-plum" aria-hidden="true">
                ★
              </span>{" "}
              {line.title} <span className="text-ink">{line.words}</span>{" "}
              <span className="text-sm text-soft">{line.when}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What was begun and is no longer asked for: still there to be read. */
function TakenOff({ items }: { items: WorkView["takenOff"] }) {
  return (
    <section aria-labelledby="taken-off">
      <h2 id="taken-off">No longer on your list</h2>
      <ul className="mt-1">
        {items.map((item) => (
          <li key={item.pieceId} className="border-t border-line">
            <Link
              href={`/work/${item.pieceId}`}
              prefetch={false}
              className="flex min-h-11 flex-wrap items-baseline gap-x-4 px-3 py-2 text-ink no-underline hover:bg-sunk"
            >
              <span className="min-w-52 flex-1 font-serif text-lg">{item.title}</span>
              <span className="text-sm text-soft">
                {item.section} · taken off {item.when}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Items({
  items,
  strong,
  said,
}: {
  items: readonly WorkItem[];
  strong?: boolean;
  said?: boolean;
}) {
  return (
    <ul className="mt-1">
      {items.map((item) => (
        <li
          key={item.pieceId}
          className={strong ? "mt-2 border-l-4 border-plum bg-plum-wash" : "border-t border-line"}
        >
          <Link
            href={`/work/${item.pieceId}`}
            prefetch={false}
            className="flex min-h-11 flex-wrap items-center gap-x-4 gap-y-0.5 px-3 py-2 text-ink no-underline hover:bg-sunk"
          >
            <Moon moon={item.moon} size={26} named={false} />
            <span className="min-w-52 flex-1">
              <span className="font-serif text-lg">{item.title}</span>
              <span className="block text-sm text-soft">
                {item.section} · {sayState(item.moon)}
              </span>
              {said && item.overall ? (
                <span className="mt-1 block border-l-2 border-tide pl-3 font-serif whitespace-pre-wrap">
                  {item.overall}
                </span>
              ) : null}
            </span>
            <span className="text-sm sm:text-right">
              {item.openRequests > 0 ? (
                <span className="block font-semibold text-ember">
                  {item.openRequests} {item.openRequests === 1 ? "request" : "requests"} open
                </span>
              ) : null}
              {item.news ? <span className="block text-plum">★ new: {item.news}</span> : null}
              {item.score ? <span className="block">score {item.score}</span> : null}
              {item.moon.state === "handed_back" ? null : (
                <span className="block text-soft">due {item.due}</span>
              )}
              {item.lateness ? <span className="block text-ember">◥ {item.lateness}</span> : null}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
