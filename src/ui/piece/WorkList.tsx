import Link from "next/link";
import type { WorkItem, WorkView } from "@/core/views/views";
import { sayState } from "@/core/views/states";
import { Moon } from "../kit/Moon";
import { Empty } from "../kit/Notice";

/** My work: what needs me now comes first, and nothing is behind a tab. */
export function WorkList({ view }: { view: WorkView }) {
  const nothing = view.needsYou.length + view.dueByDay.length + view.waiting.length + view.finished.length === 0;
  if (nothing) return <Empty title="Nothing has been handed out to you yet">When a teacher hands something out, it stands here.</Empty>;
  return (
    <div className="grid gap-10">
      <section aria-labelledby="now">
        <h2 id="now">Needs you now</h2>
        {view.needsYou.length === 0 ? <p className="mt-1 text-soft">Nothing is out for revision.</p> : <Items items={view.needsYou} strong />}
      </section>
      <section aria-labelledby="due">
        <h2 id="due">Due</h2>
        {view.dueByDay.length === 0 ? <p className="mt-1 text-soft">Nothing is due.</p> : null}
        {view.dueByDay.map(({ day, items }) => (
          <div key={day} className="mt-3">
            <h3 className="label font-sans!">
              {day}
              {items.length > 1 ? ` · ${items.length} things` : ""}
            </h3>
            <Items items={items} />
          </div>
        ))}
      </section>
      {view.waiting.length > 0 ? (
        <section aria-labelledby="waiting">
          <h2 id="waiting">Waiting for the teacher</h2>
          <Items items={view.waiting} />
        </section>
      ) : null}
      {view.finished.length > 0 ? (
        <section aria-labelledby="finished">
          <h2 id="finished">Finished</h2>
          <Items items={view.finished} />
        </section>
      ) : null}
    </div>
  );
}

function Items({ items, strong }: { items: readonly WorkItem[]; strong?: boolean }) {
  return (
    <ul className="mt-1">
      {items.map((item) => (
        <li key={item.pieceId} className={strong ? "mt-2 border-l-4 border-plum bg-plum-wash" : "border-t border-line"}>
          <Link href={`/work/${item.pieceId}`} prefetch={false} className="flex min-h-11 flex-wrap items-center gap-x-4 gap-y-0.5 px-3 py-2 text-ink no-underline hover:bg-sunk">
            <Moon moon={item.moon} size={26} named={false} />
            <span className="min-w-52 flex-1">
              <span className="font-serif text-lg">{item.title}</span>
              <span className="block text-sm text-soft">
                {item.section} · {sayState(item.moon)}
              </span>
            </span>
            <span className="text-sm sm:text-right">
              {item.openRequests > 0 ? (
                <span className="block font-semibold text-ember">
                  {item.openRequests} {item.openRequests === 1 ? "request" : "requests"} open
                </span>
              ) : null}
              {item.news ? <span className="block text-plum">★ new: {item.news}</span> : null}
              {item.score ? <span className="block">score {item.score}</span> : null}
              {item.moon.state === "handed_back" ? null : <span className="block text-soft">due {item.due}</span>}
              {item.lateness ? <span className="block text-ember">◥ {item.lateness}</span> : null}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
