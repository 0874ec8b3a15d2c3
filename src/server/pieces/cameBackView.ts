import { sayAsked } from "@/core/rounds/asked";
import { shownScore } from "@/core/rounds/cameBack";
import { sayPick, type Picks, type Rubric } from "@/core/rubrics/rubric";
import { sayTime } from "@/core/time/words";
import type { CameBackView } from "@/core/views/views";
import type { HandBackRow } from "../life/queries";

/** What came back in one round, for those who read it. */
export function cameBackView(handBack: HandBackRow, now: Date, zone: string): CameBackView {
  const { content } = handBack;
  return {
    round: handBack.round,
    outcome: handBack.outcome,
    overall: content.overall,
    score: shownScore(content),
    deduction: content.deduction || null,
    rubric: content.rubric ? rubricLines(content.rubric, content.picks ?? {}) : null,
    by: handBack.by,
    when: sayTime(handBack.handedBackAt, now, zone),
    files: content.files ?? [],
    asked: {
      words: content.asked ? sayAsked(content.asked, handBack.round + 1) : [],
      parts: content.asked?.parts.map((part) => part.id) ?? [],
    },
    nextDue: handBack.nextDueAt && sayTime(handBack.nextDueAt, now, zone),
  };
}

function rubricLines(
  { name, content }: { name: string; content: Rubric },
  picks: Picks,
): CameBackView["rubric"] {
  const lines = content.criteria.flatMap((criterion) => {
    const pick = picks[criterion.id];
    const level = criterion.levels.find((l) => l.id === pick?.levelId);
    return pick && level
      ? [
          {
            criterion: criterion.name,
            level: sayPick(criterion, pick),
            descriptor: level.descriptor,
            points: pick.points,
          },
        ]
      : [];
  });
  return { name, lines, whole: content, picks };
}
