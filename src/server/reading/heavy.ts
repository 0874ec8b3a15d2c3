import { randomUUID } from "node:crypto";
import { mergeBank, readBankText, type BankFault, type Merged } from "@/core/formats/commentBank";
import { docDocx } from "@/core/formats/docDocx";
import { docHtml } from "@/core/formats/docHtml";
import type { RichDoc } from "@/core/text/richDoc";
import { planRoster } from "@/core/roster/planRoster";
import { readQtiFile, type ReadQti } from "./qtiFile";
import { readRosterFile, type GivenRoster, type LookedAtRoster } from "./rosterFile";

/**
 * What is done in a thread: reading what people send, and comparing long texts. All of it takes and gives plain
 * values, and touches neither the database nor the machine.
 */
export { compareKept } from "@/core/text/kept";
export { readCalendarFile } from "@/core/formats/calendar/calendarFile";
export { htmlToDoc, textToDoc } from "@/core/formats/htmlDoc";

/** What a bank's file or list holds, beside what is in the bank already. */
export function readBankInto(
  text: string,
  own: readonly { id: string; text: string; shorthand: string | null }[],
): { merged: Merged[]; faults: BankFault[] } {
  const { entries, faults } = readBankText(text);
  return { merged: mergeBank(own, entries), faults };
}

/** The words of a piece as files of a word processor and of a browser. */
export async function wordsOut(
  title: string,
  doc: RichDoc,
): Promise<{ docx: Uint8Array; html: string }> {
  return { docx: await docDocx(title, doc), html: docHtml(title, doc) };
}

/** Ids that say nothing of the order in which they were given out. */
export const readQti = (name: string, bytes: Uint8Array): ReadQti | { fault: string } =>
  readQtiFile(name, Buffer.from(bytes), randomUUID);

/** A roster's file, and what it would change. */
export async function lookAtRosterFile(
  { bytes, ...given }: Omit<GivenRoster, "bytes"> & { bytes: Uint8Array },
  current: Parameters<typeof planRoster>[1],
  today: string,
): Promise<LookedAtRoster> {
  const { read, encoding } = await readRosterFile(
    { ...given, bytes: Buffer.from(bytes) },
    sectionsNow(current, today),
    knownSchool(current),
  );
  const peopleStay = given.sectionId !== null;
  return { read, encoding, plan: planRoster(read.roster, current, today, { peopleStay }) };
}

/** Sections of the term the school is in, or of the last one: last year's "7a" is another class. */
function sectionsNow({ terms, sections }: Parameters<typeof planRoster>[1], today: string) {
  const now = terms.filter((term) => term.startsOn <= today && today <= term.endsOn);
  const last = [...terms].sort((a, b) => a.startsOn.localeCompare(b.startsOn)).slice(-1);
  const ids = new Set((now.length > 0 ? now : last).map((term) => term.id));
  return sections.filter((section) => ids.has(section.termId));
}

/** The school by the ids under which the records know it. */
const knownSchool = ({ people, sections, terms }: Parameters<typeof planRoster>[1]) => ({
  people: new Map(people.map((p) => [p.sourceId ?? p.id, { kind: p.kind, name: p.name }])),
  sections: new Map(sections.map((s) => [s.sourceId ?? s.id, { course: s.course }])),
  terms: new Set(terms.map((t) => t.sourceId ?? t.id)),
});
