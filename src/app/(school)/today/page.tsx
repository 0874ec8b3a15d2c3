import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import { ribbonView } from "@/server/overview/school";
import { termList } from "@/server/overview/sections";
import { todayView } from "@/server/overview/today";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { NewSection } from "@/ui/sections/NewSection";
import { HandOutBars } from "@/ui/today/HandOutBars";
import { Piles } from "@/ui/today/Piles";
import { Ribbon } from "@/ui/today/Ribbon";

export const metadata = { title: "Today" };

export default async function TodayPage() {
  const call = await pageCall("teacher");
  const [today, ribbon] = await Promise.all([todayView(call), ribbonView(call)]);
  const terms = today.sections === 0 ? await termList(call) : [];
  return (
    <>
      <Ribbon view={ribbon} />
      <div className="mx-auto w-full max-w-[90rem] px-4 py-6 sm:px-6">
        <h1 className="sr-only">Today</h1>
        {today.sections === 0 ? (
          <section aria-label="Your first class" className="mx-auto mb-10 max-w-3xl">
            <Empty title="You teach no section yet">
              Make your first class below
              {call.who.keepsSchool ? "." : ", or wait for the office, who can bring rosters in."}
            </Empty>
            <NewSection terms={terms} courses={[]} />
          </section>
        ) : null}
        <div className="grid gap-10 xl:grid-cols-[minmax(0,1fr)_15rem]">
          <section aria-label="Piles">
            <Piles piles={today.piles} />
          </section>
          <section
            aria-label="The day’s sheet"
            className="border-t border-line-strong pt-2 xl:border-t-0 xl:border-l xl:pt-0 xl:pl-6"
          >
            <h2>The day’s sheet</h2>
            {today.sheet.length === 0 ? (
              <p className="mt-1 text-soft">Nothing opens, is due or was promised today.</p>
            ) : null}
            {today.answers.map((waiting) => (
              <p
                key={waiting.handOutId}
                className="mt-2 border-l-2 border-dashed border-ember pl-2 text-sm"
              >
                <Link href={`/hand-outs/${waiting.handOutId}#to-the-class`} prefetch={false}>
                  {waiting.count === 1 ? "An answer" : `${waiting.count} answers`} to the class
                </Link>{" "}
                to read: {waiting.title}, {waiting.section}
              </p>
            ))}
            {today.checkpoints.map((waiting) => (
              <p
                key={waiting.handOutId}
                className="mt-2 border-l-2 border-dashed border-tide pl-2 text-sm"
              >
                <Link
                  href={`/desk?pile=all&handOut=${waiting.handOutId}&piece=${waiting.pieceId}`}
                  prefetch={false}
                >
                  {sayCount(waiting.count, "checkpoint")}
                </Link>{" "}
                to look at: {waiting.title}, {waiting.section}
              </p>
            ))}
            <ul className="mt-2 space-y-2">
              {today.sheet.map((line, n) => (
                <li key={n} className="grid grid-cols-[3.25rem_1fr] text-sm">
                  <span className="font-semibold">{line.time}</span>
                  <Link
                    href={line.href}
                    prefetch={false}
                    className="text-ink no-underline hover:underline"
                  >
                    {line.what}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        </div>
        <section aria-labelledby="stand" className="mt-12">
          <h2 id="stand" className="mb-3">
            How things stand
          </h2>
          <HandOutBars handOuts={today.handOuts.slice(0, 12)} />
        </section>
      </div>
    </>
  );
}
