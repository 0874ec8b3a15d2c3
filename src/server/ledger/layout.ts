import { laidOut, PLAIN_LAYOUT, type LedgerLayout } from "@/core/ledger/layout";
import type { LedgerPage } from "@/core/views/ledgerViews";
import { requireOnSection } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { ledgerWithGrades } from "./out";

/** The Ledger as this teacher has laid it out, with all its columns for laying it out anew. @throws NotFound */
export async function ledgerPage(
  call: ReadCall,
  sectionId: string,
  term: string | null,
): Promise<LedgerPage> {
  const [view, rows] = await Promise.all([
    ledgerWithGrades(call, sectionId, term),
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

/** How this teacher wants the section's Ledger; nobody else's changes. */
export async function setLayout(
  call: Call,
  sectionId: string,
  layout: LedgerLayout,
): Promise<{ saved: true }> {
  const { tx, who } = call;
  await requireOnSection(tx, who, sectionId, "ledger.see");
  await tx`
    insert into ledger_layout (section_id, person_id, layout)
    values (${sectionId}, ${who.id}, ${tx.json(layout as never)})
    on conflict (section_id, person_id) do update set layout = excluded.layout`;
  return { saved: true };
}
