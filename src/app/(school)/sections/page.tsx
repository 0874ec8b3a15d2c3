import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import { Fragment } from "react";
import { isId } from "@/core/ids";
import { NewSection } from "@/ui/sections/NewSection";
import { handedOutNow, sectionList, termList } from "@/server/overview/sections";
import { pageCall, textFrom } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { Empty, Notice } from "@/ui/kit/Notice";

export const metadata = { title: "Sections" };

export default async function SectionsPage({
  searchParams,
}: {
  searchParams: Promise<{ handed?: string | string[] }>;
}) {
  const call = await pageCall("teacher");
  const ids = textFrom((await searchParams).handed, 40 * 37)
    .split(",")
    .filter(isId);
  const [sections, terms, handedOut] = await Promise.all([
    sectionList(call),
    termList(call),
    ids.length > 0 ? handedOutNow(call, ids) : [],
  ]);
  return (
    <Page width="reading">
      <h1>Sections</h1>
      {handedOut.length > 0 ? (
        <Notice ink="moss" className="my-3">
          “{handedOut[0]!.title}” is handed out to{" "}
          {handedOut.map((each, n) => (
            <Fragment key={each.id}>
              {n > 0 ? ", " : ""}
              <Link href={`/hand-outs/${each.id}`} prefetch={false}>
                {each.section}
              </Link>{" "}
              ({sayCount(each.students, "student")}, due {each.due})
            </Fragment>
          ))}
          .
        </Notice>
      ) : null}
      {sections.length === 0 ? (
        <Empty title="You teach no section yet">
          Make one below, or ask the office, who brings rosters in.
        </Empty>
      ) : null}
      <ul className="mt-4">
        {sections.map((section) => (
          <li
            key={section.id}
            className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-t border-line py-3"
          >
            <Link href={`/sections/${section.id}`} className="min-w-40 font-serif text-xl">
              {section.name}
            </Link>
            <span className="flex-1 text-soft">
              {section.course} · {sayCount(section.students, "student")} · {section.handOuts} handed
              out
              {section.role === "co-teacher" ? " · you are co-teacher" : ""}
            </span>
            <Link href={`/ledger/${section.id}`}>Ledger</Link>
            <Link href={`/sections/${section.id}/set-up`}>Set up</Link>
            <Link href={`/hand-out?section=${section.id}`}>Hand out</Link>
          </li>
        ))}
      </ul>
      <details className="mt-6 border-t border-line pt-3">
        <summary className="label cursor-pointer">New section</summary>
        <NewSection terms={terms} courses={[...new Set(sections.map((s) => s.course))]} />
      </details>
    </Page>
  );
}
