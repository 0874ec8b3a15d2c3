import { laidOut, PLAIN_LAYOUT, type LedgerLayout } from "@/core/ledger/layout";
import { sideBySide } from "@/core/ledger/sideBySide";
import type { LedgerPage, LedgerWithGrades } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { ledgerWithGrades } from "./out";

/**
 * The Ledger as this teacher has laid it out, with all its columns for laying it out anew; with other sections beside it
 * where they are asked for, laid out as the first is.
 *
 * @throws NotFound where one of them is not theirs
 */
export async function ledgerPage(
  call: ReadCall,
  sectionId: string,
  { term, beside = [] }: { term: string | null; beside?: readonly string[] },
): Promise<LedgerPage> {
  const [view, rows] = await Promise.all([
    readBeside(call, sectionId, { term, beside }),
    call.db<{ layout: LedgerLayout }[]>`
      select layout from ledger_layout where section_id = ${sectionId} and person_id = ${call.who.id}`,
  ]);
  const layout = { ...PLAIN_LAYOUT, ...rows[0]?.layout };
  return {
    ...laidOut(view, layout),
    layout,
    all: laidOut(view, { ...layout, hidden: [], group: "none" }).columns.map((column) => ({
      ...{ handOutId: column.handOutId, title: column.title, due: column.due },
    })),
  };
}

/** Sections that are looked at together have one term: the first one's. */
async function readBeside(
  call: ReadCall,
  sectionId: string,
  { term, beside }: { term: string | null; beside: readonly string[] },
): Promise<LedgerWithGrades> {
  const first = await ledgerWithGrades(call, sectionId, term);
  if (beside.length === 0) return first;
  const others = await Promise.all(beside.map((id) => ledgerWithGrades(call, id, first.term)));
  return sideBySide([first, ...others]);
}

/** How this teacher wants the section's Ledger; what is left out stays as it was, and nobody else's changes. */
export async function setLayout(
  call: Call,
  sectionId: string,
  layout: Partial<LedgerLayout>,
): Promise<{ saved: true }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "ledger.see");
  await tx`
    insert into ledger_layout (section_id, person_id, layout)
    values (${sectionId}, ${who.id}, ${tx.json(layout as never)})
    on conflict (section_id, person_id) do update set layout = ledger_layout.layout || excluded.layout`;
  return { saved: true };
}
