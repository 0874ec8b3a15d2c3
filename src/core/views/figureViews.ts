import type { ItemFigures } from "../figures/items";
import type { HandInDay, Spread } from "../figures/spread";

/** A hand-out in figures, without names. */
export type SheetFigures = {
  /** `day` in words. */ handIns: HandInDay[];
  /** In percent of what was possible; null: nothing is scored. */ scores: Spread | null;
  items: ItemFigures[];
  /** From hand-in to hand-back, in words; null: nothing came back. */
  turnaround: { backs: number; middle: string; longest: string } | null;
  /** How students said it went; null: nobody was asked, or nobody said. */
  went: { question: string; choices: { choice: string; count: number }[]; words: number } | null;
};
