import Link from "next/link";
import type { TermView } from "@/core/views/handOutViews";
import { Empty } from "../kit/Notice";
import { sayDate } from "../time";

/** The term, a line a week, as a printed almanac has it. */
export function TermSheet({ view }: { view: TermView }) {
  if (view.weeks.length === 0)
    return (
      <Empty title="The school has no term in its calendar yet">
        The office types it in, or brings it with the roster.
      </Empty>
    );
  return (
    <table className="sheet-table">
      <caption className="sr-only">What is due in the {view.term} term, by week</caption>
      <thead>
        <tr className="label">
          <th scope="col">week</th>
          <th scope="col">from</th>
          <th scope="col">due</th>
          <th scope="col">no school</th>
        </tr>
      </thead>
      <tbody>
        {view.weeks.map((week) => (
          <tr key={week.from} className="align-top">
            <th scope="row" className="w-14 border-b border-line! font-serif text-lg">
              {week.week ?? (
                <span className="hatched inline-block h-4 w-6" aria-label="no school" role="img" />
              )}
            </th>
            <td className="w-28 text-sm text-soft">{week.from}</td>
            <td>
              <ul>
                {week.items.map((item) => (
                  <li key={item.handOutId} className="flex flex-wrap gap-x-3">
                    <span className="w-24 text-sm text-soft">{sayDate(item.day)}</span>
                    <span className="w-16 text-sm">{item.section}</span>
                    <Link
                      href={`/hand-outs/${item.handOutId}`}
                      prefetch={false}
                      className="inline-flex min-h-6 min-w-40 flex-1 items-center text-ink"
                    >
                      {item.title}
                    </Link>
                  </li>
                ))}
              </ul>
            </td>
            <td className="text-sm text-soft">{week.closed.join(", ")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
