import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import { sayMinutes } from "@/core/today/pace";
import type { ReadingPlanView } from "@/core/views/overviewViews";
import { readingPlan } from "@/server/overview/readingPlan";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { PromiseMove } from "@/ui/today/PromiseMove";
import { Page } from "@/ui/kit/Page";
import { ReadingTimes } from "@/ui/today/ReadingTimes";

export const metadata = { title: "Reading plan" };

/** What waits, fitted into the free time of two weeks. */
export default async function ReadingPlanPage() {
  const plan = await readingPlan(await pageCall("teacher"));
  const { outlooks, kept, guessed } = plan;
  return (
    <Page width="table">
      <p>
        <Link href="/today" prefetch={false}>
          ← Today
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1>Reading plan</h1>
        {plan.sittings.length > 0 ? (
          <a href="/api/reading-plan" download className="ml-auto">
            into a calendar (iCalendar)
          </a>
        ) : null}
      </div>
      <p className="mt-1 text-soft">
        What is in now, at your own pace, into the time you have. The promise that comes first is
        read first.
        {guessed ? " Where your pace is not known yet, a piece is taken for four minutes." : ""}
        {kept.of > 0
          ? ` This term ${kept.kept} of ${sayCount(kept.of, "promise")} ${kept.of === 1 ? "was" : "were"} kept.`
          : ""}
      </p>
      {outlooks.length === 0 ? <Empty title="Nothing waits to be read" /> : null}
      <div className="mt-6 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="grid content-start gap-8">
          {outlooks.length > 0 ? <Promises outlooks={outlooks} /> : null}
          <Sittings plan={plan} />
        </div>
        <ReadingTimes key={JSON.stringify(plan.times)} times={plan.times} own={plan.own} />
      </div>
    </Page>
  );
}

function Promises({ outlooks }: Pick<ReadingPlanView, "outlooks">) {
  return (
    <section aria-labelledby="promises">
      <h2 id="promises">Does it fit?</h2>
      <ul className="mt-1">
        {outlooks.map((outlook) => (
          <li
            key={outlook.handOutId}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5"
          >
            <Link
              href={`/hand-outs/${outlook.handOutId}`}
              prefetch={false}
              className="font-serif text-ink no-underline hover:underline max-sm:min-h-11"
            >
              {outlook.title}
            </Link>
            <span className="text-sm text-soft">
              {outlook.section} · {sayCount(outlook.pieces, "piece")}
            </span>
            <span className={outlook.late > 0 ? "ml-auto text-ember" : "ml-auto text-soft"}>
              {sayOutlook(outlook)}
            </span>
            {outlook.late > 0 ? (
              <span className="flex w-full flex-wrap items-center gap-x-3 text-sm text-soft">
                {outlook.broken
                  ? "The promise is broken."
                  : `It would fit with ${sayMinutes(outlook.minutesShort)} more before then.`}
                <PromiseMove outlook={outlook} />
              </span>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}

function sayOutlook({
  promised,
  broken,
  late,
  done,
  pieces,
}: ReadingPlanView["outlooks"][number]): string {
  const when = done ? `read by ${done}` : "not all of it within two weeks";
  if (!promised) return when;
  if (broken) return `▲ was promised ${promised}; ${when}`;
  if (late === 0) return `fits: promised ${promised}, ${when}`;
  return `▲ ${late} of ${pieces} not by ${promised}; ${when}`;
}

function Sittings({ plan: { sittings } }: { plan: ReadingPlanView }) {
  return (
    <section aria-labelledby="sittings">
      <h2 id="sittings">When to read what</h2>
      {sittings.length === 0 ? (
        <p className="mt-1 text-soft">No time is free in the next two weeks, or nothing waits.</p>
      ) : null}
      <ul className="mt-1">
        {sittings.map(({ day, from, to, reads }, n) => (
          <li key={`${day} ${from}`} className="flex gap-x-4 border-b border-line py-1">
            <span className="w-24 shrink-0 text-soft">
              {sittings[n - 1]?.day === day ? "" : day}
            </span>
            <span className="w-28 shrink-0 tabular-nums">
              {from}–{to}
            </span>
            <span>
              {reads.map(({ handOutId, title, section, pieces, minutes }) => (
                <Link
                  key={handOutId}
                  href={`/desk?pile=waiting&handOut=${handOutId}`}
                  prefetch={false}
                  className="block min-h-6 max-sm:min-h-11"
                >
                  {pieces} × {title}, {section}{" "}
                  <span className="text-sm text-soft">{sayMinutes(minutes)}</span>
                </Link>
              ))}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
