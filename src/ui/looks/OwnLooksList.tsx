import { shorten } from "@/core/text/shorten";
import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import type { LookLine, PieceLooks } from "@/core/views/lookViews";

const STATES: Readonly<Record<LookLine["state"], string>> = {
  open: "waits to be read",
  read: "✓ read",
  over: "over",
};

/** On a student's piece: the looks they asked for, and the display their work is on. */
export function OwnLooksList({ view }: { view: PieceLooks }) {
  const { asked, display, handOutId } = view;
  if (asked.length === 0 && !display) return null;
  return (
    <section
      aria-label="Looks by others"
      className="my-4 max-w-[42rem] border-l-2 border-tide pl-3"
    >
      {display ? (
        <p>
          <Link
            href={`/displays/${handOutId}`}
            prefetch={false}
            className="max-sm:inline-flex max-sm:min-h-11 max-sm:items-center"
          >
            The display of this work is open until {display.until}
          </Link>
          {display.said > 0 ? (
            <span className="ml-2">{sayCount(display.said, "comment")} on mine</span>
          ) : null}
        </p>
      ) : null}
      <ul>
        {asked.map((look) => (
          <li key={look.id} className="flex flex-wrap items-baseline gap-x-3">
            <Link
              href={`/looks/${look.id}`}
              prefetch={false}
              className="max-sm:inline-flex max-sm:min-h-11 max-sm:items-center"
            >
              {look.reader}: “{shorten(look.question, 90)}”
            </Link>
            <span className="text-sm text-soft">
              {STATES[look.state]}
              {look.said > 0 ? ` · ${sayCount(look.said, "comment")}` : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
