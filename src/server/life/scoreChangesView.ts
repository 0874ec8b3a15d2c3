import { shownScore } from "@/core/rounds/cameBack";
import { sayScoreChange, scoreChanges, type ScoreFact } from "@/core/scores/scoreChanges";
import { sayTime } from "@/core/time/words";
import type { ScoreChangeView } from "@/core/views/views";
import type { HandBackRow } from "./queries";

/** What became of scores that were handed back; why is for teachers alone. */
export const scoreChangesView = (
  facts: readonly ScoreFact[],
  { now, zone, teacher }: { now: Date; zone: string; teacher: boolean },
): ScoreChangeView[] =>
  scoreChanges(facts).map((change) => ({
    ...{ round: change.round, rose: change.rose, by: change.by, words: sayScoreChange(change) },
    when: sayTime(change.at, now, zone),
    reason: teacher ? change.reason : "",
  }));

/** The same for the student: of rounds whose score they are told now; of others nothing is said of changes either. */
export function toldScoreChanges(
  facts: readonly ScoreFact[],
  handBacks: readonly HandBackRow[],
  now: Date,
  zone: string,
): ScoreChangeView[] {
  const told = facts.filter(({ round }) =>
    handBacks.some((back) => back.round === round && shownScore(back.content) !== null),
  );
  return scoreChangesView(told, { now, zone, teacher: false });
}
