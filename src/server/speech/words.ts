import { shorten } from "@/core/text/shorten";
import { correctWords, linesOf, sayWords, wordsOf, type HeardWord } from "@/core/speech/heard";
import { readVtt, toVtt } from "@/core/speech/vtt";
import { Conflict, Invalid, NotFound, Refused } from "@/core/refusals";
import type { ClipView, Shows } from "@/core/views/voiceViews";
import type { Call, ReadCall } from "../call";
import { clipViews, readClip, requireClip } from "./clips";

/**
 * What stands beside a clip: its transcript, corrected or not, a short title, or nothing. `text` null leaves the words
 * as they are. Its maker may change it, and a teacher that of any clip of the piece.
 *
 * @throws Conflict when someone else changed it since `revision`
 */
export async function changeWords(
  call: Call,
  clipId: string,
  given: { shows: Shows; title: string; text: string | null },
  revision: number,
): Promise<ClipView> {
  const before = await mine(call, clipId);
  if (before.revision !== revision)
    throw new Conflict(
      "This transcript was changed since you opened it. Yours is still in the field.",
      before,
    );
  if (given.shows === "title" && given.title.trim() === "")
    throw new Invalid({ title: "Write the title." });
  const words =
    given.text === null || given.text.trim() === sayWords(before.transcript.words)
      ? undefined
      : correctWords(before.transcript.words, given.text, before.seconds);
  if (words && words.length === 0)
    throw new Invalid({ text: "Write what is said, or show nothing instead." });
  await store(call, clipId, { shows: given.shows, title: given.title.trim() }, words);
  return (await clipViews(call, [clipId]))[0]!;
}

/** Words with their times from a WebVTT file; they take the place of those that are there. */
export async function bringWords(call: Call, clipId: string, vtt: string): Promise<ClipView> {
  const before = await mine(call, clipId);
  const { cues, faults } = readVtt(vtt);
  if (cues.length === 0)
    throw new Refused(
      faults[0]
        ? `This is not a WebVTT file that can be read (line ${faults[0].line}): ${faults[0].why} The words stay as they were.`
        : "There is nothing said in this WebVTT file. The words stay as they were.",
    );
  const late = cues.find((cue) => cue.from > before.seconds + 1);
  if (late)
    throw new Refused(
      `“${shorten(late.text, 40)}” begins after the clip has ended: this file belongs to another recording. The words stay as they were.`,
    );
  await store(call, clipId, { shows: "words", title: before.title }, wordsOf(cues));
  return (await clipViews(call, [clipId]))[0]!;
}

async function mine(call: Call, clipId: string): Promise<ClipView> {
  const clip = await readClip(call, clipId);
  if (!clip.mayChange) throw new NotFound();
  await call.tx`select id from clip where id = ${clipId} for update`;
  return clip;
}

async function store(
  { tx, who }: Call,
  clipId: string,
  beside: { shows: Shows; title: string },
  words: HeardWord[] | undefined,
): Promise<void> {
  await tx`
    update clip
    set ${tx({ ...beside, ...(words ? { words: tx.json(words) as never, checkedBy: who.id } : {}) })}, revision = revision + 1
    where id = ${clipId}`;
}

/** The transcript as WebVTT, a line or two at a time. */
export async function giveVtt(call: ReadCall, clipId: string): Promise<Response> {
  await requireClip(call, clipId);
  const clip = (await clipViews(call, [clipId]))[0]!;
  if (clip.transcript.words.length === 0) throw new Refused("There are no words of this clip yet.");
  const note = clip.transcript.by
    ? `Looked through by ${clip.transcript.by}.`
    : "Made by the program, and not looked through.";
  return new Response(toVtt(linesOf(clip.transcript.words), note), {
    headers: {
      "content-type": "text/vtt; charset=utf-8",
      "content-disposition": `attachment; filename="words.vtt"`,
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
    },
  });
}
