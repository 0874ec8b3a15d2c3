import { lateness, sayLateness } from "@/core/time/lateness";
import { sayExactly, sayTime } from "@/core/time/words";
import type { Receipt } from "@/core/views/views";
import type { VersionRow } from "./queries";

/** A receipt says what the server stored and when, and how late that is by the due time that rules now. */
export function receiptOf(version: VersionRow, zone: string): Receipt {
  return {
    code: version.receipt,
    version: version.number,
    round: version.roundNumber,
    handedInAt: sayTime(version.handedInAt, version.handedInAt, zone).replace("today ", ""),
    exactly: sayExactly(version.handedInAt, zone),
    lateness: sayLateness(version, version.handedInAt, zone),
    late: lateness(version, version.handedInAt).late,
    words: version.words,
    sha256: version.sha256.toString("hex"),
  };
}
