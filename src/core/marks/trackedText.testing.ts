import { anyOf, chance, upTo, type Random } from "@demo/random";

/** Long texts for tests whose every word has an identity, so that edits can be followed exactly. */
export type TrackedWord = { id: number; text: string };
export type TrackedText = TrackedWord[][][];

const WHO = [
  "my grandmother",
  "the harbour master",
  "our class",
  "a fisherman from the east side",
  "my cousin",
  "the ferry crew",
  "nobody in town",
  "the woman at the weather mast",
  "everyone on the pier",
  "the new teacher",
  "the old boatbuilder",
  "our neighbour",
];
const DID = [
  "remembers",
  "measured",
  "wrote down",
  "forgot",
  "noticed",
  "drew",
  "counted",
  "laughed about",
  "waited for",
  "argued about",
  "photographed",
  "explained",
];
const WHAT = [
  "the height of the spring tide",
  "how the fog came in",
  "every boat that left",
  "the broken wind vane",
  "the colour of the clouds",
  "three kinds of gull",
  "the smell of diesel and kelp",
  "the numbers on the tide gauge",
  "a storm nobody expected",
  "the empty cannery",
  "the rain in the bucket",
  "the crack in the sea wall",
];
const WHEN = [
  "before the bell rang",
  "in the winter of the long ice",
  "on a Tuesday",
  "while the kettle boiled",
  "after the ferry stopped running",
  "when the lights went out",
  "twice that week",
  "early in the morning",
  "during the equinox",
  "the day the roof leaked",
];
const WHY = [
  "because the wind had turned",
  "although it hardly mattered",
  "so that we could compare them later",
  "and then the rain began",
  "which surprised all of us",
  "but only the pencil marks are left",
  "even if it sounds strange",
  "since there was nothing else to do",
];
const OPEN = [
  "",
  "",
  "",
  "Then",
  "I think",
  "Later",
  "To be honest,",
  "As far as I know,",
  "Still,",
  "For example,",
];

/** About `size` words in paragraphs of three to eight sentences; sentences resemble each other, as in real texts. */
export function writeLongText(random: Random, size: number): TrackedText {
  const text: TrackedText = [];
  let id = 0;
  while (id < size) {
    const paragraph: TrackedWord[][] = [];
    for (let n = 3 + upTo(random, 6); n > 0; n -= 1) {
      const parts = [
        anyOf(random, OPEN),
        anyOf(random, WHO),
        anyOf(random, DID),
        anyOf(random, WHAT),
        anyOf(random, WHEN),
        chance(random, 0.6) ? anyOf(random, WHY) : "",
      ];
      const words = `${parts.filter(Boolean).join(" ")}.`.split(" ");
      paragraph.push(words.map((word) => ({ id: id++, text: word })));
    }
    text.push(paragraph);
  }
  return text;
}

/** Sentences that share hardly a pair of words with those above: what a rewritten passage looks like. */
export const DIFFERENT_SENTENCES = [
  "Evaporation takes energy from warm surfaces, so puddles cool as they shrink.",
  "Please imagine yourself standing here with cold fingers and salty hair.",
  "Nobody could have guessed how quickly sand covers an abandoned road.",
  "Seventy litres per hour sounds large until you watch it vanish underground.",
  "If I could change one thing, more benches would face westward.",
  "Copper pipes hum whenever somebody runs a bath upstairs.",
  "Between October and March daylight shrinks by roughly six hours.",
  "Lanterns flickered green, then violet, finally disappearing altogether.",
  "Granite does not care about calendars or opinions.",
  "Perhaps future islanders will grow lemons under glass domes.",
];
