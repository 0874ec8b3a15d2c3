import sequencer from "@jest/test-sequencer";

/** What takes longest, the longest first: of two workers none is left with it alone at the end. */
const LONG = [
  "core/marks/following",
  "core/time/time",
  "core/hostile",
  "database/demo",
  "database/voice",
  "database/everyKind",
  "database/released",
  "database/access",
  "database/sequences",
  "browser/everyScreen",
  "browser/studentWork",
  "browser/voice",
  "browser/desk",
];

const rankOf = ({ path }) => {
  const found = LONG.findIndex((name) => path.includes(`/${name}.test.`));
  return found < 0 ? LONG.length : found;
};

/** Jest's own order, but for what is known to be long. */
export default class LongestFirst extends sequencer {
  async sort(tests) {
    const sorted = await super.sort(tests);
    return [...sorted].sort((a, b) => rankOf(a) - rankOf(b));
  }
}
