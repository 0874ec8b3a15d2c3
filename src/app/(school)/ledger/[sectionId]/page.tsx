import Link from "next/link";
import { ledgerWithGrades } from "@/server/ledger/out";
import { sectionList } from "@/server/overview/sections";
import { idFrom, pageCall, view } from "@/server/page";
import { Ledger } from "@/ui/ledger/Ledger";

export const metadata = { title: "Ledger" };

export default async function LedgerPage({ params }: { params: Promise<{ sectionId: string }> }) {
  const call = await pageCall("teacher");
  const sectionId = idFrom((await params).sectionId);
  const [ledger, sections] = await Promise.all([
    view(ledgerWithGrades(call, sectionId)),
    sectionList(call),
  ]);
  return (
    <div className="mx-auto flex w-full max-w-[100rem] flex-col px-4 py-4 sm:h-[calc(100dvh-4rem)] sm:min-h-[34rem] sm:px-6 print:h-auto!">
      <div className="mb-2 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1>Ledger</h1>
        <nav aria-label="Sections" className="flex flex-wrap gap-x-4">
          {sections.map((section) => (
            <Link
              key={section.id}
              href={`/ledger/${section.id}`}
              prefetch={false}
              aria-current={section.id === sectionId ? "page" : undefined}
              className={
                section.id === sectionId
                  ? "font-semibold text-ink underline decoration-tide decoration-2 underline-offset-[0.4em]"
                  : "text-ink no-underline hover:underline"
              }
            >
              {section.name}
            </Link>
          ))}
        </nav>
        <p className="text-soft">{ledger.section.course}</p>
        <p className="ml-auto flex gap-x-4">
          <a href={`/api/sections/${sectionId}/ledger`} download>
            as a table (CSV)
          </a>
          <Link href={`/sections/${sectionId}/set-up#grade-rules`} prefetch={false}>
            how grades come about
          </Link>
        </p>
      </div>
      <Ledger key={sectionId} view={ledger} />
    </div>
  );
}
