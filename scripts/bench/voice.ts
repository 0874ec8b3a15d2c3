import { execFile } from "node:child_process";
import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { promisify } from "node:util";
import { aPart } from "../../src/core/handouts/parts";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { handOut } from "../../src/server/handouts/handOut";
import { handIn } from "../../src/server/pieces/moves";
import { inFolder } from "../../src/server/programs/jail";
import { levelSound } from "../../src/server/programs/sound";
import { recogniser } from "../../src/server/speech/recogniser";
import { BANK } from "../../demo/bank";
import { STUDENTS } from "../../demo/people";
import { VOICES } from "../../demo/texts/voices";
import { openBrowser } from "../../tests/support/browser";
import { asPerson } from "../../tests/support/database";
import { putFile } from "../../tests/support/files";
import { planFor } from "../../tests/support/handOut";
import { spoken, wordErrorRate } from "../../tests/support/voices";

const run = promisify(execFile);
const FILM = "00000000-0000-4000-8000-0000000000bf";
const mean = (values: readonly number[]) => values.reduce((sum, n) => sum + n, 0) / values.length;
const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
const ms = (n: number) => `${n.toFixed(0)} ms`;

/** How well what is said is written down, how long that takes, and how quickly one is at a moment of a long film. */
export async function voiceLines(sql: Sql, origin: string): Promise<string[]> {
  return [...(await wordLines()), await filmLine(sql, origin)];
}

/**
 * Twenty spoken pieces of feedback by four voices of flite. The class's words are the demo's bank and roster; seventeen of
 * the twenty texts were written without them in view, three are comments of the bank.
 */
async function wordLines(): Promise<string[]> {
  const own = [...BANK.map((c) => c.text.replace(/\{[^}]*\}/g, ". ")), ...STUDENTS.map(String)];
  const rates: Record<"without" | "with", number[]> = { without: [], with: [] };
  let [levelled, heard, seconds] = [0, 0, 0];
  for (const { text, voice } of VOICES) {
    await inFolder(async (folder) => {
      await writeFile(path.join(folder, "said.wav"), await spoken(text, voice));
      const start = performance.now();
      const made = (await levelSound(folder, "said.wav"))!;
      levelled += performance.now() - start;
      seconds += made.seconds;
      for (const [name, texts] of [
        ["without", []],
        ["with", own],
      ] as const) {
        const begins = performance.now();
        const words = await recogniser().hear(folder, made.file, texts, () => {});
        if (name === "with") heard += performance.now() - begins;
        rates[name].push(wordErrorRate(text, words.map((w) => w.word).join(" ")));
      }
    });
  }
  return [
    `- ${VOICES.length} spoken pieces of feedback (${seconds.toFixed(0)} s, four synthetic voices): word error rate ${percent(mean(rates.without))} with the general language alone, ${percent(mean(rates.with))} told the class's words; of the seventeen that are not in the bank ${percent(mean(rates.without.filter((_, n) => !VOICES[n]!.key.startsWith("bank"))))} and ${percent(mean(rates.with.filter((_, n) => !VOICES[n]!.key.startsWith("bank"))))}.`,
    `- For each second of speech, levelling took ${ms(levelled / seconds)} and writing it down ${ms(heard / seconds)} (one at a time).`,
  ];
}

/** A film of an hour and some 200 MB, as a student hands it in; the time from a press on a note to its picture. */
async function filmLine(sql: Sql, origin: string): Promise<string> {
  const person = async (name: string) =>
    (
      await sql<
        Person[]
      >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.name = ${name}`
    )[0]!;
  const odalys = await person("Odalys Brandt");
  const [gannet] = await sql<{ id: string }[]>`select id from section where name = 'Gannet'`;
  const plan = planFor(gannet!.id, {
    title: "An hour of weather",
    instructions: {
      type: "doc",
      content: [{ type: "paragraph", content: [{ type: "text", text: "Film." }] }],
    },
    expects: "work",
    points: "10",
    opens: null,
    due: "2030-01-01T16:00",
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [{ ...aPart(FILM, "film"), minutes: 60 }];
  const { handOuts } = await asPerson(sql, odalys).change(new Date(), (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const [piece] = await sql<
    { id: string; name: string }[]
  >`select piece.id, person.name from piece join person on person.id = student_id where hand_out_id = ${handOuts[0]!.id} order by person.sort_name limit 1`;
  const student = await person(piece!.name);
  const film = await inFolder(async (folder) => {
    const [short, long] = [path.join(folder, "short.webm"), path.join(folder, "long.webm")];
    await run("ffmpeg", [
      "-v",
      "error",
      "-f",
      "lavfi",
      "-i",
      "testsrc2=duration=30:size=640x360:rate=15",
      "-f",
      "lavfi",
      "-i",
      "sine=frequency=330:duration=30",
      "-c:v",
      "libvpx",
      "-b:v",
      "430k",
      "-minrate",
      "430k",
      "-maxrate",
      "430k",
      "-g",
      "45",
      "-deadline",
      "realtime",
      "-cpu-used",
      "8",
      "-c:a",
      "libopus",
      "-b:a",
      "24k",
      short,
    ]);
    await run("ffmpeg", ["-v", "error", "-stream_loop", "119", "-i", short, "-c", "copy", long]);
    return readFile(long);
  });
  await putFile(sql, student, piece!.id, FILM, "weather.webm", film, new Date());
  await asPerson(sql, student).change(new Date(), (call) =>
    handIn(call, piece!.id, { doc: { type: "doc", content: [] } as never }, 0),
  );
  for (
    let n = 0;
    n < 240 &&
    (
      await sql`select 1 from rendition join item on item.sha256 = source where item.piece_id = ${piece!.id} and rendition.kind = 'playable' and state = 'made'`
    ).length === 0;
    n += 1
  )
    await new Promise((resolve) => setTimeout(resolve, 1000));
  const browser = await openBrowser(origin);
  try {
    await browser.enterAs(odalys.id);
    await browser.go(`/desk?pile=all&handOut=${handOuts[0]!.id}&piece=${piece!.id}`);
    await browser.awake("[data-lane]");
    const taken = await browser.driver.executeAsyncScript<number[]>(`
      const done = arguments[0]; const p = document.querySelector("video[data-player]"); const taken = [];
      const go = async () => {
        if (p.readyState < 1) await new Promise((r) => p.addEventListener("loadedmetadata", r, { once: true }));
        for (const part of [0.5, 0.02, 0.97, 0.31, 0.76, 0.12, 0.88, 0.44, 0.63, 0.2, 0.55, 0.99]) {
          const start = performance.now();
          p.currentTime = p.duration * part;
          await new Promise((r) => p.addEventListener("seeked", r, { once: true }));
          taken.push(performance.now() - start);
        }
        done(taken);
      };
      void go();`);
    const sorted = [...taken].sort((a, b) => a - b);
    return `- A film of an hour (${(film.length / 1_000_000).toFixed(0)} MB): from a press on a note to its picture, median ${ms(sorted[Math.floor(sorted.length / 2)]!)}, largest ${ms(sorted.at(-1)!)} of ${sorted.length} (target: under 300 ms).`;
  } finally {
    await browser.close();
  }
}
