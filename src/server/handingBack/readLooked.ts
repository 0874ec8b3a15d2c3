import { isWall } from "@/core/handouts/checkDates";
import { BATCH_OUTCOMES } from "@/core/handingBack/outcome";
import { wallToInstant } from "@/core/time/zone";
import type { Looked } from "./preview";

/** How it would go, from an address; what cannot be read is as each draft says. */
export function readLooked(query: Readonly<Record<string, string>>, zone: string): Looked {
  const { due, outcome, scores } = query;
  return {
    outcome: BATCH_OUTCOMES.find((one) => one === outcome) ?? "draft",
    due: due && isWall(due) ? wallToInstant(due, zone).at : null,
    scoresWait: scores === "later",
    tellScore: query.told === "yes",
  };
}
