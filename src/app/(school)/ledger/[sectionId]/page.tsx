import Link from "next/link";
import { isId } from "@/core/ids";
import { packLedger } from "@/core/ledger/packed";
import { MOST_BESIDE } from "@/core/ledger/sideBySide";
import type { LedgerPage as LedgerView } from "@/core/views/ledgerViews";
import { ledgerPage } from "@/server/ledger/layout";
import { sectionList } from "@/server/overview/sections";
import { idFrom, pageCall, textFrom, view } from "@/server/page";
import { FrozenOfTerm, type FrozenView } from "@/ui/grades/FrozenOfTerm";
import { PackedLedger } from "@/ui/ledger/PackedLedger";
import { Page } from "@/ui/kit/Page";
import { ledgerHref, SectionsOfLedger } from "@/ui/ledger/SectionsOfLedger";

export const metadata = { title: "Ledger" };

/** Ways out of the Ledger: open formats, each for another use. */
const OUT = [
  { path: "", name: "CSV", says: "a plain table" },
  { path: "/workbook", name: "XLSX", says: "a workbook: numbers, notes, the head in sight" },
  { path: "/oneroster", name: "OneRoster", says: "for the school’s records (OneRoster 1.2)" },
];

/** The sections that stand beside this one, of the address: those that are ids, each once. */
function besideFrom(text: string, sectionId: string): string[] {
  const ids = new Set(text.split(",", MOST_BESIDE - 1).filter(isId));
  return [...ids].filter((id) => id !== sectionId);
}

/** What freezing asks of the Ledger, without its cells. */
function frozenView({ section, grades, term, frozen, opened, may, rows }: LedgerView): FrozenView {
  const drafts = rows
    .flatMap((row) => row.cells)
    .filter((cell) => cell !== null && cell.draft !== null).length;
  return { section, grades, term, frozen, opened, may, drafts };
}

export default async function LedgerPage({
  params,
  searchParams,
}: {
  params: Promise<{ sectionId: string }>;
  searchParams: Promise<{ term?: string | string[]; beside?: string | string[] }>;
}) {
  const asked = await searchParams;
  const term = textFrom(asked.term) || null;
  const call = await pageCall("teacher");
  const sectionId = idFrom((await params).sectionId);
  const beside = besideFrom(textFrom(asked.beside, MOST_BESIDE * 37), sectionId);
  const [ledger, sections] = await Promise.all([
    view(ledgerPage(call, sectionId, { term, beside })),
    sectionList(call),
  ]);
  return (
    <Page
      width="table"
      title={`Ledger of ${ledger.section.name}`}
      tight
      className="flex flex-col sm:h-[calc(100dvh-4.5rem)] sm:min-h-[34rem] print:h-auto!"
    >
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1>Ledger</h1>
        <SectionsOfLedger {...{ sections, sectionId, beside }} term={term} />
        <p className="text-soft">{ledger.section.course}</p>
        {ledger.terms.length > 1 ? (
          <nav aria-label="Terms" className="flex flex-wrap gap-x-3">
            {ledger.terms.map((name) => (
              <Link
                key={name}
                href={ledgerHref(sectionId, { term: name, beside })}
                prefetch={false}
                aria-current={name === ledger.term ? "page" : undefined}
                className={name === ledger.term ? "font-semibold text-ink" : undefined}
              >
                {name}
              </Link>
            ))}
          </nav>
        ) : null}
        {beside.length > 0 ? null : (
          <div className="no-print ml-auto flex flex-wrap items-baseline gap-x-4">
            <FrozenOfTerm view={frozenView(ledger)} />
            <span className="flex items-baseline gap-x-2">
              take away:
              {OUT.map(({ path, name, says }) => (
                <a
                  key={path}
                  href={`/api/sections/${sectionId}/ledger${path}?term=${encodeURIComponent(ledger.term ?? "")}`}
                  title={says}
                  download
                >
                  {name}
                </a>
              ))}
            </span>
            <Link href={`/sections/${sectionId}/set-up#grade-rules`} prefetch={false}>
              how grades come about
            </Link>
          </div>
        )}
      </div>
      <PackedLedger
        key={[sectionId, ledger.term, ...beside].join(" ")}
        packed={packLedger(ledger)}
      />
    </Page>
  );
}
