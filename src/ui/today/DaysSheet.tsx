import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import type { TodayView } from "@/core/views/overviewViews";

/** What opens, is due, closes, goes back and was promised today, by the clock; long days scroll. */
export function DaysSheet({ lines, letters }: { lines: TodayView["sheet"]; letters: number }) {
  return (
    <section aria-labelledby="day" className="lg:border-l lg:border-line-strong lg:pl-6">
      <div className="flex items-baseline justify-between gap-4">
        <h2 id="day" className="label">
          The day’s sheet
        </h2>
        {letters > 0 ? (
          <Link
            href="/letters"
            prefetch={false}
            className="inline-flex min-h-6 items-center text-sm max-sm:min-h-11"
          >
            {sayCount(letters, "answer")} to letters
          </Link>
        ) : null}
      </div>
      {lines.length === 0 ? (
        <p className="text-sm text-soft">Nothing opens, is due or was promised today.</p>
      ) : (
        <ul
          className="max-h-12 overflow-y-auto"
          // What scrolls can be scrolled by keys.
          tabIndex={0}
          aria-labelledby="day"
        >
          {lines.map((line, n) => (
            <li key={n} className="grid grid-cols-[3.25rem_minmax(0,1fr)] text-sm">
              <span className="leading-6 font-semibold">{line.time}</span>
              <Link
                href={line.href}
                prefetch={false}
                title={line.what}
                className="block min-h-6 truncate leading-6 text-ink no-underline hover:underline"
              >
                {line.what}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
