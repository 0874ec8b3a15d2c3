import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { spell } from "@/core/speech/heard";
import { inFolder, runJailed } from "@/server/programs/jail";
import { levelSound } from "@/server/programs/sound";
import { spellings } from "@/server/speech/classWords";
import { recogniser } from "@/server/speech/recogniser";
import { BANK } from "../demo/bank";
import { STUDENTS } from "../demo/people";
import { VOICES } from "../demo/texts/voices";

/**
 * `npx tsx scripts/demoVoices.ts`: speaks the voices of the demo anew, levels them and writes down what is heard, as the
 * application does with a recording. They ship in demo/files/voices, so that the demo starts with them ready.
 */
async function main() {
  const folder = "demo/files/voices";
  await mkdir(folder, { recursive: true });
  const texts = [...BANK.map((c) => c.text), ...STUDENTS.map(String)];
  const about: Record<string, object> = {};
  for (const { key, voice, text } of VOICES) {
    await inFolder(async (work) => {
      await writeFile(path.join(work, "said.txt"), text);
      await runJailed({
        program: "/usr/bin/flite",
        args: ["-voice", voice, "-f", "said.txt", "-o", "said.wav"],
        folder: work,
        seconds: 60,
        megabytes: 1500,
      });
      const made = (await levelSound(work, "said.wav"))!;
      const words = await recogniser().hear(work, made.file, texts, () => {});
      await writeFile(path.join(folder, `${key}.webm`), await readFile(path.join(work, made.file)));
      about[key] = {
        seconds: made.seconds,
        loudness: made.loudness,
        peaks: made.peaks,
        heard: spell(words, spellings(texts)),
      };
      console.log(key, words.map((w) => w.word).join(" "));
    });
  }
  await writeFile(path.join(folder, "voices.json"), `${JSON.stringify(about)}\n`);
}

void main();
