import { expect, test } from "@jest/globals";
import { ACTS, may, STANDINGS, type Act, type Standing } from "./access";

const CLASS: Act[] = ["class.see", "class.answer", "class.say", "class.moderate"];
const TALK: Act[] = ["thread.close", "letter.write"];
const SHOWN: Act[] = ["shown.see", "shown.say", "shown.moderate"];
/** Written out a second time, by standing, so that a slip in the one table shows against the other. */
const EXPECTED: Record<Standing, Act[]> = {
  student: [
    "piece.see",
    "piece.write",
    "piece.handIn",
    "piece.answer",
    "thread.write",
    "class.see",
    "class.answer",
    "look.ask",
    "shown.see",
  ],
  // Never the piece itself, its thread, its feedback: what is shown, and what they say of it.
  reader: ["shown.see", "shown.say"],
  classmate: [],
  guardian: ["week.see"],
  owner: [
    "section.setUp",
    "section.passwords",
    "section.see",
    "section.handOut",
    "piece.except",
    "handOut.see",
    "ledger.see",
    "feedback.see",
    "feedback.draft",
    "feedback.handBack",
    "thread.write",
    "comment.use",
    ...CLASS,
    ...SHOWN,
    ...TALK,
  ],
  "trusted co-teacher": [
    "section.passwords",
    "section.see",
    "section.handOut",
    "piece.except",
    "handOut.see",
    "ledger.see",
    "feedback.see",
    "feedback.draft",
    "feedback.handBack",
    "thread.write",
    ...CLASS,
    ...SHOWN,
    ...TALK,
  ],
  "co-teacher": [
    "section.see",
    "handOut.see",
    "ledger.see",
    "feedback.see",
    "feedback.draft",
    "thread.write",
    ...CLASS,
    ...SHOWN,
    ...TALK,
  ],
  office: ["section.see", "section.passwords", "school.see"],
  "taken off": ["piece.see"],
  none: [],
};

test.each(STANDINGS.map((standing) => [standing]))("what %s may do", (standing) => {
  expect(ACTS.filter((act) => may(standing, act)).sort()).toEqual([...EXPECTED[standing]].sort());
});
