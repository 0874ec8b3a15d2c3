import { sayCount } from "../text/sayCount";

/** What the Desk knows of a draft that is about to be handed back. */
export type AboutToGo = {
  overall: string;
  /** As typed. */ score: string;
  levels: number;
  marks: number;
  judgements: number;
  /** Requests of the round before, and what was said of each. */
  earlier: readonly { nature: string; ruling: string | null }[];
};

/**
 * What to ask before a piece is handed back by one key: each a sentence; none, where it can go.
 *
 * @example beforeBack({ overall: "", score: "", levels: 0, marks: 0, … }) // ["Nothing is written on it: …"]
 */
export function beforeBack(draft: AboutToGo): string[] {
  const { overall, score, levels, marks, judgements } = draft;
  const said = overall.trim() !== "" || score.trim() !== "" || levels + marks + judgements > 0;
  const open = draft.earlier.filter((m) => m.nature === "request" && m.ruling === null);
  return [
    ...(said ? [] : ["Nothing is written on it: no note, no mark, no score, no level."]),
    ...(open.length > 0
      ? [
          `${sayCount(open.length, "request")} of the last round ${open.length === 1 ? "is" : "are"} neither settled nor asked again.`,
        ]
      : []),
  ];
}
