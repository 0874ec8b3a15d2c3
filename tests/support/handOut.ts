import { emptyPlan, type Plan } from "../../src/core/handouts/plan";
import type { RichDoc } from "../../src/core/text/richDoc";
import type { Call } from "../../src/server/call";
import { handOut, type HandedOut } from "../../src/server/handouts/handOut";

/** A plain hand-out to one section, in the words a test needs; the rest is as the page has it. */
export type Simple = {
  title: string;
  instructions: unknown;
  expects: "work" | "nothing";
  points: string;
  opens: string | null;
  due: string;
  closes: string | null;
  promised: string | null;
  graceMinutes: number;
  mayTakeBack: boolean;
};

export function planFor(sectionId: string, given: Simple): Plan {
  const { work, counting } = emptyPlan();
  const {
    title,
    instructions,
    expects,
    points,
    opens,
    due,
    closes,
    promised,
    graceMinutes,
    mayTakeBack,
  } = given;
  return {
    work: {
      ...work,
      title,
      instructions: instructions as RichDoc,
      parts: expects === "work" ? work.parts : [],
      mayTakeBack,
    },
    rows: [
      { sectionId, opens, due, closes, promised, audience: { kind: "section" }, exceptions: [] },
    ],
    counting: { ...counting, kind: points === "" ? "words" : "points", points, graceMinutes },
  };
}

export function handOutSimply(call: Call, sectionId: string, given: Simple): Promise<HandedOut> {
  return handOut(call, { plan: planFor(sectionId, given), draftId: null, pastIsMeant: false });
}
