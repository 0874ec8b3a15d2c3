import { createHash } from "node:crypto";
import { existsSync } from "node:fs";
import { Refused } from "@/core/refusals";
import type { ReadCall } from "../call";
import { giveBytes } from "../http/giveBytes";
import { inFolder, ProgramMissing } from "../programs/jail";
import { speak, SPHINX } from "../programs/sound";

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

/** Reads a text aloud to the one who sent it. The same text is spoken once and kept, under a digest of its words. */
export async function readAloud(
  { db, now }: ReadCall,
  text: string,
  request: Request,
): Promise<Response> {
  const voice = synthesiser();
  const said = text.replace(/\s+/g, " ").trim();
  const key = createHash("sha256").update(`${voice.name}\n${said}`).digest();
  const [kept] = await db<{ bytes: Buffer }[]>`select bytes from aloud where key = ${key}`;
  const bytes = kept?.bytes ?? (await make(voice, said));
  if (!kept) await db`insert into aloud ${db({ key, bytes, madeAt: now })} on conflict do nothing`;
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

async function make(voice: Synthesiser, text: string): Promise<Buffer> {
  const missing = voice.missing();
  if (missing) throw new Refused(missing);
  try {
    const bytes = await voice.speak(text);
    if (!bytes) throw new Refused("There is nothing in this text that can be read aloud.");
    return bytes;
  } catch (error) {
    if (error instanceof ProgramMissing)
      throw new Refused(
        "Texts cannot be read aloud on this server: a program it needs is not installed.",
      );
    throw error;
  }
}
