import Link from "next/link";
import { sectionList } from "@/server/overview/sections";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Sections" };

export default async function SectionsPage() {
  const sections = await sectionList(await pageCall("teacher"));
  return (
    <div className="mx-auto w-full max-w-4xl px-4 py-8 sm:px-6">
      <h1>Sections</h1>
      {sections.length === 0 ? <Empty title="You teach no section yet">The office brings sections and rosters in.</Empty> : null}
      <ul className="mt-4">
        {sections.map((section) => (
          <li key={section.id} className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-t border-line py-3">
            <Link href={`/sections/${section.id}`} className="min-w-40 font-serif text-xl">
              {section.name}
            </Link>
            <span className="flex-1 text-soft">
              {section.course} · {section.students} students · {section.handOuts} handed out{section.role === "co-teacher" ? " · you are co-teacher" : ""}
            </span>
            <Link href={`/ledger/${section.id}`}>Ledger</Link>
            <Link href={`/sections/${section.id}/hand-out`}>Hand out</Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
