import { expect, test } from "@jest/globals";
import { aPart } from "../handouts/parts";
import { saidOfRound, sayAsked } from "./asked";

const WRITING = aPart("w", "writing");
const GRAPH = aPart("g", "photos", { label: "a picture of the graph" });
const SOUND = aPart("s", "sound", { label: "one minute spoken" });
const ALL = [WRITING, GRAPH, SOUND];

test("all parts, no part and parts of other work narrow nothing", () => {
  expect(saidOfRound({ more: null, parts: [] }, ALL)).toBeNull();
  expect(saidOfRound({ more: null, parts: ["w", "g", "s"] }, ALL)).toBeNull();
  expect(saidOfRound({ more: null, parts: ["x"] }, ALL)).toBeNull();
});

test("what is asked is said by name, in the order of the work", () => {
  const said = saidOfRound({ more: 1, parts: ["s", "g"] }, ALL)!;
  expect(sayAsked(said, 2)).toEqual([
    "To revise: a picture of the graph and one minute spoken. The rest can stay as it is.",
    "Round 2 is the last.",
  ]);
  expect(sayAsked({ more: 3, parts: [] }, 2)).toEqual([
    "There are 3 more rounds, this one counted.",
  ]);
});
