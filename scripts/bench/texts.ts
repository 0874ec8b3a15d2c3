import { reattach } from "../../src/core/marks/reattach";
import { writeLongText } from "../../src/core/marks/trackedText.testing";
import { HOSTILE, hostile, READERS } from "../../src/core/hostile.testing";
import { chance, seeded, upTo } from "../../demo/random";
import { endThreads, inThread } from "../../src/server/threads/threads";

const SIZES = [1000, 5000, 20_000, 40_000] as const;
type Random = () => number;

const shuffled = <T>(random: Random, list: readonly T[]): T[] => {
  const all = [...list];
  for (let n = all.length - 1; n > 0; n -= 1) {
    const m = upTo(random, n);
    [all[n], all[m]] = [all[m]!, all[n]!];
  }
  return all;
};
const edited = (random: Random, words: readonly string[]) =>
  words.filter(() => chance(random, 0.97)).map((w) => (chance(random, 0.03) ? `${w}x` : w));
const lines = (words: readonly string[], each: number) =>
  Array.from({ length: Math.ceil(words.length / each) }, (_, n) =>
    words.slice(n * each, (n + 1) * each).join(" "),
  ).join("\n");

/** What is done to a text of so many words. */
const CASES: Record<string, (random: Random, words: string[]) => [string, string]> = {
  "ordinary edits": (random, words) => [lines(words, 80), lines(edited(random, words), 80)],
  "one paragraph, edited": (random, words) => [words.join(" "), edited(random, words).join(" ")],
  "lines of five words, edited": (random, words) => [
    lines(words, 5),
    lines(edited(random, words), 5),
  ],
  "one paragraph, its sentences shuffled": (random, words) => [
    words.join(" "),
    shuffled(random, words.join(" ").split(/(?<=[.!?]) /)).join(" "),
  ],
  "all words shuffled": (random, words) => [words.join(" "), shuffled(random, words).join(" ")],
};

const wordsOf = (random: Random, size: number) =>
  writeLongText(random, size)
    .flatMap((p) => p.flatMap((s) => s.map((w) => w.text)))
    .join(" ")
    .split(" ")
    .slice(0, size);

/** Milliseconds in a thread, as a request waits for it; the middle of three. */
async function milliseconds(before: string, after: string): Promise<number> {
  const times: number[] = [];
  for (let n = 0; n < 3; n += 1) {
    const start = performance.now();
    await inThread("compareKept", [before, after], 60);
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[1]!;
}

/** How comparison grows with the text, and the slowest of what a person can type. */
export async function textLines(): Promise<string> {
  await inThread("compareKept", ["a", "b"], 10);
  const rows: string[] = [];
  for (const [what, make] of Object.entries(CASES)) {
    const times: number[] = [];
    for (const size of SIZES) {
      const random = seeded(size);
      times.push(await milliseconds(...make(random, wordsOf(random, size))));
    }
    // Forty times the words: a ratio of forty is linear.
    const growth = (times.at(-1)! / times[0]!).toFixed(0);
    rows.push(`| ${what} | ${times.map((t) => t.toFixed(0)).join(" | ")} | ${growth} |`);
  }
  await endThreads();
  return [
    "",
    "Two versions compared in a thread (milliseconds; the last column is the time of 40,000 words over that of 1,000):",
    "",
    `| what was done | ${SIZES.map((s) => `${s.toLocaleString("en")} words`).join(" | ")} | growth |`,
    "|---|---|---|---|---|---|",
    ...rows,
    "",
    slowestReader(),
    followed(),
  ].join("\n");
}

/** Each reader with each hostile text of the length that a route lets in (of files, the first 60,000 characters). */
function slowestReader(): string {
  let worst = { name: "", unit: "", ms: 0 };
  for (const { name, most, read } of READERS)
    for (const unit of HOSTILE) {
      const text = hostile(unit, Math.min(most, 60_000));
      const start = performance.now();
      read(text);
      const ms = performance.now() - start;
      if (ms > worst.ms) worst = { name, unit, ms };
    }
  return `- ${READERS.length} readers of what people type, each with ${HOSTILE.length} hostile texts: the slowest is ${worst.name} with ${JSON.stringify(worst.unit)} repeated, ${worst.ms.toFixed(0)} ms.`;
}

function followed(): string {
  const random = seeded(9);
  const words = wordsOf(random, 40_000);
  const before = lines(words, 80);
  const ranges = Array.from({ length: 300 }, () => upTo(random, before.length - 40)).map(
    (start) => ({ start, end: start + 30 }),
  );
  const start = performance.now();
  reattach(before, ranges, lines(edited(random, words), 80));
  return `- 300 marks followed over 40,000 words: ${(performance.now() - start).toFixed(0)} ms.`;
}
