import { sayFinalScore } from "@/core/rounds/roundsRule";
import { sayPoints } from "@/core/scores/scales";
import { Invalid } from "@/core/refusals";
import { contentOf, hasChanged } from "@/core/rounds/draft";
import { countedScore } from "@/core/scores/countedScore";
import type { SchoolTime } from "@/core/scores/latePolicy";
import { dueInAWeek } from "@/core/time/lessons";
import { sayFeedback, sayGoesBack } from "@/core/handingBack/say";
import { sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { DeskPiece } from "@/core/views/deskViews";
import type { ReadCall } from "../../call";
import { cameBackView } from "../../pieces/cameBackView";
import { roundsRuleOf, scaleOf, type PieceRow } from "../../life/queries";
import { countedHandIn, countingOf, understandScore } from "../counted";
import { draftMark } from "../markRows";

import type { Beside, Loaded } from "./load";

/** The draft of the round, what came back before, and where it all stands. */
export function feedbackOf(
  { who, now }: ReadCall,
  loaded: Loaded,
  { rubric, earlier, clips }: Beside,
) {
  const { piece, about, round, draft, calendar, going } = loaded;
  const { feedback } = draft;
  const handedBack = handedBackView(loaded, now, who.zone);
  const changedByOther = feedback !== null && feedback.changedBy !== who.id;
  return {
    points: plainPoints(piece),
    rubric: rubric && { name: rubric.name, rubric: rubric.content },
    ...draftedOf(loaded),
    ...roundsOf(loaded, now, who.zone),
    scoreHint: SCORE_HINTS[piece.scoreKind] ?? null,
    scoreOf: piece.scoreKind === "points" ? plainPoints(piece) : null,
    scoreWords: sayScoreNow(loaded, { calendar, zone: who.zone }),
    lastBy: changedByOther ? feedback.changedByName : null,
    lastRound: piece.roundsMost !== null && round >= piece.roundsMost,
    marks: draft.rows.map(draftMark),
    earlier,
    clips,
    voiceSeconds: about.voiceSeconds,
    handedBack,
    suggestedDue: dueInAWeek(dayOf(now, who.zone), loaded.meetings, calendar),
    goes: going && { batchId: going.batchId, words: sayGoesBack(going.goesAt, now, who.zone) },
    standing: standingOf(loaded, handedBack, now, who.zone),
  };
}

/** What the draft of the round holds; of a round nobody has begun, nothing. */
const draftedOf = ({ draft: { draft, feedback } }: Loaded) => ({
  picks: draft.picks,
  overall: draft.overall,
  scoreTyped: draft.scoreTyped,
  returned: [...(draft.files ?? [])],
  scoreReason: feedback?.scoreReason ?? "",
  revision: feedback?.revision ?? 0,
  outcome: feedback?.outcome ?? null,
});

/** What came back in each round, side by side, and how the score that counts follows from them. */
function roundsOf({ piece, handBacks, scores }: Loaded, now: Date, zone: string) {
  const scale = scaleOf(piece);
  const shown = (round: number) => {
    const found = scores.find((score) => score.round === round);
    return found ? sayPoints(found.points, scale) : null;
  };
  return {
    rounds: handBacks.map(({ round, outcome, handedBackAt }) => ({
      ...{ round, outcome, score: shown(round) },
      when: sayTime(handedBackAt, now, zone),
    })),
    finalWords: sayFinalScore(
      scores.map((score) => score.points),
      roundsRuleOf(piece),
    ),
  };
}

/** Where its feedback is, as on the sheet and in lists. */
function standingOf(
  { draft, round, handBacks, about, going, scoreComes }: Loaded,
  handedBack: DeskPiece["handedBack"],
  now: Date,
  zone: string,
): string {
  const last = handBacks.find((h) => h.round === round);
  const facts = {
    drafted: draft.feedback !== null || draft.rows.length > 0,
    goesAt: going?.goesAt ?? null,
    handedBackAt: last?.handedBackAt ?? null,
    seenAt: about.seenAt,
    changedSince: handedBack?.changedSince ?? false,
    scoreComes,
  };
  return sayFeedback(facts, now, zone);
}

const plainPoints = ({ pointsPossible }: PieceRow): string | null =>
  pointsPossible === null ? null : String(Number(pointsPossible));

function handedBackView(loaded: Loaded, now: Date, zone: string): DeskPiece["handedBack"] {
  const { piece, about, round, version, draft, judgements } = loaded;
  const last = loaded.handBacks.find((h) => h.round === round);
  if (!last) return null;
  const held = { ...draft.draft, judgements };
  const content = contentOf(held, version?.id ?? null, piece.pointsPossible);
  const seen = about.seenAt && about.seenAt >= last.handedBackAt ? about.seenAt : null;
  return {
    ...cameBackView(last, now, zone),
    seen: seen && sayTime(seen, now, zone),
    changedSince: hasChanged(last.content, content),
  };
}

const SCORE_HINTS: Record<string, string> = {
  points: "8, 8/10, 85%",
  percent: "85",
  letters: "B+, 85%",
  levels: "secure, 80%",
  completion: "c or inc",
};

/** The score in words, with what lateness takes off; a score that no longer fits the kind of score says so. */
function sayScoreNow({ piece, version, draft }: Loaded, school: SchoolTime): string | null {
  const { scoreTyped } = draft.draft;
  if (scoreTyped === "") return null;
  try {
    const { points, words, shown } = understandScore(scoreTyped, piece);
    const earned = { points: points!, shown: shown! };
    const handIn = countedHandIn(piece, version);
    const { deduction } = countedScore(countingOf(piece), handIn, earned, school);
    return deduction ? `${words} · ${deduction}` : words;
  } catch (error) {
    if (error instanceof Invalid) return error.message;
    throw error;
  }
}
