import { dropLooseClips } from "../speech/clips";
import { dropOldTransfers } from "../transfers/transfers";
import { dropOldTries } from "../auth/devices";
import { dropLooseFiles } from "../items/looseFiles";
import { dropOldComparisons } from "../text/aligned";
import { putAwayWhatIsOver } from "../handouts/putAway";
import { showWhatStands } from "../ledger/shows";
import { database } from "../db/connection";
import { log } from "../log";
import { now } from "../settings";
import { mailWeekSheets } from "../weekSheet/weekMail";
import { AT_ONCE, sweepReminders } from "../reminders/sweep";

const EVERY_MS = 60_000;
const SOON_MS = 1500;
/** The minute in which what nothing holds any more is looked for. */
const ONCE_AN_HOUR = 17;

/** Every minute: reminders of what has opened, is due within a day or came back, scores whose time has come to be shown,
 * the mail of the week, and uploads and voices that nothing holds any more. */
export function startClock(): void {
  let started = false;
  const turn = async () => {
    let more = false;
    try {
      more = (await sweepReminders(database(), now())) >= AT_ONCE;
      await showWhatStands(database(), now());
      await mailWeekSheets(database(), now());
      await dropOldTransfers(database(), now());
      if (now().getUTCMinutes() === ONCE_AN_HOUR) {
        await dropLooseClips(database(), now());
        await dropOldComparisons(database(), now());
        await dropOldTries(database(), now());
        await dropLooseFiles(database(), now());
      }
      if (!started || now().getUTCMinutes() === ONCE_AN_HOUR)
        await putAwayWhatIsOver(database(), now());
      started = true;
    } catch (error) {
      log.error(
        { fault: error instanceof Error ? error.message : "unknown" },
        "no reminders this minute",
      );
    }
    setTimeout(() => void turn(), more ? SOON_MS : EVERY_MS).unref();
  };
  setTimeout(() => void turn(), 2000).unref();
}
