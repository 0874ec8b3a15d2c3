import { dropOldTransfers } from "../transfers/transfers";
import { database } from "../db/connection";
import { log } from "../log";
import { now } from "../settings";
import { sweepReminders } from "./sweep";

const EVERY_MS = 60_000;

/** Every minute: reminders of what has opened, is due within a day or came back, and uploads given up long ago. */
export function startReminders(): void {
  const turn = async () => {
    try {
      await sweepReminders(database(), now());
      await dropOldTransfers(database(), now());
    } catch (error) {
      log.debug({ fault: error instanceof Error ? error.message : "unknown" }, "no reminders this minute");
    }
    setTimeout(() => void turn(), EVERY_MS).unref();
  };
  setTimeout(() => void turn(), 2000).unref();
}
