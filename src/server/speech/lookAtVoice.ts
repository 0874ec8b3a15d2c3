import { writeFile } from "node:fs/promises";
import path from "node:path";
import { Refused } from "@/core/refusals";
import { inFolder, ProgramMissing } from "../programs/jail";
import { decodeSound } from "../programs/sound";
import { lookAtMedia } from "../programs/tools";

const SHORTEST = 0.3;

/** Media types by the names ffprobe has for formats. */
const TYPES: readonly (readonly [RegExp, string])[] = [
  [/webm|matroska/, "audio/webm"],
  [/mp4|m4a|mov/, "audio/mp4"],
  [/ogg/, "audio/ogg"],
  [/mp3/, "audio/mpeg"],
];

/** A recording as it came, and what it turned out to be. */
export type LookedVoice = { bytes: Buffer; seconds: number; mediaType: string };

/**
 * Looks into what says it is a voice, by its content, and counts its seconds by decoding it: recorders write no duration.
 *
 * @throws Refused with what is wrong, in words for the one who recorded
 */
export async function lookAtVoice(bytes: Buffer): Promise<LookedVoice> {
  if (bytes.length === 0) throw new Refused("This recording is empty (0 bytes). Record it again.");
  return inFolder(async (folder) => {
    await writeFile(path.join(folder, "given"), bytes);
    try {
      const media = await lookAtMedia(folder, "given");
      if (!media?.sound)
        throw new Refused(
          "There is no sound in this file that can be played. Record it again, or choose a sound file.",
        );
      if (media.film) throw new Refused("This is a film. A voice note is sound alone.");
      const decoded = await decodeSound(folder, "given");
      if (!decoded || decoded.seconds < SHORTEST)
        throw new Refused(
          "Nothing can be heard in this recording: it is shorter than a third of a second. Record it again.",
        );
      return {
        bytes,
        seconds: decoded.seconds,
        mediaType: TYPES.find(([format]) => format.test(media.format))?.[1] ?? "audio/wav",
      };
    } catch (error) {
      if (error instanceof ProgramMissing)
        throw new Refused(
          "This server cannot take voices: the program that looks into sound (ffmpeg) is not installed. Write your note instead.",
        );
      throw error;
    }
  });
}
