import { chance, type Random } from "../random";
import type { Block } from "./blocks";

/** What students write, and what they mean. The teacher's demo edits look for the first and put in the second. */
export const MISTAKES: readonly [wrong: string, right: string][] = [
  ["recieve", "receive"],
  ["becuase", "because"],
  ["definately", "definitely"],
  ["seperate", "separate"],
  ["untill", "until"],
  ["wich", "which"],
  ["temprature", "temperature"],
  ["mesured", "measured"],
  ["hight", "height"],
  ["Wensday", "Wednesday"],
  ["alot", "a lot"],
  ["wether", "weather"],
  ["thier", "their"],
  ["realy", "really"],
  ["suprised", "surprised"],
  ["begining", "beginning"],
  ["diffrent", "different"],
  ["evaperated", "evaporated"],
  ["habour", "harbour"],
  ["remeber", "remember"],
  ["allways", "always"],
  ["beautifull", "beautiful"],
  ["we was", "we were"],
  ["could of", "could have"],
  ["more colder", "colder"],
  ["the the", "the"],
  ["i think", "I think"],
  ["dont", "don’t"],
  ["didnt", "didn’t"],
];

/** Writes some words wrong, as often as `rate` says. */
export function withMistakes(random: Random, blocks: readonly Block[], rate: number): Block[] {
  return blocks.map((block) => {
    if (block.kind === "table" || block.kind === "heading") return block;
    let { text } = block;
    for (const [wrong, right] of MISTAKES) {
      if (right === "the" && !chance(random, rate / 3)) continue;
      const place = text.search(new RegExp(`(?<![\\p{L}’])${right}(?![\\p{L}’])`, "u"));
      if (place !== -1 && chance(random, rate))
        text = text.slice(0, place) + wrong + text.slice(place + right.length);
    }
    return { ...block, text };
  });
}
