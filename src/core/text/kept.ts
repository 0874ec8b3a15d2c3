import { align, alignByLines, type Alignment } from "./aligning/align";
import { compareAligned, type Comparison } from "./compare";
import { tokens } from "./tokens";

/**
 * A comparison in the form it is kept in. The words of both texts are found again from the texts, in little
 * time; what took long to find, which word is which, is kept as numbers.
 */
export type KeptComparison = {
  /** For each word of the earlier text its counterpart's index in the later one, or -1. */
  toAfter: Int32Array;
  comparison: Comparison;
};

/** Changes when the same texts would be compared otherwise, so that what was kept before is not used. */
export const COMPARED_AS = 2;

/** Compares two texts whole: for readers (word by word) and for the marks on them. Seconds at most, for long ones. */
export function compareKept(before: string, after: string): KeptComparison {
  return kept(align(before, after), before, after);
}

/** Paragraph by paragraph, where there is no time for more; whatever was changed has no counterpart. */
export function compareCoarsely(before: string, after: string): KeptComparison {
  return kept(alignByLines(before, after), before, after);
}

const kept = (alignment: Alignment, before: string, after: string): KeptComparison => ({
  toAfter: alignment.toAfter,
  comparison: compareAligned(alignment, before, after),
});

/** What following marks needs of an alignment, from what was kept of it. */
export function alignmentOf(
  { toAfter }: Pick<KeptComparison, "toAfter">,
  before: string,
  after: string,
): Pick<Alignment, "beforeTokens" | "afterTokens" | "toAfter"> {
  return { beforeTokens: tokens(before), afterTokens: tokens(after), toAfter };
}
