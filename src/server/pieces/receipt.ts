import { lateness, sayLateness } from "@/core/time/lateness";
import { sayExactly, sayTime } from "@/core/time/words";
import type { Receipt } from "@/core/views/views";
import type { VersionRow } from "../life/queries";

/**
 * A receipt says what the server stored and when, and how late that is by the due time that rules now. Where "Hand in" was
 * pressed without a connection it says both times, and which one counts.
 */
export function receiptOf(version: VersionRow, zone: string): Receipt {
  return {
    code: version.receipt,
    version: version.number,
    round: version.roundNumber,
    handedInAt: sayTime(version.handedInAt, version.handedInAt, zone).replace("today ", ""),
    exactly: sayExactly(version.handedInAt, zone),
    pressed: version.pressedAt && {
      exactly: sayExactly(version.pressedAt, zone),
      counts: version.claimAccepted,
    },
    lateness: sayLateness(version, version.countedAt, zone),
    late: lateness(version, version.countedAt).late,
    words: version.words,
    sha256: version.sha256.toString("hex"),
    files: version.files,
  };
}
