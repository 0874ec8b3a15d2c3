import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { spell } from "@/core/speech/heard";
import type { Sql } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { inFolder, ProgramMissing } from "../programs/jail";
import { levelSound } from "../programs/sound";
import { classTexts, spellings } from "./classWords";
import { recogniser } from "./recogniser";

/** The job: brings a sound to the common loudness, and asks for its words. Running it again changes nothing. */
export async function makeSound(
  sql: Sql,
  { sha256, clipId }: Record<string, string>,
  now: Date,
): Promise<void> {
  const key = Buffer.from(sha256!, "hex");
  const [sound] = await sql<
    { raw: Buffer }[]
  >`select raw from sound where sha256 = ${key} and state = 'waiting'`;
  if (!sound) return;
  const made = await inFolder(async (folder) => {
    await writeFile(path.join(folder, "given"), sound.raw);
    try {
      const levelled = await levelSound(folder, "given");
      return levelled && { ...levelled, bytes: await readFile(path.join(folder, levelled.file)) };
    } catch (error) {
      if (error instanceof ProgramMissing) return null;
      throw error;
    }
  });
  const missing = recogniser().missing();
  await sql.begin(async (tx) => {
    await (made
      ? tx`update sound set state = 'made', made = ${made.bytes}, seconds = ${made.seconds}, loudness = ${made.loudness}, peaks = ${tx.json(made.peaks)}, changed_at = ${now} where sha256 = ${key}`
      : tx`update sound set state = 'failed', reason = 'It could not be brought to the common loudness, and plays as it came.', changed_at = ${now} where sha256 = ${key}`);
    if (made && !missing)
      return enqueue(
        tx,
        { kind: "transcript", key: sha256!, payload: { sha256: sha256!, clipId: clipId! } },
        now,
      );
    await tx`update sound set heard_state = 'none', heard_reason = ${missing ?? "What is said could not be read."}, changed_at = ${now} where sha256 = ${key}`;
  });
}

/** The job: writes down what is said. It stays a draft until a person has looked at it. */
export async function makeTranscript(
  sql: Sql,
  { sha256, clipId }: Record<string, string>,
  now: Date,
): Promise<void> {
  const key = Buffer.from(sha256!, "hex");
  const [sound] = await sql<
    { made: Buffer }[]
  >`select made from sound where sha256 = ${key} and heard_state = 'waiting' and made is not null`;
  if (!sound) return;
  const texts = await classTexts(sql, clipId!);
  const words = await inFolder(async (folder) => {
    await writeFile(path.join(folder, "voice.webm"), sound.made);
    return recogniser().hear(
      folder,
      "voice.webm",
      texts,
      (part) =>
        void sql`update sound set heard_part = ${part} where sha256 = ${key}`.catch(() => {}),
    );
  });
  const heard = spell(words, spellings(texts));
  await (heard.length > 0
    ? sql`update sound set heard_state = 'made', heard = ${sql.json(heard)}, heard_part = 1, changed_at = ${now} where sha256 = ${key}`
    : sql`update sound set heard_state = 'none', heard_reason = 'No words were heard in this.', heard_part = 1, changed_at = ${now} where sha256 = ${key}`);
}
