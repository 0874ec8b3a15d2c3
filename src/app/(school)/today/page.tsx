import { ribbonView } from "@/server/overview/school";
import { termList } from "@/server/overview/sections";
import { todayView } from "@/server/overview/today";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { NewSection } from "@/ui/sections/NewSection";
import { Live } from "@/ui/live/Live";
import { HandOutBars } from "@/ui/today/HandOutBars";
import { Piles } from "@/ui/today/Piles";
import { DaysSheet } from "@/ui/today/DaysSheet";
import { Ribbon } from "@/ui/today/Ribbon";
import { Page } from "@/ui/kit/Page";
import { Waiting } from "@/ui/today/Waiting";

export const metadata = { title: "Today" };

export default async function TodayPage({
  searchParams,
}: {
  searchParams: Promise<{ days?: string }>;
}) {
  const { days } = await searchParams;
  const call = await pageCall("teacher");
  const [today, ribbon] = await Promise.all([
    todayView(call),
    ribbonView(call, { long: days === "all" }),
  ]);
  const terms = today.sections === 0 ? await termList(call) : [];
  return (
    <>
      <Live />
      <Ribbon view={ribbon} />
      <Page width="table" tight>
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
        <div className="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <section aria-label="Piles">
            <Piles piles={today.piles} />
          </section>
          <DaysSheet lines={today.sheet} letters={today.letters} />
        </div>
        <section aria-labelledby="waits" className="mt-1">
          <h2 id="waits" className="sr-only">
            What waits
          </h2>
          {today.lines.length === 0 && today.sections > 0 ? (
            <p className="border-t border-line-strong pt-2 text-soft">
              Nothing waits for you. What comes in stands here.
            </p>
          ) : (
            <Waiting lines={today.lines} />
          )}
        </section>
        <section aria-labelledby="stand" className="mt-12">
          <h2 id="stand" className="mb-3">
            How things stand
          </h2>
          <HandOutBars handOuts={today.handOuts.slice(0, 12)} />
        </section>
      </Page>
    </>
  );
}
