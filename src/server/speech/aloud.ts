import { createHash } from "node:crypto";
import { existsSync } from "node:fs";
import { Refused } from "@/core/refusals";
import type { ReadCall } from "../call";
import type { Db, Sql } from "../db/connection";
import { giveBytes } from "../http/giveBytes";
import { enqueue, requireRoomForJobs } from "../jobs/jobs";
import { inFolder, ProgramMissing } from "../programs/jail";
import { speak, SPHINX } from "../programs/sound";
import { Turns } from "../programs/turns";

/**
 * Something that speaks a text. The one that ships is flite from Debian, which works offline; another takes its place by
 * being returned from `synthesiser`.
 */
export type Synthesiser = {
  name: string;
  /** Why it cannot speak on this server; null: it can. */ missing(): string | null;
  /** Opus in WebM; null: there is nothing to say in the text. */ speak(
    text: string,
  ): Promise<Buffer | null>;
};

const VOICE = "slt";
const flite: Synthesiser = {
  name: `flite ${VOICE}`,
  missing: () =>
    existsSync(SPHINX.voice)
      ? null
      : "Texts cannot be read aloud on this server: no synthesiser is installed.",
  speak: (text) => inFolder((folder) => speak(folder, text, VOICE)),
};
export const synthesiser = (): Synthesiser => flite;

/** A sentence or two is spoken while one waits; more is work in the background. */
const AT_ONCE_CHARACTERS = 300;
/** One person's are spoken one after the other. */
const SPEAKING = new Turns(2, 3);

/**
 * Reads a text aloud to the one who sent it. What they had read before is kept for them, under a digest of the
 * person and the words: whether somebody else had a text read is not to be told from how soon it comes.
 *
 * @returns the sound, or 202 while a longer text is being spoken: ask again
 */
export async function readAloud(call: ReadCall, text: string, request: Request): Promise<Response> {
  const { db, who, now } = call;
  const voice = synthesiser();
  const missing = voice.missing();
  if (missing) throw new Refused(missing);
  const said = text.replace(/\s+/g, " ").trim();
  const key = createHash("sha256").update(`${voice.name}\n${who.id}\n${said}`).digest();
  const [kept] = await db<{ bytes: Buffer }[]>`select bytes from aloud where key = ${key}`;
  if (!kept && said.length > AT_ONCE_CHARACTERS) return begin(call, key, said);
  const bytes = kept?.bytes ?? (await SPEAKING.take(who.id, () => make(voice, said)));
  if (!kept) await keep(db, key, bytes, now);
  if (bytes.length === 0) throw new Refused(NOTHING);
  return giveBytes(request, {
    size: bytes.length,
    mediaType: "audio/webm",
    name: "aloud",
    inline: true,
    etag: key.toString("hex"),
    read: async function* (first, last) {
      yield bytes.subarray(first, last + 1);
    },
  });
}

const NOTHING = "There is nothing in this text that can be read aloud.";

const keep = (db: Db, key: Buffer, bytes: Buffer, now: Date) =>
  db`insert into aloud ${db({ key, bytes, madeAt: now })} on conflict do nothing`;

async function begin({ db, who, now }: ReadCall, key: Buffer, text: string): Promise<Response> {
  await requireRoomForJobs(db, who.id);
  const digest = key.toString("hex");
  await enqueue(
    db,
    { kind: "aloud", key: digest, payload: { key: digest, text }, ownerId: who.id },
    now,
  );
  return Response.json(
    { waiting: true },
    { status: 202, headers: { "retry-after": "1", "cache-control": "no-store" } },
  );
}

/** The job: speaks a longer text. Where there is nothing to be said, that is kept too, so that it is not tried again. */
export async function speakAloud(
  sql: Sql,
  { key, text }: Record<string, string>,
  now: Date,
): Promise<void> {
  const bytes = await make(synthesiser(), text!).catch((error: unknown) => {
    if (error instanceof Refused) return Buffer.alloc(0);
    throw error;
  });
  await keep(sql, Buffer.from(key!, "hex"), bytes, now);
}

async function make(voice: Synthesiser, text: string): Promise<Buffer> {
  try {
    const bytes = await voice.speak(text);
    if (!bytes) throw new Refused(NOTHING);
    return bytes;
  } catch (error) {
    if (error instanceof ProgramMissing)
      throw new Refused(
        "Texts cannot be read aloud on this server: a program it needs is not installed.",
      );
    throw error;
  }
}
