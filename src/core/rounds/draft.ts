import type { Mark } from "../marks/schema";
import type { Picks } from "../rubrics/rubric";
import { withhold, withoutScore } from "../handingBack/withhold";
import { differsFrom, type HandBackContent } from "./cameBack";

/** What a draft of a round holds, before anybody has handed it back. */
export type Draft = {
  overall: string;
  scoreTyped: string;
  points: string | null;
  picks: Picks;
  marks: readonly Mark[];
  rulings: readonly { markId: string; ruling: "settled" | "again" }[];
  judgements?: HandBackContent["judgements"];
  files?: HandBackContent["files"];
};

/** What handing the draft back now would say. @param possible the points of the work */
export function contentOf(
  draft: Draft,
  versionId: string | null,
  possible: string | null,
): HandBackContent {
  return {
    overall: draft.overall,
    scoreTyped: draft.scoreTyped,
    points: draft.points,
    possible: draft.points === null ? null : possible,
    picks: draft.picks,
    versionId,
    marks: [...draft.marks],
    rulings: draft.rulings.map(({ markId, ruling }) => ({ markId, ruling })),
    judgements: draft.judgements ?? [],
    files: [...(draft.files ?? [])],
  };
}

export function isEmptyContent(content: HandBackContent): boolean {
  const words = content.overall.trim();
  const scored = content.points !== null || Object.keys(content.picks ?? {}).length > 0;
  const marked = content.marks.length + content.rulings.length + (content.files ?? []).length;
  return words === "" && !scored && marked === 0;
}

/** Whether the draft says something else now. A score that was held back is not a change: it comes by itself. */
export function hasChanged(
  handedBack: HandBackContent | undefined,
  content: HandBackContent,
): boolean {
  if (handedBack === undefined) return true;
  return differsFrom(handedBack, asTold(handedBack, content));
}

/** The draft in as much as was told of the one before. */
function asTold({ withheld, untold }: HandBackContent, content: HandBackContent): HandBackContent {
  if (withheld) return withhold(content);
  return untold ? withoutScore(content) : content;
}
