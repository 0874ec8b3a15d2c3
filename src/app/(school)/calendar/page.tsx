import Link from "next/link";
import { monthView, termView } from "@/server/calendar/calendarView";
import { pageCall, textFrom } from "@/server/page";
import { Month } from "@/ui/calendar/Month";
import { Page } from "@/ui/kit/Page";
import { TermSheet } from "@/ui/calendar/TermSheet";

export const metadata = { title: "Calendar" };

const STEP =
  "inline-flex min-h-9 items-center border border-line-strong px-3 text-ink no-underline hover:bg-sunk";

export default async function CalendarPage({
  searchParams,
}: {
  searchParams: Promise<Record<"month" | "view" | "term", string | string[] | undefined>>;
}) {
  const call = await pageCall("teacher");
  const asked = await searchParams;
  if (asked.view === "term") {
    const sheet = await termView(call, textFrom(asked.term) || null);
    return (
      <Page width="table">
        <div className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <h1>{sheet.term ? `The ${sheet.term} term` : "The term"}</h1>
          <nav aria-label="Terms" className="ml-auto flex gap-2">
            {sheet.previous ? (
              <Link
                className={STEP}
                href={`/calendar?view=term&term=${encodeURIComponent(sheet.previous)}`}
              >
                ← {sheet.previous}
              </Link>
            ) : null}
            {sheet.next ? (
              <Link
                className={STEP}
                href={`/calendar?view=term&term=${encodeURIComponent(sheet.next)}`}
              >
                {sheet.next} →
              </Link>
            ) : null}
            <Link className={STEP} href="/calendar">
              By month
            </Link>
          </nav>
        </div>
        <TermSheet view={sheet} />
      </Page>
    );
  }
  const shown = await monthView(call, textFrom(asked.month) || null);
  return (
    <Page width="table">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1>{shown.title}</h1>
        <nav aria-label="Months" className="ml-auto flex gap-2">
          <Link
            className={STEP}
            href={`/calendar?month=${shown.previous}`}
            aria-label="The month before"
          >
            ←
          </Link>
          <Link className={STEP} href="/calendar">
            This month
          </Link>
          <Link
            className={STEP}
            href={`/calendar?month=${shown.next}`}
            aria-label="The month after"
          >
            →
          </Link>
          <Link className={STEP} href="/calendar?view=term">
            The term
          </Link>
        </nav>
      </div>
      <Month key={shown.month} view={shown} />
    </Page>
  );
}
