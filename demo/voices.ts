import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import path from "node:path";
import type { Call } from "../src/server/call";
import { VOICES } from "./texts/voices";

/** The voices that ship with the demo, spoken, levelled and heard by scripts/demoVoices.ts. */
const FOLDER = path.join(process.cwd(), "demo/files/voices");
type About = { seconds: number; loudness: number; peaks: number[]; heard: object[] };
const about = JSON.parse(readFileSync(path.join(FOLDER, "voices.json"), "utf8")) as Record<
  string,
  About
>;

/** Puts a clip of a voice, as if it had been recorded and made ready. @returns its id */
export async function putVoice(
  { tx, who, now, newId }: Call,
  key: string,
  pieceId: string | null,
  more: {
    title?: string;
    corrected?: boolean;
    /** Its words stand beside it already. */ alone?: boolean;
  } = {},
): Promise<string> {
  const bytes = readFileSync(path.join(FOLDER, `${key}.webm`));
  const sha256 = createHash("sha256").update(bytes).digest();
  const { seconds, loudness, peaks, heard } = about[key]!;
  await tx`
    insert into sound ${tx({ sha256, mediaType: "audio/webm", raw: bytes, state: "made", made: bytes, seconds, loudness, peaks: tx.json(peaks), heardState: "made", heardPart: 1, heard: tx.json(heard as never), changedAt: now })}
    on conflict (sha256) do nothing`;
  const id = newId();
  const { text } = VOICES.find((v) => v.key === key)!;
  const words = more.corrected ? tx.json(spread(text, seconds) as never) : null;
  await tx`insert into clip ${tx({ id, sha256, pieceId, madeBy: who.id, madeAt: now, shows: more.title ? "title" : more.alone ? "nothing" : "words", title: more.title ?? "", words: words as never, checkedBy: more.corrected ? who.id : null })}`;
  return id;
}

/** What is said, as the teacher has corrected it: each word at its time by its length. */
function spread(text: string, seconds: number) {
  const words = text.split(" ");
  const letters = words.reduce((sum, w) => sum + w.length, 0);
  let at = 0.1;
  return words.map((word) => {
    const start = at;
    at += ((seconds - 0.3) * word.length) / letters;
    return { word, start: Math.round(start * 100) / 100, end: Math.round(at * 100) / 100, sure: 1 };
  });
}
