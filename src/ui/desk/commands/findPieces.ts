import { search } from "@/core/search/search";
import type { QueueItem } from "@/core/views/deskViews";

/** The pieces of a pile that answer to what was typed, best first: without case and accents, and with slips forgiven. */
export const findPieces = (pile: readonly QueueItem[], typed: string, most: number): QueueItem[] =>
  search(
    pile.map((item) => ({
      ...{ kind: "piece" as const, id: item.pieceId, href: "", item },
      words: item.student,
      about: item.handOut,
    })),
    typed,
    most,
  ).map(({ item }) => item);
