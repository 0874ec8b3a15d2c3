import type { ItemFigures } from "../figures/items";
import type { HandInDay, Spread } from "../figures/spread";

/** A hand-out in figures, without names. */
export type SheetFigures = {
  /** `day` in words. */ handIns: HandInDay[];
  /** In percent of what was possible; null: nothing is scored. */ scores: Spread | null;
  items: ItemFigures[];
};
