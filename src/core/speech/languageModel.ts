/** How much of its own likelihood a word keeps that the general model knows. */
const FAMILIAR = 0.02;

/**
 * The words of a class as a language model for a recogniser: how likely a word is after the one or two before it.
 *
 * Trigrams with the smoothing of Witten and Bell ("The zero-frequency problem", IEEE Transactions on Information
 * Theory 37(4), 1991; the formula from memory), interpolated: with c the count of a history and t the number of
 * different words seen after it, a word seen n times after it has (n + t · p(shorter history)) / (c + t), and what was
 * never seen there falls back on the shorter history times t / (c + t). It suits a few hundred sentences, where
 * discounts estimated from the counts of counts have nothing to estimate from.
 *
 * Beside a general model such a small one does harm where it knows nothing: a rare word that was said once would become
 * likely everywhere. So of words that the general model knows, only what follows what is told; by themselves they count
 * little. Words it does not know, such as names, count in full.
 *
 * The text made is the ARPA format that recognisers read: log10 probabilities, one n-gram a line, with the weight of
 * falling back behind it.
 *
 * @param familiar the words that the general model knows
 */
export function languageModel(
  sentences: readonly (readonly string[])[],
  familiar: ReadonlySet<string> = new Set(),
  little = FAMILIAR,
): string {
  const counts = [new Map<string, number>(), new Map<string, number>(), new Map<string, number>()];
  const add = (map: Map<string, number>, key: string) => map.set(key, (map.get(key) ?? 0) + 1);
  for (const sentence of sentences) {
    const words = ["<s>", ...sentence, "</s>"];
    words.forEach((word, n) => {
      if (n > 0) add(counts[0]!, word);
      if (n > 0) add(counts[1]!, `${words[n - 1]} ${word}`);
      if (n > 1) add(counts[2]!, `${words[n - 2]} ${words[n - 1]} ${word}`);
    });
  }
  const histories = [counts[0]!, counts[1]!, counts[2]!].map(historiesOf);
  const likely = new Map<string, number>();
  const total = histories[0]!.get("") ?? { count: 0, kinds: 0 };
  // What no sentence has said at all shares one kind's worth.
  const vocabulary = counts[0]!.size + 1;
  for (const [word, n] of counts[0]!)
    likely.set(
      word,
      ((n + total.kinds / vocabulary) / (total.count + total.kinds)) *
        (familiar.has(word) ? little : 1),
    );
  for (const order of [1, 2]) {
    for (const [gram, n] of counts[order]!) {
      const { count, kinds } = histories[order]!.get(historyOf(gram))!;
      likely.set(gram, (n + kinds * likely.get(shorter(gram))!) / (count + kinds));
    }
  }
  const weight = (gram: string, order: number) => {
    const found = histories[order + 1]?.get(gram);
    return found ? found.kinds / (found.count + found.kinds) : 1;
  };
  const section = (order: number, grams: readonly string[]) => [
    `\\${order + 1}-grams:`,
    ...grams.map(
      (gram) =>
        `${log(likely.get(gram) ?? 0)} ${gram}${order < 2 ? ` ${log(weight(gram, order))}` : ""}`,
    ),
    "",
  ];
  const first = ["<s>", ...counts[0]!.keys()].sort();
  const [second, third] = [[...counts[1]!.keys()].sort(), [...counts[2]!.keys()].sort()];
  return [
    "\\data\\",
    `ngram 1=${first.length}`,
    `ngram 2=${second.length}`,
    `ngram 3=${third.length}`,
    "",
    ...section(0, first),
    ...section(1, second),
    ...section(2, third),
    "\\end\\",
    "",
  ].join("\n");
}

const historyOf = (gram: string) => gram.slice(0, Math.max(0, gram.lastIndexOf(" ")));
const shorter = (gram: string) => gram.slice(gram.indexOf(" ") + 1);
const log = (p: number) => (p > 0 ? Math.log10(p) : -99).toFixed(4);

function historiesOf(
  grams: ReadonlyMap<string, number>,
): Map<string, { count: number; kinds: number }> {
  const found = new Map<string, { count: number; kinds: number }>();
  for (const [gram, n] of grams) {
    const history = historyOf(gram);
    const before = found.get(history) ?? { count: 0, kinds: 0 };
    found.set(history, { count: before.count + n, kinds: before.kinds + 1 });
  }
  return found;
}

/**
 * Texts as sentences of plain words, as a recogniser knows them: small letters, without signs. Words with other signs
 * than letters and apostrophes are left out, and part the sentence.
 *
 * @example sentencesOf("See the Tide-table. Well done!") // [["see", "the", "tide", "table"], ["well", "done"]]
 */
export function sentencesOf(text: string): string[][] {
  return text
    .normalize("NFC")
    .replace(/[’‘]/g, "'")
    .split(/[.!?:;\n\r•]+|\s[–-]\s|\d+/)
    .map((sentence) =>
      [...sentence.toLowerCase().matchAll(/\p{L}+(?:'\p{L}+)*/gu)].map((m) => m[0]),
    )
    .filter((words) => words.length > 0);
}
