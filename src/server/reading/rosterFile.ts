import { decodeText } from "@/core/formats/table";
import { readOneRoster } from "@/core/roster/oneRoster";
import type { KnownSchool } from "@/core/roster/oneRosterReading";
import { readPlainRoster } from "@/core/roster/plainRoster";
import { emptyRoster, type ReadRoster } from "@/core/roster/roster";
import type { RosterPlan } from "@/core/roster/rosterPlan";
import { isZip, unpack } from "./rosterPackage";

export type GivenRoster = {
  name: string;
  bytes: Buffer;
  sectionId: string | null;
  complete: boolean;
};
export type LookedAtRoster = { read: ReadRoster; encoding: string | null; plan: RosterPlan };

/** A roster as it came (a OneRoster zip, or a plain table), read; what is wrong with it is among its problems. */
export async function readRosterFile(
  given: GivenRoster,
  sections: readonly { id: string; name: string; course: string }[],
  school: KnownSchool,
): Promise<{ read: ReadRoster; encoding: string | null }> {
  const fault = (words: string): { read: ReadRoster; encoding: null } => ({
    read: {
      roster: emptyRoster(),
      problems: [{ file: given.name, row: null, column: null, words }],
      notes: [],
    },
    encoding: null,
  });
  if (isZip(given.bytes)) {
    if (given.sectionId)
      return fault(
        "A whole records package is the office’s to bring in. Here, send a table of names and e-mail addresses.",
      );
    const unpacked = await unpack(given.bytes);
    return "fault" in unpacked
      ? fault(unpacked.fault)
      : {
          read: readOneRoster(unpacked.texts, school),
          encoding: [...unpacked.encodings].join(", ") || null,
        };
  }
  const text = decodeText(given.bytes);
  if ("fault" in text)
    return fault("This is neither a zip nor a table as text. Save the table as CSV and send that.");
  const read = readPlainRoster(text.text, {
    file: given.name,
    sections: sections.map((s) => ({ ref: s.id, name: s.name, course: s.course })),
    only: given.sectionId ?? undefined,
    complete: given.complete,
  });
  return { read, encoding: text.encoding };
}
