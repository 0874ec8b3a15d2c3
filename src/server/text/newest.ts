import { database } from "../db/connection";
import { readTexts, readVersions } from "../life/queries";
import { log } from "../log";
import { comparedTexts } from "./aligned";

/** Compares a piece's newest hand-in with that of the round before, and keeps it. Never throws: it can be done later. */
export async function compareNewest(pieceId: string): Promise<void> {
  try {
    const db = database();
    const versions = await readVersions(db, pieceId);
    const newest = versions.at(-1);
    const before = versions.findLast((v) => v.roundNumber < (newest?.roundNumber ?? 0));
    if (!newest || !before) return;
    const texts = await readTexts(db, [newest.id, before.id]);
    await comparedTexts(db, texts.get(before.id)!, texts.get(newest.id)!);
  } catch (error) {
    const fault = error instanceof Error ? error.message : "unknown";
    log.warn({ fault }, "a comparison is left for when it is asked for");
  }
}
