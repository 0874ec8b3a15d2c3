import Link from "next/link";
import { Empty } from "@/ui/kit/Notice";
import { NewSection } from "@/ui/sections/NewSection";
import { teacherList, termList } from "@/server/overview/sections";
import { officeView } from "@/server/overview/school";
import { pageCall, textFrom } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { SectionsOfSchool } from "@/ui/office/SectionsOfSchool";
import { Page } from "@/ui/kit/Page";
import { History } from "@/ui/kit/History";

export const metadata = { title: "Office" };

type Props = { searchParams: Promise<{ find?: string | string[] }> };

export default async function OfficePage({ searchParams }: Props) {
  const asked = textFrom((await searchParams).find);
  const call = await pageCall("office");
  const [view, terms, teachers] = await Promise.all([
    officeView(call, asked),
    termList(call),
    teacherList(call),
  ]);
  return (
    <Page width="reading">
      <OfficeHead title={view.school} />
      <p className="mt-1 text-soft">
        {view.counts
          .map(
            ({ what, count }) => `${count} ${count === 1 || what === "office" ? what : `${what}s`}`,
          )
          .join(" · ")}
      </p>
      {view.courses.length === 0 ? (
        <Empty title="This school has no class yet">
          <ol className="inline-grid list-decimal gap-1 pl-6 text-left">
            {terms.length === 0 ? (
              <li>
                Type the term and the holidays on{" "}
                <Link href="/office/calendar">School calendar</Link>.
              </li>
            ) : null}
            <li>
              Bring in people and classes as a table or a records package on{" "}
              <Link href="/office/roster">Roster</Link>, or add people one by one on{" "}
              <Link href="/office/people">People and passwords</Link>.
            </li>
            <li>Print first passwords for each class there.</li>
          </ol>
        </Empty>
      ) : null}
      <h2 className="mt-8">Sections</h2>
      {view.courses.length > 0 ? <SectionsOfSchool view={view} asked={asked} /> : null}
      <details className="mt-4 border-t border-line pt-3">
        <summary className="label cursor-pointer">New section</summary>
        {teachers.length > 0 ? (
          <NewSection terms={terms} courses={view.courses} teachers={teachers} />
        ) : (
          <p className="text-soft">The school has no teacher yet; add one first.</p>
        )}
      </details>
      {view.events.length > 0 ? (
        <>
          <h2 className="mt-8">What happened last</h2>
          <History lines={view.events} />
        </>
      ) : null}
    </Page>
  );
}
