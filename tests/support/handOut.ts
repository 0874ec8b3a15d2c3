import { emptyPlan, type Plan } from "../../src/core/handouts/plan";
import type { RichDoc } from "../../src/core/text/richDoc";
import type { Call } from "../../src/server/call";
import { handOut, type HandedOut } from "../../src/server/handouts/handOut";

/** What a hand-out is in most tests: writing for 8 points, open now, due in a week of November 2026. */
const PLAIN = {
  expects: "work" as "work" | "nothing",
  points: "8",
  opens: null as string | null,
  due: "2026-11-10T16:00",
  closes: null as string | null,
  promised: null as string | null,
  graceMinutes: 0,
  mayTakeBack: true,
};

/** A plain hand-out to one section, in the words a test needs; the rest is as the page has it. */
export type Simple = { title: string; instructions: unknown } & Partial<typeof PLAIN>;

export function planFor(sectionId: string, given: Simple): Plan {
  const { work, counting } = emptyPlan();
  const { title, instructions, expects, points, mayTakeBack, graceMinutes, ...dates } = {
    ...PLAIN,
    ...given,
  };
  return {
    work: {
      ...work,
      title,
      instructions: instructions as RichDoc,
      parts: expects === "work" ? work.parts : [],
      mayTakeBack,
    },
    rows: [{ sectionId, ...dates, audience: { kind: "section" }, exceptions: [] }],
    counting: { ...counting, kind: points === "" ? "words" : "points", points, graceMinutes },
  };
}

export function handOutSimply(call: Call, sectionId: string, given: Simple): Promise<HandedOut> {
  return handOut(call, { plan: planFor(sectionId, given), draftId: null, pastIsMeant: false });
}
