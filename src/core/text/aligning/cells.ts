import { indicesIn } from "./indices";
import { SHORT } from "./linesInPlace";
import { lineRanges, type Token } from "../tokens";

/** For each word of either text the short line it stands in. */
export type Cells = { before: Int32Array; after: Int32Array };

/** For each word the number of the short line it stands in, which may be a cell of a table, or -1. */
export function cellsOf(tokens: readonly Token[], text: string): Int32Array {
  const cells = new Int32Array(tokens.length).fill(-1);
  lineRanges(text).forEach((line, number) => {
    const indices = indicesIn(tokens, [line]);
    if (indices.length < SHORT) for (const n of indices) cells[n] = number;
  });
  return cells;
}
