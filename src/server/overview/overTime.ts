import type { Fragment } from "postgres";
import { finalScore } from "@/core/rounds/roundsRule";
import { weeksOver, type CoursePiece } from "@/core/figures/course";
import { dayOf } from "@/core/time/zone";
import { sayDay, sayTime } from "@/core/time/words";
import type { AgainAndAgain, OverTime, SectionOverTime } from "@/core/views/studentViews";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { moonOf, requestsOf } from "../life/standings";
import { hiddenNow } from "../names/names";
import { linesWhere, type Line } from "./sheetLines";

/** Lines as charts over a term take them: scores that came back, as they count over the rounds. */
export function courseOf(lines: readonly Line[], { now, who }: ReadCall): CoursePiece[] {
  return lines.map((line) => {
    const { late, missing } = moonOf(line, now);
    const { finalScore: final, winBackPercent, pointsPossible: possible } = line;
    const points = finalScore(line.finals, { final, winBackPercent });
    return {
      ...{ title: line.title, on: dayOf(line.due, who.zone), category: line.category ?? "" },
      earned: points !== null && possible !== null ? { points, possible } : null,
      ...{ late, missing, settled: requestsOf(line).settled },
      asked: (line.handBacks ?? []).reduce((n, back) => n + back.requests.length, 0),
    };
  });
}

/** What was asked, and what became of it, over all of these pieces that came back. */
export function overTime(lines: readonly Line[]): OverTime {
  const sum = { asked: 0, settled: 0, open: 0, again: 0, back: 0, rounds: 0 };
  for (const line of lines) {
    const handBacks = line.handBacks ?? [];
    const requests = requestsOf(line);
    sum.asked += handBacks.reduce((n, back) => n + back.requests.length, 0);
    sum.settled += requests.settled;
    sum.open += requests.open;
    sum.again += handBacks
      .flatMap((back) => back.content.rulings)
      .filter(({ ruling }) => ruling === "again").length;
    if (handBacks.at(-1)?.outcome !== "final") continue;
    sum.back += 1;
    sum.rounds += line.round;
  }
  const { back, rounds, ...counts } = sum;
  return { ...counts, back, rounds: back === 0 ? null : (rounds / back).toFixed(1) };
}

/**
 * Comments of the bank that came back on more than one of some pieces, and whether they stopped coming: on how many
 * pieces that came back later they are not.
 *
 * @param fits which pieces; `piece` and `hand_out` are beside it
 */
export async function againAndAgain(
  { db, who, now }: ReadCall,
  fits: Fragment,
): Promise<AgainAndAgain[]> {
  const rows = await db<{ text: string; pieces: number; lastAt: Date; since: number }[]>`
    with given as (
      select mark.comment_id, piece.id as piece_id, max(mark.created_at) as at
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join mark on mark.piece_id = piece.id and mark.deleted_at is null and mark.comment_id is not null
      where ${fits} and piece.removed_at is null
        and exists (select from hand_back where hand_back.piece_id = piece.id and hand_back.round_number = mark.round_number)
        and not ${hiddenNow(db, db`piece.id`)}
      group by mark.comment_id, piece.id
    )
    select comment.text, count(*)::int as pieces, max(given.at) as last_at,
      (
        select count(distinct later.piece_id)::int
        from given later
        where later.at > max(given.at)
      ) as since
    from given
    join comment on comment.id = given.comment_id
    group by comment.id
    having count(*) > 1
    order by count(*) desc, max(given.at) desc
    limit 12`;
  return rows.map(({ lastAt, ...row }) => ({ ...row, last: sayTime(lastAt, now, who.zone) }));
}

/** A section over time: all of it, student by student, and what comes again and again. */
export async function sectionOverTime(call: ReadCall, sectionId: string): Promise<SectionOverTime> {
  const { db, who, now } = call;
  await requireOnSection(db, who, sectionId, "ledger.see");
  const [lines, comments] = await Promise.all([
    linesWhere(
      db,
      db`standing.section_id = ${sectionId} and standing.opens_at <= ${now} and standing.withdrawn_at is null`,
    ),
    againAndAgain(call, db`hand_out.section_id = ${sectionId}`),
  ]);
  const open = lines.filter((line) => !line.hidden);
  const students = [...new Set(open.map((line) => line.studentId))].map((studentId) => {
    const own = open.filter((line) => line.studentId === studentId);
    return { studentId, student: own[0]!.student, ...overTime(own) };
  });
  const today = dayOf(now, who.zone);
  const weeks = weeksOver(courseOf(open, call).filter(({ on }) => on <= today)).map((week) => ({
    ...week,
    week: sayDay(week.monday, today),
  }));
  return { all: overTime(open), students, comments, weeks };
}
